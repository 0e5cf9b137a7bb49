import type { Circuit, Diagnosis, Reading, Setup } from "@fox-lamp/language";
import { completeSheets } from "../src/circuit";
import { genericCode, genericCodes } from "../src/codes";
import { type DiagnosedJob, diagnoseJob, movesOf, planJob, proofOf, Session, whyNot } from "../src/diagnosis";
import { triageJob } from "../src/triage";
import { typedVolts as volts } from "./typed-volts";

const cache = new Session();
const scan = (circuit: string, red: string, value: number, setup: Setup = {}, unit?: string): Reading => ({
  circuit,
  meter: "scan",
  red,
  setup,
  value,
  ...(unit === undefined ? {} : { unit }),
});
const ohms = (circuit: string, red: string, black: string, value: number | "OL", truth?: Setup["truth"]): Reading => ({
  circuit,
  meter: "ohms",
  red,
  black,
  setup: { key: "off", open: ["sensor"], ...(truth === undefined ? {} : { truth }) },
  value,
});
// Sheets that say everything: what they leave out would be uncertain.
const diagnose = (job: DiagnosedJob): Diagnosis => diagnoseJob({ ...job, circuits: completeSheets(job.circuits) }, cache);
const odds = ({ units }: Diagnosis, unit: string): number => units.find((entry) => entry.unit === unit)?.probability ?? 0;

