import type { Recording } from "@fox-lamp/language";

type Channel = Recording["channels"][number];

/** What stands out in a recording of the module's data; a stable code, the channels it concerns, and a sentence. */
export interface RecordingFinding {
  readonly code: "dropout" | "still" | "implausible" | "twin-differs" | "not-following";
  readonly channel: string;
  readonly other: string | null;
  /** Seconds in which it shows; null where it is the whole recording. */
  readonly from: number | null;
  readonly to: number | null;
  readonly sentence: string;
}

interface Series {
  readonly channel: Channel;
  readonly values: readonly (number | null)[];
  readonly low: number;
  readonly high: number;
  readonly median: number;
  /** Where the value mostly is, from its 15th to its 85th percentile. */
  readonly usual: number;
}

/** A value that moves by less than this share of its size stands still. */
const STILL_SHARE = 0.012;
/** Twins that differ by more than this share of what they show do not agree. */
const TWIN_SHARE = 0.15;
/** Values that belong together and correlate by less do not follow one another. */
const FOLLOWS = 0.5;
/** A departure longer than this is no dropout any more, seconds. */
const LONGEST_DROPOUT = 4;

/** Values a sensor shows only when its circuit is open or shorted, by unit: below, above. */
const PLAUSIBLE: Readonly<Record<string, readonly [number, number]>> = { degC: [-38, 160], degF: [-36, 320] };

function seriesOf(channel: Channel): Series {
  const known = channel.values.filter((value): value is number => value !== null).sort((a, b) => a - b);
  return {
    channel,
    values: channel.values,
    low: known[0] ?? 0,
    high: known.at(-1) ?? 0,
    median: known[Math.floor(known.length / 2)] ?? 0,
    usual: (known[Math.floor(0.85 * known.length)] ?? 0) - (known[Math.floor(0.15 * known.length)] ?? 0),
  };
}

function isStill({ low, high, median }: Series): boolean {
  return high - low <= STILL_SHARE * Math.max(Math.abs(median), Math.abs(high), 1e-9);
}

/** Pearson's correlation of two channels where both have values; 0 where one of them stands still. */
function correlation(a: Series, b: Series): number {
  const pairs = a.values.flatMap((value, index) => {
    const other = b.values[index];
    return value === null || other === null || other === undefined ? [] : [[value, other] as const];
  });
  const n = pairs.length;
  if (n < 4) return 1;
  const meanA = pairs.reduce((sum, [x]) => sum + x, 0) / n;
  const meanB = pairs.reduce((sum, [, y]) => sum + y, 0) / n;
  let [ab, aa, bb] = [0, 0, 0];
  for (const [x, y] of pairs) {
    ab += (x - meanA) * (y - meanB);
    aa += (x - meanA) ** 2;
    bb += (y - meanB) ** 2;
  }
  return aa === 0 || bb === 0 ? 0 : ab / Math.sqrt(aa * bb);
}

function printed(value: number, unit: string): string {
  return `${Number(value.toPrecision(3))} ${unit}`.trim();
}

/** Short stretches in which a value jumps away from both its neighbours and comes back: a contact that opens, a wire that touches. */
function dropouts(series: Series, seconds: readonly number[]): RecordingFinding[] {
  const { values, channel, low, high, usual } = series;
  const range = high - low;
  // What swings all the time, or goes up and stays, is no dropout.
  const jump = Math.max(0.5 * range, 2 * usual);
  const found: RecordingFinding[] = [];
  let start: number | null = null;
  let before = 0;
  for (let index = 1; index < values.length; index += 1) {
    const [previous, now] = [values[index - 1] ?? null, values[index] ?? null];
    if (start === null) {
      if (previous !== null && (now === null || (jump > 0 && Math.abs(now - previous) > jump))) {
        start = index;
        before = previous;
      }
      continue;
    }
    const lasted = (seconds[index] ?? 0) - (seconds[start] ?? 0);
    const back = now !== null && Math.abs(now - before) <= 0.25 * range;
    if (back && lasted <= LONGEST_DROPOUT) {
      const away = values.slice(start, index).find((value) => value !== null) ?? null;
      found.push({
        code: "dropout",
        channel: channel.name,
        other: null,
        from: seconds[start] ?? 0,
        to: seconds[index] ?? 0,
        sentence: `${channel.name} drops from ${printed(before, channel.unit)} to ${away === null ? "nothing" : printed(away, channel.unit)} at ${(seconds[start] ?? 0).toFixed(1)} s for ${lasted.toFixed(1)} s.`,
      });
      start = null;
    } else if (lasted > LONGEST_DROPOUT) start = null;
  }
  return found;
}

