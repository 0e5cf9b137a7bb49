import type { CaptureLayout } from "./layout";

/** What a file is by its rate and its units: a scope's capture, a log of the module's data, or nothing one could say for sure. */
export type FileKind = "scope" | "log" | "unsure";

/** No module tells its data as often as this, and no scope that looks at an engine as seldom, samples a second. */
const FASTEST_LOG = 120;
const SLOWEST_SCOPE = 400;
const ELECTRIC = new Set(["V", "A"]);

/** Samples a second of the first rows; null where they say none. */
function rateOf({ time, rate, sample, decimal }: CaptureLayout): number | null {
  if (time === null) return rate;
  const seconds = sample.map((row) => Number((row[time.index] ?? "").replace(decimal, ".")) * time.factor);
  const [first, last] = [seconds[0] ?? 0, seconds.at(-1) ?? 0];
  return sample.length > 1 && last > first ? (sample.length - 1) / (last - first) : rate;
}

/** Tells a scope's capture from a log of the module's data, by how often and in what units. */
export function kindOfFile(layout: CaptureLayout): FileKind {
  const rate = rateOf(layout);
  const electric = layout.channels.filter(({ unit }) => ELECTRIC.has(unit)).length;
  const others = layout.channels.length - electric;
  if (rate !== null && rate >= SLOWEST_SCOPE) return "scope";
  if (others > electric || (rate !== null && rate <= FASTEST_LOG && others > 0)) return "log";
  return "unsure";
}