describe("hand-written jobs end at the unit a practitioner would name", () => {
  it("a piezo that passes its resistance test but does not ring while its twin does", () => {
    const circuits: Circuit[] = [
      { id: "knock1", family: "knock-1w" },
      { id: "knock2", family: "knock-1w" },
    ];
    const tap: Setup = { stimulus: { kind: "tap" } };
    const readings: Reading[] = [
      scan("knock1", "sig@module", 0, tap, "taps"),
      scan("knock2", "sig@module", 1, tap, "taps"),
      { circuit: "knock1", meter: "volts-ac", red: "sig@sensor", black: "bat-", setup: tap, value: 0.002 },
      { circuit: "knock2", meter: "volts-ac", red: "sig@sensor", black: "bat-", setup: tap, value: 0.05 },
      ohms("knock1", "sig@part", "engine", "OL"),
    ];
    const result = diagnose({ circuits, readings });
    expect(result.units[0]?.unit).toBe("knock1/sensor");
    expect(odds(result, "knock2/sensor")).toBeLessThan(0.01);
  });

  it("an unbiased piezo with no voltage on its wire is healthy", () => {
    const circuits: Circuit[] = [{ id: "knock", family: "knock-1w" }];
    const tap: Setup = { stimulus: { kind: "tap" } };
    const result = diagnose({
      circuits,
      readings: [
        volts("knock", "sig@sensor", 0.001),
        volts("knock", "sig@sensor", 0, { open: ["sensor"] }),
        scan("knock", "sig@module", 1, tap, "taps"),
        { circuit: "knock", meter: "volts-ac", red: "sig@sensor", black: "bat-", setup: tap, value: 0.045 },
      ],
    });
    expect(result.verdict.status).not.toBe("proven");
    expect(odds(result, "knock/sensor")).toBeLessThan(0.15);
    const healthy = 1 - result.units.reduce((sum, { probability }) => sum + probability, 0);
    expect(healthy).toBeGreaterThan(1.2 * odds(result, "knock/sensor"));
  });

  it("a hall signal at 0 V plugged and 5 V unplugged condemns the sensor, not the wire or the module", () => {
    const circuits: Circuit[] = [{ id: "cam", family: "hall-3w", with: { feedV: 12, pullupV: 5 } }];
    const crank: Setup = { key: "crank" };
    const result = diagnose({
      circuits,
      readings: [
        volts("cam", "sig@sensor", 0.12, crank),
        volts("cam", "sig@sensor", 4.98, { open: ["sensor"] }),
        volts("cam", "feed@sensor", 12.3, {}, "gnd@sensor"),
        volts("cam", "gnd@sensor", 0.01),
        volts("cam", "sig@sensor", 0.12, { stimulus: { kind: "steel" }, truth: { level: "high" } }),
      ],
    });
    expect(result.units[0]?.unit).toBe("cam/sensor");
    expect(odds(result, "cam/sensor")).toBeGreaterThan(0.9);
    expect(odds(result, "cam/wire:sig")).toBeLessThan(0.05);
  });

  it("a broken signal wire with the pull-up present at the module only", () => {
    const circuits: Circuit[] = [{ id: "ect", family: "thermistor-2w" }];
    const result = diagnose({
      circuits,
      readings: [scan("ect", "sig@module", 4.99), volts("ect", "sig@module", 4.98), volts("ect", "sig@sensor", 0.002), volts("ect", "gnd@sensor", 0.004)],
    });
    expect(result.units[0]?.unit).toBe("ect/wire:sig");
    expect(odds(result, "ect/wire:sig")).toBeGreaterThan(0.9);
  });

  it("coolant reading cold with a good sensor and clean ground is resistance in the signal's path", () => {
    const circuits: Circuit[] = [{ id: "ect", family: "thermistor-2w" }];
    const truth = { temperature: 84 };
    const result = diagnose({
      circuits,
      readings: [
        scan("ect", "sig@module", 12, { truth }, "degC"),
        ohms("ect", "sig@part", "gnd@part", 279, truth),
        volts("ect", "gnd@sensor", 0.004, { truth }),
      ],
    });
    const path = ["ect/wire:sig", "ect/contact:sig@sensor", "ect/contact:sig@module", "ect/contact:gnd@sensor"].reduce(
      (sum, unit) => sum + odds(result, unit),
      0,
    );
    expect(path).toBeGreaterThan(0.9);
    expect(odds(result, "ect/sensor")).toBeLessThan(0.02);
  });

  const bus: Circuit[] = [
    { id: "busA", family: "reference-bus" },
    { id: "map", family: "pressure-3w", shares: { ref: "busA", join: "S1" } },
    { id: "tps", family: "potentiometer-3w", shares: { ref: "busA", join: "S1" } },
  ];
  const dragged = [volts("map", "ref@sensor", 0.06), volts("tps", "ref@sensor", 0.06)];

  it("a reference that returns when one branch's sensor is unplugged condemns that sensor", () => {
    const result = diagnose({
      circuits: bus,
      readings: [...dragged, volts("map", "ref@sensor", 4.99, { open: ["tps:sensor"] }), volts("map", "ref@sensor", 0.06, { open: ["map:sensor"] })],
    });
    expect(result.units[0]?.unit).toBe("tps/sensor");
    expect(odds(result, "tps/sensor")).toBeGreaterThan(0.8);
  });

  it("a reference that does not, with one branch's wire to ground, leaves the wires of the bus", () => {
    const all = { open: ["map:sensor", "tps:sensor"] };
    const result = diagnose({ circuits: bus, readings: [...dragged, volts("map", "ref@sensor", 0.06, all), volts("tps", "ref@sensor", 0.0, all)] });
    const wires = ["busA/wire:ref", "map/wire:ref", "tps/wire:ref"].reduce((sum, unit) => sum + odds(result, unit), 0);
    expect(wires).toBeGreaterThan(0.6);
    expect(odds(result, "map/sensor") + odds(result, "tps/sensor")).toBeLessThan(0.05);
  });

  it("a refrigerant sensor at zero: empty system or dead sensor, by an independent gauge", () => {
    const circuits: Circuit[] = [
      {
        id: "acp",
        family: "pressure-3w",
        with: {
          transfer: [
            [0, 0.5],
            [3000, 4.5],
          ],
        },
      },
    ];
    const wires = [volts("acp", "ref@sensor", 5, {}, "gnd@sensor"), volts("acp", "gnd@sensor", 0.005), volts("acp", "sig@sensor", 0.5)];
    const zero = scan("acp", "sig@module", 0, {}, "kPa");
    const gauge = (value: number): Reading => ({ circuit: "acp", meter: "gauge", red: "part", unit: "kPa", value });
    const empty = diagnose({ circuits, readings: [zero, ...wires, gauge(0)] });
    const full = diagnose({ circuits, readings: [zero, ...wires, gauge(900)] });
    expect(empty.units[0]?.unit).toBe("acp/outside");
    expect(odds(empty, "acp/sensor")).toBeLessThan(0.15);
    expect(full.units[0]?.unit).toBe("acp/sensor");
    expect(odds(full, "acp/sensor")).toBeGreaterThan(0.5);
  });

  it.each([
    ["tens of kilo-ohms", 42_000],
    ["megohms", 3.1e6],
    ["OL", "OL" as const],
  ])("a solenoid coil at %s is open", (_name, value) => {
    const circuits: Circuit[] = [{ id: "purge", family: "solenoid-2w" }];
    const result = diagnose({
      circuits,
      readings: [
        ohms("purge", "feed@part", "ctl@part", value),
        volts("purge", "feed@sensor", 12.4),
        { circuit: "purge", meter: "listen", red: "part", setup: { stimulus: { kind: "command" } }, value: "no-click" },
      ],
    });
    expect(result.units[0]?.unit).toBe("purge/coil");
    expect(odds(result, "purge/coil")).toBeGreaterThan(0.8);
  });

  it("two hypotheses stay honestly open, with what would separate them", () => {
    const circuits: Circuit[] = [{ id: "ect", family: "thermistor-2w" }];
    const result = diagnose({
      circuits,
      bench: ["meter"],
      readings: [
        volts("ect", "sig@module", 0.011),
        volts("ect", "sig@module", 0.03, { open: ["sensor"] }),
        volts("ect", "sig@sensor", 0.011),
        volts("ect", "gnd@sensor", 0.01),
      ],
    });
    expect(result.verdict.status).not.toBe("nothing-found");
    const modules = ["ect/module:pull", "ect/contact:sig@module"];
    expect(modules.reduce((sum, unit) => sum + odds(result, unit), 0)).toBeGreaterThan(0.4);
    for (const unit of modules) expect(odds(result, unit)).toBeLessThan(0.95);
  });
});

