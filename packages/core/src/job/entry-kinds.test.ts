import { ENTRY_KINDS, type Entry, type EntryKind, type EntryOf, newEntrySchema } from "@fox-lamp/language";
import { ENTRY_RECORDS, namedBy, renameIn } from "./entry-kinds";
import { foldJob } from "./fold";

const ID = "0195c000-0000-7000-8000-000000000001";
const OTHER = "0195c000-0000-7000-8000-000000000002";

/** One body of each kind; a kind without one does not compile. */
const BODIES: { readonly [K in EntryKind]: EntryOf<K>["body"] } = {
  complaint: { text: "stalls" },
  confirmation: { seen: true },
  battery: { restVolts: 12.6 },
  code: { code: "P0118" },
  cleared: { codes: ["P0118"] },
  rescan: { codes: [] },
  recording: { recording: OTHER, title: "Drive", seconds: 10, channels: ["a"], findings: [] },
  capture: { capture: OTHER, title: "Crank", seconds: 1, channels: ["sig"], findings: [] },
  mark: { capture: OTHER, channel: "sig", from: 0.1, to: 0.2, word: "rounded", text: "edges" },
  circuit: { circuit: { id: "ect", family: "thermistor-2w" } },
  conditions: { temperature: 20, hints: ["wet"], intermittent: true },
  reading: { reading: { circuit: "ect", meter: "scan", red: "sig@module", value: 1 }, replaces: OTHER },
  skip: { test: "t", reason: "no reach" },
  decision: { decision: "proven", unit: "ect/sensor" },
  located: { unit: "ect/wire:sig", way: "found", place: "behind the battery" },
  task: { task: "seat", done: true },
  repair: { text: "cleaned", photo: OTHER },
  verification: { text: "again", check: "repeat", of: OTHER },
  failed: { reading: OTHER, failed: true },
  closing: { outcome: "repaired" },
  waiting: { for: "part" },
  promised: { at: "2026-03-03T16:00:00Z" },
  assigned: { person: null, name: "Wren" },
  photo: { photo: OTHER, caption: "plug", width: 10, height: 10 },
  stage: { stage: "bench" },
  note: { text: "seal missing" },
  retraction: { entry: OTHER },
};

const entryOf = (kind: EntryKind) => ({ id: ID, at: "2026-03-02T08:00:00Z", by: "Wren", kind, body: BODIES[kind] }) as Entry;

describe.each(ENTRY_KINDS)("an entry of kind %s", (kind) => {
  it("is one the language knows", () => {
    const parsed = newEntrySchema.safeParse(entryOf(kind));
    expect(parsed.success ? null : parsed.error.message).toBeNull();
  });
  it("changes a job, or only what stood before it", () => {
    const [before, after] = [foldJob([]), foldJob([{ ...entryOf(kind), seq: 1 }])];
    if (kind === "retraction") expect(after).toEqual(before);
    else expect(after).not.toEqual(before);
  });
  it("keeps its own body when it gets other names, but for what it names", () => {
    const renamed = renameIn(entryOf(kind), (id) => `new-${id}`);
    expect(renamed.id).toBe(`new-${ID}`);
    expect(JSON.parse(JSON.stringify(renamed.body).replaceAll(`new-${OTHER}`, OTHER))).toEqual(BODIES[kind]);
  });
  it("names nothing that it does not also rename", () => {
    const named = namedBy(entryOf(kind));
    const renamed = JSON.stringify(renameIn(entryOf(kind), (id) => `new-${id}`).body);
    for (const id of named) expect(renamed).toContain(`new-${id}`);
    expect(JSON.stringify(BODIES[kind]).includes(OTHER)).toBe(renamed.includes(`new-${OTHER}`));
  });
});

describe("undo", () => {
  it("takes back the latest reading or skipped test, nothing else", () => {
    const undoable = ENTRY_KINDS.filter((kind) => ENTRY_RECORDS[kind].undoable === true);
    expect(undoable).toEqual(["reading", "skip"]);
    for (const kind of ENTRY_KINDS) expect(foldJob([{ ...entryOf(kind), seq: 1 }]).undoable).toBe(undoable.includes(kind) ? ID : null);
  });
});
