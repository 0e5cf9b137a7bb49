import type { DiagnosedJob } from "@fox-lamp/core";

/** Jobs whose number is remembered: what was looked at before is then known as the same. */
const REMEMBERED = 40;

const numbers = new Map<string, number>();
const known = new WeakMap<DiagnosedJob, number>();
let latest = 0;

/** Keys in one order: what the database gives back has its own. */
function inOrder(_key: string, value: unknown): unknown {
  if (typeof value !== "object" || value === null || Array.isArray(value)) return value;
  return Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)));
}

/**
 * A number for what a job says: two jobs that say the same have the same one, whichever objects hold it. It is worked out once for each
 * object, and small, so that it can stand in the key of any question about the job.
 */
export function jobKey(job: DiagnosedJob): number {
  const before = known.get(job);
  if (before !== undefined) return before;
  const content = JSON.stringify(job, inOrder);
  const number = numbers.get(content) ?? latest + 1;
  latest = Math.max(latest, number);
  // What was asked for last is forgotten last.
  numbers.delete(content);
  numbers.set(content, number);
  const [oldest] = numbers.keys();
  if (numbers.size > REMEMBERED && oldest !== undefined) numbers.delete(oldest);
  known.set(job, number);
  return number;
}