describe("two faults at once", () => {
  it("names a unit that is really broken and says that another one is, too", () => {
    // The signal wire is open and the ground contact corroded: no single fault explains both readings.
    const circuits: Circuit[] = [{ id: "ect", family: "thermistor-2w" }];
    const truth = { temperature: 20 };
    const jumper: Setup = { open: ["sensor"], add: [{ kind: "jumper", from: "sig@sensor", to: "gnd@sensor" }] };
    const readings: Reading[] = [
      scan("ect", "sig@module", 4.98, { truth }),
      ohms("ect", "sig@part", "gnd@part", "OL", truth),
      ohms("ect", "sig@part", "gnd@part", "OL", truth),
      scan("ect", "sig@module", 4.98, jumper),
      scan("ect", "sig@module", 4.98, jumper),
      volts("ect", "sig@sensor", 0.003, { open: ["sensor"] }),
      volts("ect", "sig@sensor", 0.002, { open: ["sensor"] }),
    ];
    const { verdict, units } = diagnose({ circuits, readings });
    expect(odds({ units } as Diagnosis, "ect/sensor")).toBeGreaterThan(0.75);
    expect(verdict.also?.unit.startsWith("ect/")).toBe(true);
  });
});

describe("codes as evidence", () => {
  it("codes said not to be there speak against what would have set them; cleared ones say nothing", () => {
    const ect: Circuit = { id: "ect", family: "thermistor-2w", title: "Coolant temperature", codes: { low: "P0117", high: "P0118" } };
    const odds = (facts: DiagnosedJob["facts"]): number =>
      diagnose({ circuits: [ect], readings: [], ...(facts === undefined ? {} : { facts }) }).suspects.find(({ fault }) => fault === "ect/wire:sig/open")
        ?.probability ?? 0;
    const unsaid = odds(undefined);
    // An open signal wire reads far too cold in every key cycle: its code would be there.
    expect(odds({ codes: "none" })).toBeLessThan(0.3 * unsaid);
    expect(odds({ codes: "cleared-before" })).toBeCloseTo(unsaid, 6);
    // One stored code is evidence; what was cleared beside it is not known to be absent.
    const stored = { circuits: [ect], readings: [], codes: [{ code: "P0118", status: "current" }] };
    expect(diagnose({ ...stored, facts: { codes: "cleared-before" } }).units[0]?.unit).toBe(diagnose(stored).units[0]?.unit);
  });
  const ect: Circuit = { id: "ect", family: "thermistor-2w", title: "Coolant temperature" };
  it("a high code on a pulled-up signal speaks of opens, a low one of shorts", () => {
    const high = diagnose({ circuits: [ect], codes: [{ code: "P0118", status: "current" }] });
    const low = diagnose({ circuits: [ect], codes: [{ code: "P0117", status: "current" }] });
    const share = (result: Diagnosis, kinds: readonly string[]): number =>
      result.suspects.filter(({ fault }) => kinds.some((kind) => fault.endsWith(`/${kind}`))).reduce((sum, { probability }) => sum + probability, 0);
    expect(share(high, ["open"])).toBeGreaterThan(0.5);
    expect(share(high, ["short", "short-ground"])).toBeLessThan(0.02);
    expect(share(low, ["short", "short-ground", "short-to:gnd"])).toBeGreaterThan(0.3);
    expect(share(low, ["open"])).toBeLessThan(0.15);
  });
  it("a code never proves anything by itself, and an unknown code moves nothing", () => {
    const plain = diagnose({ circuits: [ect] });
    const unknown = diagnose({ circuits: [ect], codes: [{ code: "X9999" }] });
    expect(diagnose({ circuits: [ect], codes: [{ code: "P0118", status: "current" }] }).verdict.status).toBe("narrowing");
    // That a code of this circuit could have been set and was not says a little; the unknown one itself says nothing.
    for (const { unit, probability } of plain.units) expect(Math.abs(odds(unknown, unit) - probability)).toBeLessThan(0.25);
  });
  it("history weighs less than a current code", () => {
    const open = (status: string): number => odds(diagnose({ circuits: [ect], codes: [{ code: "P0118", status }] }), "ect/sensor");
    const sum = (status: string): number =>
      diagnose({ circuits: [ect], codes: [{ code: "P0118", status }] }).units.reduce((total, { probability }) => total + probability, 0);
    expect(open("current")).toBeGreaterThan(0);
    expect(sum("current")).toBeGreaterThan(sum("history"));
  });
});