/** `pedal.sig1` and `pedal.sig2`, `bank 1` and `bank 2`: names that differ in one figure. */
function areTwins(a: Channel, b: Channel): boolean {
  return a.unit === b.unit && a.name !== b.name && a.name.replaceAll(/\d/gu, "#") === b.name.replaceAll(/\d/gu, "#") && /\d/u.test(a.name);
}

/** Words of two channels that should move together: what is asked for and what comes, pedal and throttle, air flow and speed. */
const TOGETHER: readonly (readonly [RegExp, RegExp])[] = [
  [/desired|wanted|commanded/iu, /actual|measured/iu],
  [/pedal|app\b/iu, /throttle|tps/iu],
  [/engine speed|rpm/iu, /\bmaf|air ?flow/iu],
];

/**
 * What stands out in a recording: dropouts, values that stand still while the engine does not, values no sound circuit shows, twins
 * that differ, and values that should follow others and do not.
 */
export function findingsOf(recording: Recording): RecordingFinding[] {
  const all = recording.channels.map(seriesOf);
  const speed = all.find(({ channel }) => channel.unit === "rpm" && channel.circuit === null);
  const driven = speed !== undefined && speed.high > 1.3 * Math.max(speed.low, 1);
  const found: RecordingFinding[] = all.flatMap((series) => dropouts(series, recording.seconds));
  const whole = { from: null, to: null } as const;
  for (const series of all) {
    const { channel, median } = series;
    const limits = PLAUSIBLE[channel.unit];
    if (limits && (median <= limits[0] || median >= limits[1])) {
      found.push({
        code: "implausible",
        channel: channel.name,
        other: null,
        ...whole,
        sentence: `${channel.name} shows ${printed(median, channel.unit)}: no sound circuit does.`,
      });
    }
    const moves = channel.unit === "%" || channel.unit === "g/s" || channel.unit === "Hz" || channel.unit === "rpm";
    if (driven && moves && channel.circuit !== null && isStill(series)) {
      found.push({
        code: "still",
        channel: channel.name,
        other: speed?.channel.name ?? null,
        ...whole,
        sentence: `${channel.name} stays at ${printed(median, channel.unit)} while the engine goes from ${printed(speed?.low ?? 0, "rpm")} to ${printed(speed?.high ?? 0, "rpm")}.`,
      });
    }
  }
  all.forEach((first, index) => {
    for (const second of all.slice(index + 1)) found.push(...compared(first, second));
  });
  return found;
}

function compared(first: Series, second: Series): RecordingFinding[] {
  const [a, b] = [first.channel, second.channel];
  const whole = { from: null, to: null } as const;
  if (areTwins(a, b)) {
    const size = Math.max(Math.abs(first.high), Math.abs(second.high), 1e-9);
    if (Math.abs(first.median - second.median) <= TWIN_SHARE * size) return [];
    return [
      {
        code: "twin-differs",
        channel: a.name,
        other: b.name,
        ...whole,
        sentence: `${a.name} shows ${printed(first.median, a.unit)} and its twin ${b.name} ${printed(second.median, b.unit)}.`,
      },
    ];
  }
  const pair = TOGETHER.find(([one, other]) => (one.test(a.name) && other.test(b.name)) || (one.test(b.name) && other.test(a.name)));
  if (pair === undefined || (isStill(first) && isStill(second)) || correlation(first, second) >= FOLLOWS) return [];
  return [{ code: "not-following", channel: b.name, other: a.name, ...whole, sentence: `${b.name} does not follow ${a.name}.` }];
}
