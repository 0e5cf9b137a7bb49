import type { Entry } from "@fox-lamp/language";

/**
 * The number up to which all entries of a job are known here. The server numbers them 1, 2, 3 ... without a gap: one's own answer may come
 * before what somebody else entered a moment earlier, and the gap then says that something is missing.
 */
export function knownUpTo(entries: readonly Pick<Entry, "seq">[]): number {
  const known = new Set(entries.map(({ seq }) => seq));
  let upTo = 0;
  while (known.has(upTo + 1)) upTo += 1;
  return upTo;
}

/** Puts entries the server answered with among those of a job: each once, in the server's order. */
export function addNew(job: { entries: Pick<Entry, "id" | "seq">[] }, entries: readonly Entry[]): void {
  const known = new Set(job.entries.map(({ id }) => id));
  job.entries.push(...entries.filter(({ id }) => !known.has(id)));
  job.entries.sort((a, b) => a.seq - b.seq);
}
