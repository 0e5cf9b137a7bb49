import { type Entry, jobSchema, type NewEntry, parseOrThrow, shopSettingsSchema } from "@fox-lamp/language";
import type { Proof } from "../src/diagnosis";
import {
  circuitRules,
  circuitsOf,
  condemnedUnits,
  diagnosedPart,
  failedReadings,
  fileOfJob,
  foldJob,
  lackingFor,
  orderOfWork,
  takeApart,
  tasksOf,
  unitKind,
} from "../src/job";
import { customerReport, readingRows } from "../src/report";

let made = 0;
function entry<K extends NewEntry["kind"]>(kind: K, body: Extract<NewEntry, { kind: K }>["body"]): Entry {
  made += 1;
  const id = `0195a000-0000-7000-8000-${String(made).padStart(12, "0")}`;
  return { id, at: `2026-03-02T08:00:${String(made % 60).padStart(2, "0")}Z`, by: "Wren", kind, body, job: "j", seq: made } as Entry;
}

const SETTINGS = shopSettingsSchema.parse({});
const { cleanable } = circuitRules;
const ect = { id: "ect", family: "thermistor-2w", title: "Coolant temperature" };
const maf = { id: "maf", family: "maf-voltage", title: "Air flow" };
const NO_WORDS = { text: "", plan: "", despite: "", left: null };
const proven = (unit: string, because: string[] = []) => entry("decision", { decision: "proven", unit, probability: 0.98, because });

describe("a job's state", () => {
  it("folds circuits put on the sheet, changed and taken off", () => {
    const state = foldJob([entry("circuit", { circuit: maf }), entry("circuit", { circuit: { ...ect, title: "Warm" } }), entry("circuit", { remove: "maf" })]);
    expect(circuitsOf([ect], state)).toEqual([{ ...ect, title: "Warm" }]);
  });
  it("keeps the battery as first and as last measured, and lets it speak to every prediction", () => {
    const state = foldJob([entry("battery", { restVolts: 11.8, crankingVolts: 8.4 }), entry("battery", { restVolts: 12.6, charged: true })]);
    expect([state.batteryBefore?.restVolts, state.battery?.restVolts]).toEqual([11.8, 12.6]);
    const { readings } = diagnosedPart({ circuits: [ect], bench: null }, state);
    expect(readings).toEqual([expect.objectContaining({ id: "battery-rest", red: "bat+", black: "bat-", value: 12.6, setup: { key: "off" } })]);
  });
  it("takes the outside air from the shop's altitude only for sensors that see it", () => {
    const settings = shopSettingsSchema.parse({ altitudeMetres: 1500 });
    const state = foldJob([]);
    const outside = (given: typeof settings | null) => diagnosedPart({ circuits: [ect], bench: null }, state, given).outsideKPa;
    expect(outside(settings)).toBeCloseTo(84.6, 0);
    expect(outside(shopSettingsSchema.parse({ seaLevelKPa: 97.9 }))).toBeCloseTo(97.9, 1);
    expect(outside(SETTINGS)).toBeUndefined();
    expect(outside(null)).toBeUndefined();
  });
  it("remembers what a module stored before and after it was cleared", () => {
    const state = foldJob([entry("code", { code: "P0118" }), entry("cleared", { codes: ["P0118"] }), entry("rescan", { codes: [] })]);
    expect(state.codes.map(({ code }) => code)).toEqual(["P0118"]);
    expect(state.rescan?.codes).toEqual([]);
  });
});

