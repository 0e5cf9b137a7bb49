import { type Circuit, type NewEntry, shopSettingsSchema } from "@fox-lamp/language";
import { circuitRules } from "./circuit-rules";
import { decide, type JobRules, type JobSoFar, plainRules, type Refusal } from "./decide";
import { problemOfRefusal } from "./refusal-words";

let made = 0;
function entry<K extends NewEntry["kind"]>(kind: K, body: Extract<NewEntry, { kind: K }>["body"]): NewEntry {
  made += 1;
  return { id: `0195b000-0000-7000-8000-${String(made).padStart(12, "0")}`, at: "2026-03-02T08:00:00Z", by: "Wren", kind, body } as NewEntry;
}

const RULES: JobRules = { ...circuitRules, settings: shopSettingsSchema.parse({}) };
const ect: Circuit = { id: "ect", family: "thermistor-2w", title: "Coolant temperature" };
const bus: Circuit = { id: "bus", family: "reference-bus" };
const map: Circuit = { id: "map", family: "pressure-3w", shares: { ref: "bus", join: "module" } };
const read = (circuit: string | undefined, red = "sig@sensor") =>
  entry("reading", { reading: { ...(circuit === undefined ? {} : { circuit }), meter: "volts-dc", red, black: "bat-", value: 4.9 } });
const job = (started: Circuit[], ...entries: NewEntry[]): JobSoFar => ({ started, entries: entries.map((one, seq) => ({ ...one, seq: seq + 1 })) });
const refused = (so: JobSoFar, ...entries: NewEntry[]): Refusal | null => {
  const decision = decide(so, entries, RULES);
  return decision.ok ? null : decision.refusal;
};
const verdict = entry("decision", { decision: "proven", unit: "ect/sensor", probability: 0.98, because: [] });

describe("readings", () => {
  it("belong to a circuit of the job, and a lead that exists", () => {
    expect(refused(job([ect]), read("ect"))).toBeNull();
    expect(refused(job([ect]), read(undefined))).toBeNull();
    expect(refused(job([ect]), read("egr"))).toMatchObject({ code: "reading:misplaced", where: "entries[0]" });
    expect(refused(job([ect]), read("ect", "ref@sensor"))).toMatchObject({ code: "reading:misplaced" });
    expect(refused(job([ect]), read("ect"), read("ect", "sig@C9"))).toMatchObject({ code: "reading:misplaced", where: "entries[1]" });
  });
  it("without a sheet have no place at all", () => {
    const refusal = refused(job([]), read("ect"));
    expect(refusal?.code).toBe("reading:misplaced");
    expect(problemOfRefusal(refusal as Refusal).message).toBe("this job has no circuit yet; expected one on the sheet before a reading");
  });
  it("may come with the circuit they are on", () => {
    expect(refused(job([]), entry("circuit", { circuit: ect }), read("ect"))).toBeNull();
  });
  it("that correct another name one that is there", () => {
    const wrong = read("ect");
    const right = (of: string) =>
      entry("reading", { reading: { circuit: "ect", meter: "ohms", red: "sig@part", black: "gnd@part", value: 2300 }, replaces: of });
    expect(refused(job([ect], wrong), right(wrong.id))).toBeNull();
    expect(refused(job([ect]), right(wrong.id))).toEqual({ code: "entry:unknown", where: "entries[0]", entry: wrong.id });
  });
});

describe("a trainee", () => {
  const under = (practice: boolean, so: JobSoFar, ...entries: NewEntry[]): Refusal | null => {
    const decision = decide(so, entries, { ...RULES, acting: { role: "trainee", name: "Perrin", practice } });
    return decision.ok ? null : decision.refusal;
  };
  const closing = entry("closing", { outcome: "not-reproduced", plan: "watch it" });
  it("enters readings, and takes back only what is the own", () => {
    const others = read("ect");
    const own = { ...read("ect"), by: "Perrin" };
    const so = job([ect], others, own);
    expect(under(false, so, read("ect"))).toBeNull();
    expect(under(false, so, entry("retraction", { entry: own.id }))).toBeNull();
    const refusal = under(false, so, entry("retraction", { entry: others.id }));
    expect(refusal).toEqual({ code: "entry:others", where: "entries[0]", by: "Wren" });
    expect(problemOfRefusal(refusal as Refusal).message).toContain("Wren");
  });
  it("records a verdict and closes in practice alone", () => {
    for (const one of [verdict, closing]) {
      const refusal = under(false, job([ect]), one);
      expect(refusal).toEqual({ code: "role:trainee", where: "entries[0]", kind: one.kind });
      expect(problemOfRefusal(refusal as Refusal).message).toContain("real car");
      expect(under(true, job([ect]), one)?.code).not.toBe("role:trainee");
    }
    expect(refused(job([ect]), verdict)).toBeNull();
  });
});

