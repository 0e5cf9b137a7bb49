import { type Diagnosis, FINDING_WORDS, type Reading, seenWord } from "@fox-lamp/language";
import { scaleOf } from "../../instruments";
import { formatQuantity, formatWindow } from "../../units";
import type { Predicted } from "../posterior/intervals";
import type { PredictionTable } from "../predictions/table";

/** The unit a table's numbers are shown in. */
export function shownUnit(table: PredictionTable): string {
  return scaleOf(table.probe).unit;
}

/** Words of instruments that are no word on a display. */
const WORDS: Readonly<Record<string, string>> = { none: "no signal", counts: "a signal", OL: "OL" };
const SEEN: Readonly<Record<string, string | undefined>> = FINDING_WORDS;

/** A word as it was shown or seen, in quotes. */
function quoted(word: string): string {
  return `"${(SEEN[word] ?? word).toLowerCase()}"`;
}

/** A predicted interval in the words of its instrument. */
export function describePredicted(predicted: Predicted, table: PredictionTable): string {
  if (predicted.word !== null) return WORDS[predicted.word] ?? quoted(predicted.word);
  if (predicted.low === null || predicted.high === null) return "any value";
  const { unit, fromScale } = scaleOf(table.probe);
  const ends = [fromScale(predicted.low), fromScale(predicted.high)].sort((a, b) => a - b);
  return formatWindow(ends[0] ?? null, ends[1] ?? null, unit);
}

/** A reading's value as it was read. */
export function describeValue(reading: Reading, unit: string): string {
  const { value } = reading;
  if (typeof value === "string") return value === "OL" ? value : quoted(value);
  if (typeof value === "number") return formatQuantity(value, unit);
  const [least, most] = [formatQuantity(value.min, unit), formatQuantity(value.max, unit)];
  return least === most ? least : `${least} to ${most}`;
}

/** That a plug was found off, with what is to be done about it. @param connector as the look's reading names it */
export function pushHome(connector: string): string {
  const plug = seenWord(connector);
  return `${plug.startsWith("connector") ? `C${plug.slice(1)}` : `The ${plug}`} was found off: push it home until it latches`;
}

/** Below this a sound circuit is not what the readings say: something leads that they could not settle. */
const SOUND_LIKELY = 0.5;

/** Whether a search that found nothing may call the circuits sound, with its probability. */
export function isSoundLikely({ probability }: Pick<Diagnosis["verdict"], "probability">): boolean {
  return probability >= SOUND_LIKELY;
}
