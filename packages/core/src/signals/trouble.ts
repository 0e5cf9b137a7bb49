/** A time a channel was not what it should be, in seconds of the capture. */
export interface Dropout {
  readonly from: number;
  readonly to: number;
  readonly level: "high" | "low" | "mid";
  readonly volts: number;
}

/** A short departure from a smooth course. */
export interface Glitch {
  readonly t: number;
  readonly volts: number;
}

const RAIL_SHARE = 0.25;

/** Whether volts lie near one of two ends, or between them. */
export function levelBetween(volts: number, low: number, high: number): Dropout["level"] {
  const share = (volts - low) / Math.max(1e-9, high - low);
  return share >= 1 - RAIL_SHARE ? "high" : share <= RAIL_SHARE ? "low" : "mid";
}

/** Joins times that follow one another within a tolerance, seconds. */
export function joined(dropouts: readonly Dropout[], within: number): Dropout[] {
  const sorted = [...dropouts].sort((a, b) => a.from - b.from);
  const out: Dropout[] = [];
  for (const next of sorted) {
    const last = out.at(-1);
    if (last === undefined || next.from > last.to + within) {
      out.push(next);
      continue;
    }
    const longer = next.to - next.from > last.to - last.from ? next : last;
    out[out.length - 1] = { ...longer, from: last.from, to: Math.max(last.to, next.to) };
  }
  return out;
}