describe("circuits", () => {
  const remove = (id: string) => entry("circuit", { remove: id });
  it("without readings are taken off the sheet; unknown ones are not", () => {
    expect(refused(job([ect, bus]), remove("ect"))).toBeNull();
    expect(refused(job([ect]), remove("egr"))).toMatchObject({ code: "circuit:unknown", circuit: "egr" });
  });
  it("with readings stay, and it is said which", () => {
    const refusal = refused(job([ect, bus], read("ect")), remove("ect"));
    expect(refusal).toMatchObject({ code: "circuit:read", circuit: "ect", readings: ["r1"] });
    expect(problemOfRefusal(refusal as Refusal)).toEqual({
      code: "circuit:read",
      where: "entries[0]",
      message: "Coolant temperature has readings (r1): take them back first, or leave it on the sheet",
    });
  });
  it("with a reading that names no circuit because there was one only stay too", () => {
    expect(refused(job([ect], read(undefined)), remove("ect"))).toMatchObject({ code: "circuit:read" });
  });
  it("go once their readings are taken back", () => {
    const reading = read("ect");
    expect(refused(job([ect, bus], reading), entry("retraction", { entry: reading.id }), remove("ect"))).toBeNull();
  });
  it("whose wire others leave from stay", () => {
    const refusal = refused(job([bus, map]), remove("bus"));
    expect(refusal).toMatchObject({ code: "circuit:joined", by: ["map"] });
    expect(refused(job([bus, map]), remove("map"), remove("bus"))).toBeNull();
  });
  it("are not edited so that a reading loses its lead", () => {
    const inline: Circuit = { ...ect, inline: ["C1"] };
    const refusal = refused(job([inline], read("ect", "sig@C1")), entry("circuit", { circuit: ect }));
    expect(refusal).toMatchObject({ code: "circuit:readings-lost", reading: "r1" });
    expect(refused(job([inline], read("ect")), entry("circuit", { circuit: ect }))).toBeNull();
  });
  it("may be tidied up in a job that has stray readings from before there were rules", () => {
    const strays = [read("egr"), read("ect", "ref@sensor")];
    const old = job([ect, bus], ...strays, read("ect"));
    for (const { id } of strays) expect(refused(old, entry("retraction", { entry: id }))).toBeNull();
    expect(refused(old, entry("circuit", { remove: "bus" }))).toBeNull();
    expect(refused(old, entry("circuit", { circuit: { id: "ect", family: "switch" } }))).toBeNull();
    expect(refused(old, entry("circuit", { circuit: { id: "ect", family: "vr-2w" } }))).toMatchObject({ code: "circuit:readings-lost", reading: "r3" });
  });
  it("that need a shared wire may stand on the sheet before it", () => {
    expect(refused(job([]), entry("circuit", { circuit: map }), read("map"))).toBeNull();
  });
});

describe("stages", () => {
  const stage = (to: Extract<NewEntry, { kind: "stage" }>["body"]["stage"]) => entry("stage", { stage: to });
  it("forward ask for what they work on", () => {
    expect(refused(job([]), stage("bench"))).toMatchObject({ code: "stage:too-early", needs: "circuits" });
    expect(refused(job([ect]), stage("bench"))).toBeNull();
    expect(refused(job([ect]), stage("repair"))).toMatchObject({ code: "stage:too-early", needs: "decision" });
    expect(refused(job([ect], verdict), stage("repair"))).toBeNull();
    expect(refused(job([ect], verdict), stage("closed"))).toMatchObject({ code: "stage:too-early", needs: "closing" });
  });
  it("back are always open, and a note whenever", () => {
    const far = job([ect], verdict, entry("stage", { stage: "check" }));
    expect(refused(far, stage("bench"), entry("note", { text: "again" }))).toBeNull();
  });
});

