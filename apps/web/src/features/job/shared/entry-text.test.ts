import { ENTRY_KINDS, type JobDetail, newEntrySchema } from "@fox-lamp/language";
import { aboutText, entryText, printed, taskText } from "./entry-text";

const READING = { id: "r1", circuit: "ect", meter: "volts-dc", red: "sig@sensor", black: "bat-", setup: {}, value: 4.98 };
const RECORDING = "0192a000-0000-7000-8000-000000000001";

/** One entry of every kind, and words its line must hold. */
const EXAMPLES: Readonly<Record<string, readonly [body: unknown, holds: readonly string[]]>> = {
  complaint: [{ text: "Runs cold" }, ["Runs cold"]],
  confirmation: [{ seen: true }, []],
  battery: [{ restVolts: 12.6, crankingVolts: 10.4 }, ["12.6 V", "10.4 V"]],
  code: [{ code: "P0118", status: "pending" }, ["P0118", "pending"]],
  cleared: [{ codes: ["P0118", "P0117"] }, ["P0118, P0117"]],
  rescan: [{ codes: [{ code: "P0113" }] }, ["P0113"]],
  recording: [{ recording: RECORDING, title: "Idle", seconds: 4, channels: ["ect.sig"], findings: ["Drops out twice"] }, ["Idle", "Drops out twice"]],
  capture: [
    { capture: RECORDING, title: "Crank", seconds: 1, channels: ["crank:sig"], findings: ["gnd lifts"], known: true },
    ["Crank, known good", "gnd lifts"],
  ],
  mark: [{ capture: RECORDING, channel: "sig", from: 0.1, to: 0.2, word: "rounded", text: "both edges" }, ["sig: rounded: both edges"]],
  circuit: [{ circuit: { id: "ect", family: "thermistor-2w", title: "Coolant" } }, ["Coolant"]],
  conditions: [{ temperature: 21, hints: ["rain", "mice"] }, ["21 °C", "rain, mice"]],
  reading: [{ reading: READING }, ["4.98 V"]],
  skip: [{ test: "x", reason: "Cannot reach" }, ["Cannot reach"]],
  decision: [{ decision: "proven", unit: "ect/wire:sig" }, ["Proven: Signal wire"]],
  located: [{ unit: "ect/wire:sig", way: "look", place: "behind the battery tray", text: "chafed" }, ["behind the battery tray", "chafed"]],
  repair: [{ text: "Wire renewed" }, ["Wire renewed"]],
  task: [{ task: "Clean the ground", done: true, text: "bright metal" }, ["Clean the ground", "bright metal"]],
  verification: [{ text: "2.4 V again" }, ["2.4 V again"]],
  failed: [{ reading: RECORDING, failed: true }, ["repeated after the repair"]],
  stage: [{ stage: "bench" }, ["Bench"]],
  closing: [{ outcome: "repaired", text: "Runs warm" }, ["Runs warm"]],
  waiting: [{ for: "part", text: "on Thursday" }, ["on Thursday"]],
  promised: [{ at: "2026-03-03T16:00:00Z", text: "after lunch" }, ["after lunch", "Mar"]],
  assigned: [{ person: null, name: "Perrin Vale" }, ["Perrin Vale"]],
  photo: [{ photo: RECORDING, caption: "The chafed spot", width: 800, height: 600 }, ["The chafed spot"]],
  note: [{ text: "Customer waits" }, ["Customer waits"]],
  retraction: [{ entry: RECORDING }, []],
};

describe("a line of the record", () => {
  it.each(ENTRY_KINDS.map((kind) => [kind]))("says what an entry of kind %s says", (kind) => {
    const [body, holds] = EXAMPLES[kind] ?? [null, []];
    const entry = newEntrySchema.parse({ id: RECORDING, at: "2026-03-02T09:00:00Z", by: "Wren", kind, body });
    const line = entryText({ ...entry, seq: 1 } as JobDetail["entries"][number]);
    for (const words of holds) expect(line).toContain(words);
    expect(line).not.toMatch(/undefined|\[object|NaN/u);
    if (kind !== "retraction") expect(line.length).toBeGreaterThan(0);
  });

  it("names a circuit that was taken out, a rescan without codes, and a battery that was not cranked", () => {
    const line = (kind: string, body: unknown): string =>
      entryText({ ...newEntrySchema.parse({ id: RECORDING, at: "2026-03-02T09:00:00Z", by: "Wren", kind, body }), seq: 1 } as JobDetail["entries"][number]);
    expect(line("circuit", { remove: "map" })).toContain("map");
    expect(line("rescan", { codes: [] })).not.toBe("");
    expect(line("battery", { restVolts: 12.2 })).toBe("12.2 V");
  });

  it("prints values of a freeze frame as they are", () => {
    expect([printed("open"), printed(800), printed({ a: 1 })]).toEqual(["open", "800", '{"a":1}']);
  });
});

describe("what a task is about", () => {
  const circuits = [
    { id: "ect", title: "Coolant temperature" },
    { id: "map", title: "Manifold pressure" },
  ];
  it("names connectors, leads and units as people do", () => {
    expect(aboutText("plug-in", "ect:sensor, C1", circuits)).toBe("sensor of coolant temperature, C1");
    expect(aboutText("plug-in", "ect:sensor", circuits.slice(0, 1))).toBe("sensor");
    expect(aboutText("seal", "r3 sig@C1")).toMatch(/^r3, signal at C1$/iu);
    expect(taskText("plug-in ect:sensor, map:sensor", circuits)).toMatch(/\(sensor of coolant temperature, sensor of manifold pressure\)$/u);
    expect(taskText("keep-old")).toBe("Keep the old part until the verdict is proven");
    expect(taskText("something else")).toBe("something else");
  });
});
