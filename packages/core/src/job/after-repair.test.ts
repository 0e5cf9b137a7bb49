import type { Entry, NewEntry } from "@fox-lamp/language";
import { canRepeat, codesAfter, failedReadings, stillOutside } from "./after-repair";
import { foldJob } from "./fold";

let made = 0;
function entry<K extends NewEntry["kind"]>(kind: K, body: Extract<NewEntry, { kind: K }>["body"]): Entry {
  made += 1;
  return {
    id: `0195a000-0000-7000-8000-${String(made).padStart(12, "0")}`,
    at: `2026-03-02T08:${String(made).padStart(2, "0")}:00Z`,
    by: "Wren",
    kind,
    body,
    job: "j",
    seq: made,
  } as Entry;
}
const volts = (id: string, value: number) => entry("reading", { reading: { id, circuit: "ect", meter: "volts-dc", red: "sig@sensor", black: "bat-", value } });
const ids = (entries: readonly Entry[]): string[] => failedReadings(foldJob(entries)).map(({ reading }) => reading.id);
beforeEach(() => {
  made = 0;
});

describe("the tests to repeat", () => {
  it("are those that prove the verdict and were outside, not every value outside a window", () => {
    const proof = entry("decision", { decision: "proven", unit: "ect/sensor", because: ["r1", "r2"], failed: ["r2", "r3"] });
    expect(ids([volts("r1", 5), volts("r2", 4.9), volts("r3", 0.3), proof])).toEqual(["r2"]);
  });
  it("are those the verdict rests on where none of them was outside", () => {
    expect(ids([volts("r1", 5), volts("r2", 4.9), entry("decision", { decision: "proven", unit: "ect/sensor", because: ["r1"], failed: ["r2"] })])).toEqual([
      "r1",
    ]);
  });
  it("of every verdict of the job, each its own", () => {
    const first = entry("decision", { decision: "proven", unit: "ect/sensor", because: ["r1"], failed: ["r1"] });
    const second = entry("decision", { decision: "proven", unit: "maf/sensor", because: ["r2"], failed: ["r2"] });
    expect(ids([volts("r1", 5), volts("r2", 4.9), first, second])).toEqual(["r1", "r2"]);
  });
  it("are what somebody says, before what the proof says; the last word counts", () => {
    const [one, two] = [volts("r1", 5), volts("r2", 4.9)];
    const proof = entry("decision", { decision: "proven", unit: "ect/sensor", because: ["r1"], failed: ["r1"] });
    const mark = (reading: Entry, failed: boolean) => entry("failed", { reading: reading.id, failed });
    expect(ids([one, two, proof, mark(one, false), mark(two, true)])).toEqual(["r2"]);
    expect(ids([one, two, proof, mark(one, false), mark(one, true)])).toEqual(["r1"]);
  });
  it("are never looks: nothing is read there", () => {
    const look = entry("reading", { reading: { id: "r1", circuit: "ect", meter: "look", red: "sensor", value: "wet" } });
    expect(ids([look, entry("decision", { decision: "proven", unit: "ect/contact:sig@sensor", because: ["r1"], failed: ["r1"] })])).toEqual([]);
    expect(foldJob([look]).readings.map(canRepeat)).toEqual([false]);
  });
});

describe("codes afterwards", () => {
  const codes = ["P0107", "P0122", "P0340"].map((code) => entry("code", { code }));
  const after = (...stored: string[]) => entry("rescan", { codes: stored.map((code) => ({ code })) });
  it("say nothing before they were cleared and read again", () => {
    expect(codesAfter(foldJob(codes)).asked).toBe(false);
    expect(codesAfter(foldJob([...codes, after()])).asked).toBe(false);
    expect(codesAfter(foldJob([...codes, after(), entry("cleared", { codes: [] })])).asked).toBe(false);
  });
  it("are gone, stayed as foreseen, or new", () => {
    const verdict = entry("decision", { decision: "proven", unit: "busA/wire:ref", unexplained: ["P0340"] });
    const state = foldJob([...codes, verdict, entry("cleared", { codes: [] }), after("P0340", "P0562")]);
    expect(codesAfter(state)).toEqual({ asked: true, gone: ["P0107", "P0122"], stayed: ["P0340"], foreseen: ["P0340"], fresh: ["P0562"] });
    expect(stillOutside(state)).toEqual([{ kind: "codes", codes: ["P0340", "P0562"] }]);
  });
});

describe("what is still outside", () => {
  it("is a test whose last repeat fails, until it passes", () => {
    const reading = volts("r1", 4.9);
    const again = (fits: boolean) => entry("verification", { text: "again", check: "repeat", of: reading.id, fits });
    expect(stillOutside(foldJob([reading, again(false)]))).toEqual([{ kind: "test", entry: reading.id, reading: "r1", circuit: "ect" }]);
    expect(stillOutside(foldJob([reading, again(false), again(true)]))).toEqual([]);
  });
});