describe("tasks and the order of work", () => {
  it("asks for what the condemned unit's repair takes", () => {
    const kinds = (unit: string) => tasksOf([ect, maf], foldJob([proven(unit)]), SETTINGS, cleanable).map(({ kind }) => kind);
    expect(kinds("ect/sensor")).toEqual(["compare-part", "seat", "torque", "contamination"]);
    expect(kinds("maf/sensor")[0]).toBe("clean-first");
    expect(kinds("ect/wire:sig")).toEqual(["count-wires", "route-wires"]);
    expect(kinds("ect/contact:sig@sensor")).toEqual(["contact"]);
    expect(kinds("ect/contacts:module")).toEqual(["module-pins", "compare-part"]);
    expect(kinds("ect/outside")).toEqual([]);
  });
  it("raises a task for every hole, for plugs left open, and for a part fitted before proof; an answer closes it", () => {
    const reading = {
      id: "r1",
      circuit: "ect",
      meter: "volts-dc" as const,
      red: "sig@C1",
      black: "bat-",
      value: 5,
      setup: { open: ["sensor"] },
      pierced: true,
    };
    const list = [
      entry("reading", { reading }),
      entry("decision", { decision: "override", unit: "ect/sensor", probability: 0.3 }),
      entry("stage", { stage: "repair" }),
    ];
    const tasks = tasksOf([ect], foldJob(list), SETTINGS, cleanable);
    expect(tasks.map(({ id }) => id)).toEqual(expect.arrayContaining(["seal r1 sig@C1", "plug-in ect:sensor", "keep-old"]));
    const answered = tasksOf([ect], foldJob([...list, entry("task", { task: "keep-old", done: true, text: "shelf 4" })]), SETTINGS, cleanable);
    expect(answered.find(({ id }) => id === "keep-old")).toMatchObject({ done: true, text: "shelf 4" });
  });
  it("lets a place that was found stand for the group it was found in", () => {
    const group = entry("decision", { decision: "proven", unit: "ect/wire:sig", probability: 0.97, group: ["ect/wire:sig", "ect/contact:sig@module"] });
    expect(condemnedUnits(foldJob([group]))).toEqual(["ect/wire:sig", "ect/contact:sig@module"]);
    expect(condemnedUnits(foldJob([group, entry("located", { unit: "ect/contact:sig@module", way: "found", place: "module" })]))).toEqual([
      "ect/contact:sig@module",
    ]);
  });
  it("closes as repaired only when nothing needed is open; other ends need their words", () => {
    const reading = entry("reading", { reading: { id: "r1", circuit: "ect", meter: "volts-dc", red: "sig@sensor", black: "bat-", value: 4.9 } });
    const list: Entry[] = [entry("complaint", { text: "cold" }), entry("code", { code: "P0118" }), reading, proven("ect/sensor", ["r1"])];
    const lacking = (entries: Entry[]) => lackingFor("repaired", orderOfWork([ect], foldJob(entries), SETTINGS, cleanable), NO_WORDS, []);
    expect(lacking(list)).toEqual(["repaired", "tasks", "repeated", "cleared", "driven", "rescanned", "gone"]);
    expect(failedReadings(foldJob(list)).map(({ reading: { id } }) => id)).toEqual(["r1"]);
    const tasks = tasksOf([ect], foldJob(list), SETTINGS, cleanable).map(({ id }) => entry("task", { task: id, done: true }));
    const done = [
      ...list,
      entry("repair", { text: "replaced", unit: "ect/sensor" }),
      ...tasks,
      entry("verification", { text: "again", check: "repeat", of: reading.id, fits: true }),
      entry("verification", { text: "drive", check: "drive", fits: true }),
      entry("verification", { text: "gone", check: "complaint", fits: true }),
      entry("cleared", { codes: ["P0118"] }),
      entry("rescan", { codes: [] }),
    ];
    expect(lacking(done)).toEqual([]);
    const steps = orderOfWork([ect], foldJob(list), SETTINGS, cleanable);
    expect(lackingFor("not-reproduced", steps, { ...NO_WORDS, plan: " " }, [])).toEqual(["plan"]);
    expect(lackingFor("refused", steps, { ...NO_WORDS, text: "no money" }, [])).toEqual([]);
    expect(lackingFor("elsewhere", steps, NO_WORDS, [])).toEqual(["text"]);
  });
  it.each([
    ["ect/sensor", "part"],
    ["a/heater", "part"],
    ["a/wire:sig", "wire"],
    ["a/contact:sig@C1", "contact"],
    ["a/connector:sensor", "contact"],
    ["a/contacts:module", "module"],
    ["a/module:pull", "module"],
    ["car/ground:engine", "ground"],
    ["car/battery", "battery"],
    ["a/outside", "outside"],
  ])("%s is a %s", (unit, kind) => expect(unitKind(unit)).toBe(kind));
});

