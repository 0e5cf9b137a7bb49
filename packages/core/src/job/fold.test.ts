import { type Entry, type EntryKind, jobSchema, type NewEntry, newEntrySchema, shopSettingsSchema } from "@fox-lamp/language";
import fc from "fast-check";
import { diagnosedPart, foldJob, takeApart } from "./index";

let count = 0;
const id = (): string => {
  count += 1;
  return `019abcde-0000-7000-8000-${String(count).padStart(12, "0")}`;
};
const make = (kind: EntryKind, body: object, seq?: number): Entry =>
  ({ id: id(), at: "2026-03-02T09:14:00.000Z", by: "Wren", job: "j", kind, body, ...(seq === undefined ? {} : { seq }) }) as Entry;
const scan = (value: number) => ({ reading: { circuit: "ect", meter: "scan", red: "sig@module", value }, minutes: 0.5 });

describe("a job is a fold over its entries", () => {
  it("takes complaint, codes, conditions and stage as they stand last", () => {
    const state = foldJob([
      make("complaint", { text: "stalls" }, 1),
      make("code", { code: "P0118", status: "current" }, 2),
      make("code", { code: "P0118", status: "history" }, 3),
      make("conditions", { temperature: 20 }, 4),
      make("conditions", { temperature: 25 }, 5),
      make("stage", { stage: "bench" }, 6),
      make("complaint", { text: "stalls when warm", when: "hot" }, 7),
      make("repair", { text: "contact cleaned" }, 8),
      make("verification", { text: "drove 10 km" }, 9),
      make("note", { text: "seal missing" }, 10),
    ]);
    expect(state).toMatchObject({
      complaint: "stalls when warm",
      when: "hot",
      stage: "bench",
      conditions: { temperature: 25 },
      repairs: [{ text: "contact cleaned" }],
      verifications: [{ text: "drove 10 km" }],
      notes: [{ text: "seal missing" }],
    });
    expect(state.codes).toEqual([{ code: "P0118", status: "history" }]);
  });

  it("ends where two readings say that they replace each other, or themselves", () => {
    const [one, two, three] = [make("reading", scan(1), 1), make("reading", scan(2), 2), make("reading", scan(3), 3)];
    const replacing = (entry: Entry | undefined, other: Entry | undefined): Entry => ({ ...entry, body: { ...entry?.body, replaces: other?.id } }) as Entry;
    const state = foldJob([replacing(one, two), replacing(two, one), replacing(three, three)]);
    // The second came after the first: it replaces it; nobody replaces what is yet to come.
    expect(state.readings.map(({ reading, was }) => [reading.value, was])).toEqual([
      [2, [1]],
      [3, []],
    ]);
  });

  it("is the same in whatever order entries arrive", () => {
    const entries = [
      make("complaint", { text: "stalls" }, 1),
      make("reading", scan(1), 2),
      make("reading", scan(2), 3),
      make("stage", { stage: "bench" }, 4),
      make("note", { text: "a" }, 5),
    ];
    const corrected = make("reading", { ...scan(7), replaces: entries[1]?.id }, 6);
    const all = [...entries, corrected, make("retraction", { entry: entries[2]?.id }, 7), make("complaint", { text: "stalls when warm" }, 8)];
    const expected = foldJob(all);
    fc.assert(
      fc.property(fc.shuffledSubarray(all, { minLength: all.length }), (arrived) => expect(foldJob(arrived)).toEqual(expected)),
      { numRuns: 300 },
    );
  });

  it("names readings in order and keeps the names when one is taken back", () => {
    const entries = [make("reading", scan(1), 1), make("reading", scan(2), 2), make("reading", scan(3), 3)];
    expect(foldJob(entries).readings.map(({ reading }) => reading.id)).toEqual(["r1", "r2", "r3"]);
    const after = foldJob([...entries, make("retraction", { entry: entries[1]?.id }, 4)]);
    expect(after.readings.map(({ reading }) => reading.id)).toEqual(["r1", "r3"]);
    expect(after.undoable).toBe(entries[2]?.id);
  });

  it("puts back what was taken back by mistake, under its old name and in its old place", () => {
    const entries = [make("reading", scan(1), 1), make("reading", scan(2), 2), make("reading", scan(3), 3)];
    const before = foldJob(entries);
    const back = make("retraction", { entry: entries[1]?.id }, 4);
    const put = make("retraction", { entry: back.id }, 5);
    expect(foldJob([...entries, back, put])).toEqual(before);
    const again = make("retraction", { entry: put.id }, 6);
    expect(foldJob([...entries, back, put, again]).readings.map(({ reading }) => reading.id)).toEqual(["r1", "r3"]);
  });

  it("replaces a corrected reading", () => {
    const wrong = make("reading", scan(4980), 1);
    const state = foldJob([wrong, make("reading", { ...scan(4.98), replaces: wrong.id }, 2)]);
    expect(state.readings.map(({ reading }) => reading.value)).toEqual([4.98]);
  });

  it("puts entries the server has not numbered yet last", () => {
    const waiting = make("stage", { stage: "repair" });
    expect(foldJob([waiting, make("stage", { stage: "bench" }, 7)]).stage).toBe("repair");
  });

  it("does not depend on the order entries arrive in", () => {
    const entries = [
      make("stage", { stage: "bench" }, 1),
      make("reading", scan(1), 2),
      make("skip", { test: "t", reason: "far" }, 3),
      make("reading", scan(2), 4),
      make("decision", { decision: "proven", unit: "ect/sensor" }, 5),
    ];
    const straight = foldJob(entries);
    fc.assert(
      fc.property(fc.shuffledSubarray(entries, { minLength: entries.length, maxLength: entries.length }), (shuffled) =>
        expect(foldJob(shuffled)).toEqual(straight),
      ),
    );
    expect(straight.skipped.map(({ test }) => test)).toEqual(["t"]);
    expect(straight.decisions).toHaveLength(1);
  });

  it("hands the diagnosis what it needs", () => {
    const state = foldJob([make("conditions", { temperature: 20 }, 1), make("reading", scan(1), 2)]);
    expect(diagnosedPart({ circuits: [{ id: "ect", family: "thermistor-2w" }], bench: ["meter"] }, state)).toMatchObject({
      bench: ["meter"],
      conditions: { temperature: 20 },
      skipped: [],
      readings: [{ id: "r1", value: 1 }],
    });
    expect(diagnosedPart({ circuits: [], bench: null }, state)).not.toHaveProperty("bench");
    expect(diagnosedPart({ circuits: [], bench: null }, state)).not.toHaveProperty("outsideKPa");
  });

  it("keeps facts until they are said anew, and takes the air where the car stands before the shop's", () => {
    const known = make("conditions", { facts: { engine: "does-not-start", altitudeMetres: 1500 } }, 1);
    const warmer = make("conditions", { temperature: 25 }, 2);
    const state = foldJob([known, warmer]);
    expect(state).toMatchObject({ conditions: { temperature: 25 }, facts: { engine: "does-not-start", altitudeMetres: 1500 } });
    const shop = shopSettingsSchema.parse({ altitudeMetres: 0 });
    // The standard atmosphere at 1500 m: 84.56 kPa.
    expect(diagnosedPart({ circuits: [], bench: null }, state, shop)).toMatchObject({ facts: { engine: "does-not-start" }, outsideKPa: 84.6 });
    expect(diagnosedPart({ circuits: [], bench: null }, foldJob([known, make("conditions", { facts: {} }, 3)]), shop)).not.toHaveProperty("facts");
    // Said to stand at the sea, it does: that is an expectation too.
    const sea = foldJob([make("conditions", { facts: { altitudeMetres: 0 } }, 1)]);
    expect(diagnosedPart({ circuits: [], bench: null }, sea, shop)).toMatchObject({ outsideKPa: 101.3 });
  });
});