describe("closing", () => {
  const closing = (outcome: "repaired" | "elsewhere" | "not-reproduced" | "refused", more = {}) => entry("closing", { outcome, ...more });
  const complaint = entry("complaint", { text: "cold" });
  const repair = entry("repair", { text: "replaced", unit: "ect/sensor" });
  const tasks = ["compare-part", "seat", "torque", "contamination"].map((task) => entry("task", { task: `${task} ect/sensor`, done: true }));
  const check = (what: "drive" | "complaint", fits: boolean) => entry("verification", { text: what, check: what, fits });
  const whole = [complaint, entry("stage", { stage: "triage" }), verdict, repair, ...tasks, check("drive", true), check("complaint", true)];

  it("as repaired needs the repair and every check", () => {
    const refusal = refused(job([ect], complaint, verdict), closing("repaired"));
    expect(refusal).toMatchObject({ code: "closing:lacking", outcome: "repaired" });
    expect((refusal as Extract<Refusal, { code: "closing:lacking" }>).lacking).toEqual(expect.arrayContaining(["repaired", "driven", "gone"]));
    expect(problemOfRefusal(refusal as Refusal).message).toContain("it lacks");
    expect(refused(job([ect], ...whole), closing("repaired"), entry("stage", { stage: "closed" }))).toBeNull();
  });
  it("with a check whose last word is that it fails is refused, and open again once it passes", () => {
    const failing = job([ect], ...whole, check("complaint", false));
    expect(refused(failing, closing("repaired"))).toMatchObject({ lacking: ["gone"] });
    expect(refused(failing, check("complaint", true), closing("repaired"))).toBeNull();
  });
  it("with the failed reading repeated and failing again is refused", () => {
    const reading = read("ect");
    const rests = entry("decision", { decision: "proven", unit: "ect/sensor", probability: 0.98, because: ["r1"] });
    const again = (fits: boolean) => entry("verification", { text: "again", check: "repeat", of: reading.id, fits });
    const so = (fits: boolean) => job([ect], reading, ...whole, rests, again(fits));
    expect(refused(so(false), closing("repaired"))).toMatchObject({ lacking: ["despite"] });
    const despite = entry("closing", { outcome: "repaired", despite: "The book's limit is for a cold engine." });
    expect(refused(so(false), despite)).toBeNull();
    expect(refused(so(true), closing("repaired"))).toBeNull();
  });
  it("otherwise needs its words", () => {
    expect(refused(job([ect], complaint), closing("elsewhere"))).toMatchObject({ lacking: ["text"] });
    expect(refused(job([ect], complaint), closing("not-reproduced"))).toMatchObject({ lacking: ["plan"] });
    expect(refused(job([ect], complaint), closing("refused", { text: "too dear" }))).toBeNull();
  });
});

describe("entries", () => {
  it("the job has already are passed over, whatever the rules would say now", () => {
    const reading = read("ect");
    const remove = entry("circuit", { remove: "ect" });
    expect(decide(job([ect, bus], remove, reading), [remove], RULES).ok).toBe(true);
  });
  it("that name one nobody made are refused", () => {
    expect(refused(job([ect]), entry("retraction", { entry: "0195b000-0000-7000-8000-00000000ffff" }))).toMatchObject({ code: "entry:unknown" });
  });
  it("come back as they were sent, in their order", () => {
    const sent = [entry("note", { text: "one" }), entry("note", { text: "two" })];
    expect(decide(job([ect]), sent, RULES)).toEqual({ ok: true, entries: sent });
  });
});

describe("what a page asks before it sends", () => {
  it("knows circuits by name, and leaves leads to the server", () => {
    const plain = (circuits: Circuit[], one: NewEntry) => decide(job(circuits), [one], plainRules);
    expect(plain([ect], read("ect", "ref@sensor")).ok).toBe(true);
    const decision = plain([ect], read("egr"));
    expect(decision.ok ? null : problemOfRefusal(decision.refusal)).toEqual({
      code: "reading:misplaced",
      where: "entries[0].body.reading.circuit",
      message: 'no circuit is called "egr"; expected one of ect',
    });
  });
});

describe("every refusal", () => {
  const problem = { code: "x", where: "y", message: "z" };
  const refusals: Refusal[] = [
    { code: "circuit:unknown", where: "w", circuit: "a" },
    { code: "circuit:read", where: "w", circuit: "a", title: "A", readings: ["r1"] },
    { code: "circuit:joined", where: "w", circuit: "a", title: "A", by: ["b"] },
    { code: "circuit:readings-lost", where: "w", reading: "r1", problem },
    { code: "reading:misplaced", where: "w", problem },
    { code: "entry:unknown", where: "w", entry: "e" },
    { code: "stage:too-early", where: "w", stage: "bench", needs: "circuits" },
    { code: "closing:lacking", where: "w", outcome: "repaired", lacking: ["verdict", "gone"] },
  ];
  it.each(refusals.map((refusal) => [refusal.code, refusal] as const))("%s has one sentence, its code and its place", (code, refusal) => {
    const told = problemOfRefusal(refusal);
    expect(told.code).toBe(code);
    expect(told.where).not.toBe("");
    expect(told.message.length).toBeGreaterThan(0);
    expect(told.message).not.toContain("undefined");
  });
});