describe("a job as a file", () => {
  const reading = entry("reading", { reading: { id: "r1", circuit: "ect", meter: "volts-dc", red: "sig@sensor", black: "bat-", value: 4.9 }, minutes: 2 });
  const list: Entry[] = [
    entry("complaint", { text: "cold", when: "mornings" }),
    entry("code", { code: "P0118", status: "current" }),
    reading,
    entry("reading", {
      reading: { id: "r1", circuit: "ect", meter: "volts-dc", red: "sig@sensor", black: "bat-", value: 4.98 },
      minutes: 2,
      replaces: reading.id,
    }),
    entry("circuit", { circuit: maf }),
    proven("ect/sensor", ["r1"]),
    entry("verification", { text: "again", check: "repeat", of: reading.id }),
    entry("photo", { photo: "0195a000-0000-7000-8000-0000000000ff", caption: "old", width: 2, height: 2 }),
  ];
  const header = { vehicle: { name: "Unit" }, bench: null, circuits: [ect], simulated: null };
  const photos = { "0195a000-0000-7000-8000-0000000000ff": { type: "image/png", base64: "AA==" } };
  let ids = 0;
  const maker = { id: () => `0195b000-0000-7000-8000-${String(++ids).padStart(12, "0")}`, at: () => "2026-03-03T00:00:00Z", by: "x" };

  it("comes back with every entry under a new id, what refers to them following", () => {
    const file = fileOfJob(header, list, { photos });
    const taken = takeApart(parseOrThrow(jobSchema, JSON.parse(JSON.stringify(file))), maker);
    expect(taken.circuits).toEqual([ect]);
    expect(taken.entries.map(({ kind }) => kind)).toEqual(list.map(({ kind }) => kind));
    expect(taken.entries.some(({ id }) => list.some((old) => old.id === id))).toBe(false);
    const before = foldJob(list);
    const after = foldJob(taken.entries);
    expect(after.readings.map(({ reading: { value }, was }) => [value, was])).toEqual(before.readings.map(({ reading: { value }, was }) => [value, was]));
    expect(taken.photos[after.photos[0]?.photo ?? ""]).toEqual(photos["0195a000-0000-7000-8000-0000000000ff"]);
    const again = takeApart(
      parseOrThrow(jobSchema, JSON.parse(JSON.stringify(fileOfJob({ ...header, circuits: taken.circuits }, taken.entries as Entry[])))),
      maker,
    );
    expect(again.entries.map(({ body, kind }) => [kind, JSON.stringify(body).replaceAll(/0195[0-9a-f-]+/gu, "#")])).toEqual(
      list.map(({ body, kind }) => [kind, JSON.stringify(body).replaceAll(/0195[0-9a-f-]+/gu, "#")]),
    );
  });
  it("can be read by whoever knows only the lists", () => {
    const file = fileOfJob(header, list);
    expect(file.circuits.map(({ id }) => id)).toEqual(["ect", "maf"]);
    expect(file.readings).toEqual([expect.objectContaining({ id: "r1", value: 4.98, minutes: 2, by: "Wren" })]);
    expect(file.codes?.[0]).toMatchObject({ code: "P0118" });
  });
  it("refuses an entry that cannot be, and says which", () => {
    expect(() => takeApart({ circuits: [ect], entries: [{ kind: "note" }] }, maker)).toThrow(/entries\[0\]/u);
  });
});