describe("a job file taken apart", () => {
  const file = jobSchema.parse({
    format: "fox-lamp/job@1",
    vehicle: "Unit 7",
    complaint: "hard to start",
    when: "warm",
    codes: [{ code: "P0116" }],
    conditions: { temperature: 18 },
    circuits: [{ id: "ect", family: "thermistor-2w", title: "Coolant temperature" }],
    readings: [{ id: "r1", meter: "scan", red: "sig@module", value: 4.2, minutes: 0.5 }],
    decisions: ["bad contact", { decision: "proven", unit: "ect/sensor" }],
    repairs: ["cleaned"],
    verifications: [{ text: "drove" }],
    stage: "closed",
  });
  const taken = takeApart(file, { id, at: (minutes) => new Date(Date.UTC(2026, 2, 2) + minutes * 60_000).toISOString(), by: "Wren" });

  it("gives valid entries, one for everything the file records", () => {
    for (const entry of taken.entries) expect(newEntrySchema.safeParse(entry).success).toBe(true);
    expect(taken.entries.map(({ kind }: NewEntry) => kind)).toEqual([
      "complaint",
      "code",
      "conditions",
      "reading",
      "decision",
      "decision",
      "repair",
      "verification",
      "stage",
    ]);
    expect(taken).toMatchObject({ title: "Coolant temperature", vehicle: { name: "Unit 7" }, bench: null });
  });

  it("folds back to what the file said", () => {
    const state = foldJob(taken.entries.map((entry, index) => ({ ...entry, seq: index + 1 })) as Entry[]);
    expect(state).toMatchObject({
      complaint: "hard to start",
      when: "warm",
      stage: "closed",
      repairs: [{ text: "cleaned" }],
      verifications: [{ text: "drove" }],
      conditions: { temperature: 18 },
    });
    expect(state.readings[0]).toMatchObject({ minutes: 0.5, reading: { id: "r1", value: 4.2 } });
    expect(state.decisions.map(({ decision }) => decision)).toEqual(["bad contact", "proven"]);
  });
});
