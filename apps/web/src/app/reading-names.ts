import type { Reading } from "@fox-lamp/language";

/** Readings taken together, each with the next free name of the job. */
export function namedInTurn(readings: readonly Reading[], before: readonly { reading: { id: string } }[]): (Reading & { id: string })[] {
  const named: (Reading & { id: string })[] = [];
  for (const reading of readings) named.push({ ...reading, id: nextName([...before, ...named.map((one) => ({ reading: one }))]) });
  return named;
}

/** The next free name r1, r2 ... that no reading of the job has had. */
export function nextName(readings: readonly { reading: { id: string } }[]): string {
  const used = readings.map(({ reading }) => Number(/^r(\d+)$/u.exec(reading.id)?.[1] ?? 0));
  return `r${Math.max(0, ...used) + 1}`;
}