describe("triage", () => {
  const circuits: Circuit[] = [
    { id: "busA", family: "reference-bus" },
    { id: "map", family: "pressure-3w", shares: { ref: "busA", join: "S1" } },
    { id: "tps", family: "potentiometer-3w", shares: { ref: "busA", join: "S1" } },
    { id: "cam", family: "hall-3w" },
  ];
  const codes = [
    { code: "P0107", status: "current" },
    { code: "P0122", status: "current" },
    { code: "P0340", status: "history" },
    { code: "P0016" },
    { code: "B2222" },
  ];
  const triage = triageJob({ circuits, codes }, cache);
  it("one fault could explain the codes of one reference", () => {
    const [group] = triage.groups;
    expect(group?.codes).toEqual(["P0107", "P0122"]);
    expect(group?.shared[0]).toContain("the reference of busA (joined at S1)");
    expect(group?.probability).toBeGreaterThan(0.65);
    expect(group?.sentence).toContain("One fault could explain these two codes");
    expect(group?.causes.map(({ unit }) => unit)).toContain("busA/wire:ref");
  });
  it("marks consequences, keeps unknown codes, and says what to prove first", () => {
    expect(triage.codes.find(({ code }) => code === "P0016")?.followsFrom).toEqual(["P0340"]);
    expect(triage.codes.find(({ code }) => code === "B2222")?.title).toBeNull();
    expect(["busA", "map", "tps"]).toContain(triage.order[0]?.circuit);
    expect(triage.order.find(({ circuit }) => circuit === "cam")?.why).toContain("P0016 can be a consequence of P0340");
    expect(triage.looks.length).toBeGreaterThan(1);
  });
  it("sorts the codes by what they are beside what explains most", () => {
    const roles = Object.fromEntries(triage.codes.map(({ code, role }) => [code, role]));
    // The likeliest cause is the reference they share: neither code is of the cause's own circuit.
    expect(roles).toMatchObject({ P0107: "same-line", P0122: "same-line", P0340: "apart", P0016: "consequence", B2222: "apart" });
  });
  it("draws what is shared as a trunk, and what hangs on it as branches", () => {
    const tree = triage.tree;
    expect(tree?.branches.map(({ circuit }) => circuit).sort()).toEqual(["map", "tps"]);
    const odds = (tree?.trunk?.probability ?? 0) + (tree?.branches ?? []).reduce((sum, { probability }) => sum + probability, 0);
    expect(odds).toBeCloseTo(1, 6);
    expect(tree?.branches.find(({ circuit }) => circuit === "map")?.codes).toEqual(["P0107"]);
    for (const { minutes } of tree?.branches ?? []) expect(minutes).toBeGreaterThan(0);
  });
  it("says where each look is taken, in the place's own name", () => {
    expect(triage.lookAt.map(({ question }) => question)).toEqual(triage.looks);
    for (const { circuit, at } of triage.lookAt) {
      expect(circuits.map(({ id }) => id)).toContain(circuit);
      expect(["sensor", "loom"]).toContain(at);
    }
  });
  it("the table of generic codes is whole: every code once, each with a title", () => {
    const names = genericCodes().map(({ code }) => code);
    expect(new Set(names).size).toBe(names.length);
    expect(names.length).toBeGreaterThan(120);
    expect(genericCode(" p0118 ")).toMatchObject({ subject: "coolant", kind: "high" });
    expect(genericCode("P9999")).toBeNull();
  });
});

