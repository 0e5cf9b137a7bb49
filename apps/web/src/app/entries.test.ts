import type { Entry } from "@fox-lamp/language";
import fc from "fast-check";
import { addNew, knownUpTo } from "./entries";

const entry = (seq: number): Entry =>
  ({ id: `e${seq}`, seq, job: "j", at: "2026-03-02T09:00:00Z", by: "Wren", kind: "note", body: { text: `${seq}` } }) as Entry;

describe("what a device knows of a job", () => {
  it("ends at the first gap: what somebody else entered in between is still asked for", () => {
    expect(knownUpTo([])).toBe(0);
    expect(knownUpTo([1, 2, 3].map(entry))).toBe(3);
    // Its own entry 5 was answered before it heard of entry 4.
    expect(knownUpTo([1, 2, 3, 5].map(entry))).toBe(3);
    expect(knownUpTo([2, 3].map(entry))).toBe(0);
  });
  it("comes to be whole and in order however answers and events overtake each other", () => {
    const server = Array.from({ length: 12 }, (_, index) => entry(index + 1));
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.boolean(), fc.nat(11), fc.nat(3)), { maxLength: 30 }), (answers) => {
        const job = { entries: [] as Entry[] };
        // Either an answer to what was entered here (some entries anywhere), or to "what comes after what I know".
        for (const [own, from, count] of answers)
          addNew(job, own ? server.slice(from, from + count) : server.slice(knownUpTo(job.entries), knownUpTo(job.entries) + count));
        const seqs = job.entries.map(({ seq }) => seq);
        expect(seqs).toEqual([...new Set(seqs)].sort((a, b) => a - b));
        addNew(job, server.slice(knownUpTo(job.entries)));
        expect(job.entries).toEqual(server);
      }),
    );
  });
});
