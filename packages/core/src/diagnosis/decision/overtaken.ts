import type { WeighedJob } from "../posterior/weighed-job";
import { testOf } from "../value-of-information/work-done";

/** The readings somebody took again in the same state: whatever they say, the later one stands, and they contradict nobody. */
export function overtakenIn({ numbered, onlyCircuit }: Pick<WeighedJob, "numbered" | "onlyCircuit">): ReadonlySet<string> {
  const latest = new Map<string, string>();
  const overtaken = new Set<string>();
  for (const { id, reading } of numbered) {
    const key = `${testOf(reading, onlyCircuit)} ${String(reading["symptom"])}`;
    const before = latest.get(key);
    if (before !== undefined) overtaken.add(before);
    latest.set(key, id);
  }
  return overtaken;
}