describe("explanation", () => {
  const circuits: Circuit[] = [{ id: "ect", family: "thermistor-2w" }];
  const truth = { temperature: 20 };
  const job: DiagnosedJob = {
    circuits,
    readings: [scan("ect", "sig@module", 4.99, { truth }), volts("ect", "sig@sensor", 4.98, { truth }), ohms("ect", "sig@part", "gnd@part", 2720, truth)],
  };
  it("every reading is told in one sentence with before, after, predicted and read", () => {
    const moves = movesOf(job, cache);
    expect(moves).toHaveLength(3);
    for (const { sentence, before, after } of moves) {
      expect(sentence).toMatch(/(rose|fell) from .* to .*: (it would read .* here, )?you read/u);
      expect(before).not.toBe(after);
    }
    expect(moves[2]?.unit).toBe("ect/sensor");
  });
  it("says why not the sensor", () => {
    const answer = whyNot(job, "ect/sensor", cache);
    expect(answer.by[0]).toBe("r3");
    expect(answer.sentence).toContain("2.72 kΩ");
    expect(whyNot({ circuits, readings: [] }, "ect/sensor", cache).sentence).toContain("Nothing measured so far");
  });
  it("the proof lists what was read, its window, and what that clears", () => {
    const proof = proofOf(job, cache);
    expect(proof.readings).toHaveLength(3);
    expect(proof.readings[0]?.window).not.toBe("");
    expect(proof.cleared.some(({ unit }) => unit === "ect/module:pull")).toBe(true);
    expect(proof.lines.join(" ")).toContain("is cleared by");
  });
  it("plans three steps ahead, likelier branches first, never the same test twice", () => {
    const plan = planJob({ circuits, readings: [] }, cache);
    expect(plan).not.toBeNull();
    const walk = (step: NonNullable<typeof plan>, done: string[]): void => {
      expect(done).not.toContain(step.test);
      expect(step.branches.reduce((sum, { probability }) => sum + probability, 0)).toBeLessThanOrEqual(1 + 1e-9);
      expect(done.length).toBeLessThan(3);
      for (const { next } of step.branches) if (next !== null) walk(next, [...done, step.test]);
    };
    walk(plan as NonNullable<typeof plan>, []);
    expect(plan?.branches.some(({ next }) => next !== null)).toBe(true);
  });
  it("says what replacing now would risk, in minutes and money", () => {
    const { stake } = diagnose({ circuits, readings: [], policy: { moneyPerHour: 60 } });
    expect(stake?.wrong).toBeGreaterThan(0.4);
    expect(stake?.lossMoney).toBeCloseTo(stake?.lossMinutes ?? 0, 1);
    expect(stake?.sentence).toMatch(
      /^(?:Replace|Repair) the .* now: wrong \d times? in \d+, on average about \d+ min and \d+ lost\. The next test takes about \d+ min\.$/u,
    );
    const named = diagnose({ circuits, readings: [], policy: { moneyPerHour: 60, currency: "EUR" } }).stake;
    expect(named?.sentence).toMatch(/ and \d+ EUR lost\./u);
    expect(diagnose({ circuits, readings: [] }).stake?.sentence).toMatch(/about \d+ min lost\./u);
  });
});

