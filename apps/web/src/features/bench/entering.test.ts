import { type Analysis, foldJob, type JobReading, type JobState } from "@fox-lamp/core";
import type { Reading } from "@fox-lamp/language";
import { enteringOf } from "./entering";

const mockSaid: { words: string; remedy?: { run: () => void } }[] = [];
jest.mock("../../ui/toast", () => ({ toast: { success: (words: string, more?: { remedy?: { run: () => void } }) => mockSaid.push({ words, ...more }) } }));

const read = (id: string, value: number, minutes = 3): JobReading =>
  ({
    entry: `e-${id}`,
    minutes,
    reading: { id, circuit: "ect", meter: "volts-dc", red: "sig@sensor", black: "bat-", value, symptom: true } as Reading,
  }) as JobReading;
const verdict = { status: "proven", unit: "ect/wire:sig", probability: 0.99, group: ["ect/wire:sig"], because: ["r1"] };
const analysis = {
  circuits: [],
  windows: { r1: { low: 4.8, high: 5.2, unit: "V" }, r2: { low: 0, high: 1, unit: "V" } },
  diagnosis: { verdict, stake: { unit: "ect/sensor", wrong: 0.4, lossMinutes: 20 }, unexplained: ["P9"] },
} as unknown as Analysis;

/** What was entered, in turn. */
function bench(state: Partial<JobState>, given: Analysis | null = analysis) {
  const entered: { kind: string; body: Record<string, unknown> }[] = [];
  const enter = (...drafts: { kind: string; body: object }[]): string[] => {
    entered.push(...(drafts as typeof entered));
    return drafts.map((_, at) => `new-${entered.length - drafts.length + at}`);
  };
  return { entered, ...enteringOf(enter as Parameters<typeof enteringOf>[0], { ...foldJob([]), ...state }, given) };
}

beforeEach(() => {
  mockSaid.length = 0;
});

describe("what is entered on a bench besides the reading at hand", () => {
  it("corrects a reading in its place, and takes one once more beside it in a minute at most", () => {
    const { entered, correct, readAgain } = bench({ readings: [read("r1", 0.5)] });
    correct(read("r1", 0.5), 5);
    readAgain(read("r1", 0.5), 4.9);
    expect(entered[0]).toMatchObject({ kind: "reading", body: { replaces: "e-r1", minutes: 3, reading: { id: "r1", value: 5, symptom: true } } });
    expect(entered[1]).toMatchObject({ body: { minutes: 1, reading: { id: "r2", value: 4.9 } } });
    expect(entered[1]?.body["reading"]).not.toHaveProperty("symptom");
  });
  it("says what it took back, and puts it back", () => {
    const { entered, takeBack } = bench({ readings: [read("r1", 0.5)] });
    takeBack("e-r1");
    expect(mockSaid[0]?.words).toContain("0.5");
    mockSaid[0]?.remedy?.run();
    expect(entered.map(({ kind, body }) => [kind, body["entry"]])).toEqual([
      ["retraction", "e-r1"],
      ["retraction", "new-0"],
    ]);
  });
  it("records the verdict with what failed and what stays unexplained, and goes on to the repair", () => {
    const { entered, record, recorded } = bench({ readings: [read("r1", 0.5), read("r2", 0.4)] });
    expect(recorded).toBe(false);
    record();
    expect(entered).toEqual([
      {
        kind: "decision",
        body: { decision: "proven", unit: "ect/wire:sig", probability: 0.99, group: ["ect/wire:sig"], because: ["r1"], failed: ["r1"], unexplained: ["P9"] },
      },
      { kind: "stage", body: { stage: "repair" } },
    ]);
  });
  it("records a part replaced before proof with the odds, and nothing while there is no analysis", () => {
    const { entered, override } = bench({});
    override();
    expect(entered[0]).toMatchObject({ kind: "decision", body: { decision: "override", unit: "ect/sensor", probability: 0.6 } });
    const none = bench({}, null);
    none.record();
    none.override();
    expect(none.entered).toEqual([]);
  });
  it("names readings of one moment in turn, after those there are", () => {
    const { entered, enterReadings } = bench({ readings: [read("r1", 0.5)] });
    enterReadings([3, 4].map((value) => ({ reading: { ...read("", value).reading, id: undefined } as unknown as Reading, minutes: 2 })));
    expect(entered.map(({ body }) => (body["reading"] as Reading).id)).toEqual(["r2", "r3"]);
  });
});
