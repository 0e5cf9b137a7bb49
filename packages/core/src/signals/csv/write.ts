import type { Capture } from "../capture";

/** Rows that are joined at once. */
const ROWS = 8192;
/** Figures of a value: more than sixteen bits resolve. */
const FIGURES = 6;

function timeDecimals(rate: number): number {
  return Math.max(3, Math.ceil(Math.log10(rate)) + 1);
}

/** A capture as CSV, in pieces: `time_s`, then `name [unit]`; comments with its rate first. @param comments lines of their own, without `#` */
export function* captureCsv(capture: Capture, comments: readonly string[] = []): Generator<string> {
  const { start, rate, channels } = capture;
  yield [...comments, `sample rate ${Number(rate.toPrecision(9))} Hz`].map((line) => `# ${line}\n`).join("");
  yield `${["time_s", ...channels.map(({ name, unit }) => `${name} [${unit}]`)].join(",")}\n`;
  const length = channels[0]?.samples.length ?? 0;
  const decimals = timeDecimals(rate);
  for (let from = 0; from < length; from += ROWS) {
    const rows: string[] = [];
    for (let at = from; at < Math.min(length, from + ROWS); at += 1) {
      let row = (start + at / rate).toFixed(decimals);
      for (const { samples } of channels) row += `,${Number((samples[at] as number).toPrecision(FIGURES))}`;
      rows.push(row);
    }
    yield `${rows.join("\n")}\n`;
  }
}