describe("readings that say the same", () => {
  it("of one measurement taken two hundred times only a few weigh, and the verdict stands where it stood", () => {
    const circuits = [{ id: "ect", family: "thermistor-2w" }];
    const taken = (count: number) =>
      diagnoseJob(
        {
          circuits,
          readings: Array.from({ length: count }, (_, index) => ({
            id: `r${index + 1}`,
            circuit: "ect",
            meter: "volts-dc" as const,
            red: "sig@sensor",
            black: "bat-",
            value: 2.3 + 0.01 * Math.sin(index),
          })),
        },
        new Session(),
      );
    const [few, many] = [taken(6), taken(200)];
    expect(many.verdict.status).toBe(few.verdict.status);
    for (const { unit, probability } of few.units.slice(0, 5)) {
      expect(many.units.find((one) => one.unit === unit)?.probability).toBeCloseTo(probability, 1);
    }
  });

  it("a pressure that the gauge confirms does not accuse the branch it was measured on", () => {
    const branch = (id: string, family: string) => ({ id, family, shares: { ref: "bus", join: "S1" } });
    const circuits = [
      { id: "bus", family: "reference-bus" },
      branch("map", "pressure-3w"),
      branch("tps", "potentiometer-3w"),
      branch("egr", "potentiometer-3w"),
    ];
    const readings = [
      { id: "r1", circuit: "map", meter: "volts-dc" as const, red: "ref@sensor", black: "bat-", setup: { open: ["sensor"] }, value: 0.247 },
      { id: "r2", circuit: "map", meter: "volts-dc" as const, red: "sig@sensor", black: "bat-", value: 0.2004 },
      { id: "r3", circuit: "map", meter: "gauge" as const, red: "part", value: 100.3 },
    ];
    const { units } = diagnoseJob({ circuits, readings }, new Session());
    const odds = (unit: string): number => units.find((one) => one.unit === unit)?.probability ?? 0;
    expect(odds("tps/wire:ref")).toBeGreaterThan(0.05);
    expect(odds("map/wire:ref") / odds("tps/wire:ref")).toBeLessThan(1.3);
    expect(odds("map/wire:ref") / odds("tps/wire:ref")).toBeGreaterThan(0.75);
  });
});
