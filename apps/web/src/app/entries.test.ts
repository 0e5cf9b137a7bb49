import { foldJob } from "@fox-lamp/core";
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
  it("is the same on two devices that work on one job, whatever arrives where and when", () => {
    const kinds = ["reading", "note", "stage", "code", "complaint", "replace", "retract"] as const;
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.boolean(), fc.constantFrom(...kinds), fc.nat(3)), { maxLength: 10 }), fc.infiniteStream(fc.nat(5)), (work, delays) => {
        const wait = delays[Symbol.iterator]();
        const server: Entry[] = [];
        const devices = [{ entries: [] as Entry[] }, { entries: [] as Entry[] }];
        for (const [second, kind, old] of work) {
          const own = devices[second ? 1 : 0];
          // What one names, one has seen.
          const named = own?.entries.filter((known) => known.kind === "reading").at(-1 - old)?.id;
          const seq = server.length + 1;
          const bodies = {
            reading: { reading: { meter: "volts-dc", red: "sig@sensor", value: seq } },
            replace: { reading: { meter: "volts-dc", red: "sig@sensor", value: -seq }, ...(named === undefined ? {} : { replaces: named }) },
            retract: named === undefined ? { text: "x" } : { entry: named },
            note: { text: `${seq}` },
            stage: { stage: seq % 2 ? "codes" : "bench" },
            code: { code: `P010${seq % 4}` },
            complaint: { text: `${seq}` },
          };
          const as = kind === "replace" ? "reading" : kind === "retract" ? (named === undefined ? "note" : "retraction") : kind;
          const stored = { ...entry(seq), kind: as, body: bodies[kind] } as Entry;
          server.push(stored);
          if (own) addNew(own, [stored]);
          // The other one hears of it now, or later, with what came between, or twice.
          for (const device of devices) if (wait.next().value < 2) addNew(device, server.slice(knownUpTo(device.entries)));
          if (own && wait.next().value === 0) addNew(own, [stored]);
        }
        for (const device of devices) addNew(device, server.slice(knownUpTo(device.entries)));
        expect(devices[0]?.entries).toEqual(server);
        expect(foldJob(devices[0]?.entries ?? [])).toEqual(foldJob([...(devices[1]?.entries ?? [])].reverse()));
      }),
      { numRuns: 10_000 },
    );
  });
});