describe("the report", () => {
  const proof: Proof = {
    headline: "Proven",
    status: "proven",
    lines: [],
    readings: [
      { id: "r1", title: "raw", read: "4.98 V", window: "2.1 to 2.4 V" },
      { id: "r2", title: "raw", read: "5.00 V", window: "4.9 to 5.1 V" },
    ],
    cleared: [],
    open: [],
  };
  const told = new Map([
    ["r1", { title: "Signal at the sensor", outside: true }],
    ["r2", { title: "Reference at the sensor", outside: false }],
  ]);
  const measured = (id = "r1") => entry("reading", { reading: { id, circuit: "ect", meter: "volts-dc", red: "sig@sensor", value: 4.98 }, minutes: 2 });
  const part = { number: "W-7" };
  it("says in plain words what was wrong and how that is known", () => {
    const state = foldJob([
      measured(),
      entry("complaint", { text: "cold", previous: "sensor replaced in spring" }),
      proven("ect/wire:sig", ["r1"]),
      entry("repair", { text: "wire repaired", unit: "ect/wire:sig" }),
      entry("note", { text: "the loom is brittle near the exhaust" }),
      entry("note", { text: "tyre worn", customer: true }),
    ]);
    const report = customerReport([ect], state, proof, told);
    expect(report.told).toEqual(["cold", "Done to it before: sensor replaced in spring"]);
    expect(report.wrong).toEqual(["A wire to the coolant temperature sensor was damaged. The part itself stays in the vehicle."]);
    // No minutes are told that no clock has run, and nothing is said of replacing where nothing was replaced.
    expect(report.how).toEqual(["We measured 1 time.", "Signal at the sensor: 4.98 V, where a sound circuit shows 2.1 to 2.4 V."]);
    expect(report.done).toEqual(["wire repaired"]);
    expect(report.besides).toEqual(["tyre worn"]);
  });
  it("calls a part sound only where readings show it, and lets it stay only where it does", () => {
    const entries = [measured(), proven("ect/contact:sig@sensor", ["r1"])];
    const cleared = { ...proof, cleared: [{ unit: "ect/sensor", title: "Sensor", by: ["r2"], sentence: "" }] };
    expect(customerReport([ect], foldJob(entries), cleared, told).wrong[0]).toMatch(/The part itself was sound and stays in the vehicle\.$/u);
    const fitted = foldJob([...entries, entry("repair", { text: "sensor fitted too", unit: "ect/sensor", part })]);
    expect(customerReport([ect], fitted, cleared, told).wrong).toEqual(["A plug contact of the coolant temperature sensor did not connect properly."]);
  });
  it("rests on the readings the verdict rests on, not on whatever else lay outside: a worn twin is no proof", () => {
    const state = foldJob([measured("r1"), measured("r2"), proven("ect/sensor", ["r2"])]);
    const { how } = customerReport([ect], state, proof, told);
    expect(how).toEqual(["We measured 2 times.", "Reference at the sensor: 5.00 V, as it should be."]);
  });
  it("names all faults that were proven, and says where measuring cannot tell two apart", () => {
    const both = foldJob([
      measured(),
      proven("ect/wire:sig", ["r1"]),
      entry("decision", { decision: "proven", unit: "maf/contact:sig@sensor", probability: 0.97, group: ["maf/contact:sig@sensor", "maf/wire:sig"] }),
    ]);
    const { wrong } = customerReport([ect, maf], both, proof, told);
    expect(wrong).toHaveLength(2);
    expect(wrong[1]).toMatch(/^One of these, which measuring cannot tell apart: A plug contact of the air flow sensor .* Or: A wire to the air flow sensor/u);
    // What was found at the car afterwards is what it was.
    const found = foldJob([proven("ect/wire:sig"), entry("located", { unit: "ect/contact:sig@sensor", way: "found", place: "contact" })]);
    expect(customerReport([ect], found, null, new Map()).wrong[0]).toMatch(/^A plug contact/u);
  });
  it("says what was replaced before it was proven, once somebody fitted it", () => {
    const first = measured();
    const override = entry("decision", { decision: "override", unit: "ect/sensor", probability: 0.4 });
    expect(customerReport([ect], foldJob([override]), null, new Map()).wrong).toEqual([]);
    expect(customerReport([ect], foldJob([override]), null, new Map()).how).toEqual([]);
    const fitted = entry("repair", { text: "sensor fitted", unit: "ect/sensor", part });
    const { how } = customerReport([ect], foldJob([override, fitted, measured()]), null, told);
    expect(how).toEqual([
      "We measured 1 time, after something had been replaced.",
      "The coolant temperature sensor was replaced before it was proven to be the cause.",
    ]);
    expect(customerReport([ect], foldJob([first, override, fitted]), null, told).how[0]).toBe("We measured 1 time before anything was replaced.");
    expect(customerReport([ect], foldJob([first, override, fitted, measured("r2")]), null, told).how[0]).toBe(
      "We measured 2 times, 1 of them before anything was replaced.",
    );
  });
  it("advises on a weak battery with its figures, and says nothing of a good one", () => {
    const advised = (rest: number, cranking: number) =>
      customerReport([ect], foldJob([entry("battery", { restVolts: rest, crankingVolts: cranking })]), null, new Map()).advised;
    expect(advised(12.6, 10.8)).toEqual([]);
    expect(advised(11.7, 8.1)).toEqual(["The battery is weak and should be charged and tested: 11.7 V at rest, 8.1 V while cranking."]);
    const charged = foldJob([entry("battery", { restVolts: 11.7 }), entry("battery", { restVolts: 12.6, charged: true })]);
    expect(customerReport([ect], charged, null, new Map())).toMatchObject({ done: ["The battery (11.7 V at rest) was charged or replaced."], advised: [] });
  });
  it("does not call everything sound where a reading lay outside", () => {
    const ended = (outside: boolean) =>
      customerReport(
        [ect],
        foldJob([measured(), entry("closing", { outcome: "not-reproduced" }), entry("stage", { stage: "closed" })]),
        null,
        new Map([["r1", { title: "Signal", outside }]]),
      ).wrong;
    expect(ended(true)).toEqual(["The trouble did not show itself here."]);
    expect(ended(false)).toEqual(["The trouble did not show itself here.", "Everything we measured was as it should be."]);
  });
  it("says how a job ended that was not repaired here", () => {
    const ended = (outcome: "elsewhere" | "refused" | "not-reproduced") =>
      customerReport([ect], foldJob([entry("closing", { outcome, text: "so", plan: "then" }), entry("stage", { stage: "closed" })]), null, new Map());
    expect(ended("not-reproduced").wrong[0]).toContain("did not show itself");
    expect(ended("refused").wrong).toEqual(["The repair was not wanted.", "so"]);
    expect(ended("elsewhere").plan).toBe("then");
  });
  it("tables every reading with its corrections", () => {
    const [names, row] = readingRows(
      foldJob([entry("reading", { reading: { id: "r7", circuit: "ect", meter: "volts-dc", red: "sig@sensor", value: { min: 1, max: 2 } }, minutes: 3 })]),
    );
    expect(names).toContain("corrected from");
    expect(row).toEqual(expect.arrayContaining(["r7", "ect", "volts-dc", 1, 2, 3]));
  });
});
