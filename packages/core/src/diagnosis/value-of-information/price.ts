import { placeIn } from "@fox-lamp/language";
import { measurementOf } from "../../procedures";
import type { OfferedTest } from "../inference/basis";
import { isOf, screenOf } from "../inference/go";
import { testOf, type WorkDone } from "./work-done";

/** Minutes to reach a place when the circuit does not say. */
export const DEFAULT_ACCESS: Readonly<Record<string, number>> = { sensor: 2, module: 8 };
/** Minutes to reach an inline connector when the circuit does not say. */
export const INLINE_ACCESS = 4;
/** Minutes to unplug and plug a connector again. */
const UNPLUG_MINUTES: Readonly<Record<string, number>> = { sensor: 0.4, module: 1.5 };
/** What a first unplugging may cost by curing a bad contact for a day, in minutes. */
const DISTURBANCE_MINUTES = 1.2;
/** What any further reading takes besides its own minutes: laying down what is at hand, choosing, entering. */
export const HANDLING_MINUTES = 0.5;
/** What one more value takes that stands on the screen that was just read. */
export const ALONG_MINUTES = 0.2;

/**
 * Minutes a test costs now: itself, reaching places not yet reached, unplugging, disturbance. Little where it stands on the screen that was read just now.
 * @param screen what the test is read from, where that was computed already
 */
export function minutesOf(
  { procedure }: Pick<OfferedTest, "procedure">,
  access: (circuit: string) => Readonly<Record<string, number>> | undefined,
  work: WorkDone,
  screen = screenOf(procedure, work.known),
): number {
  const { go } = work;
  if (go !== null && screen !== null && isOf(go, screen) && !go.read.has(testOf(measurementOf(procedure), procedure.circuit, work.known))) return ALONG_MINUTES;
  let minutes = procedure.minutes;
  const done = (places: ReadonlySet<string>, place: string): boolean => places.has(placeIn(procedure.circuit, place));
  for (const place of new Set(procedure.reach)) {
    const [first = "", second] = place.split(":");
    const local = second ?? first;
    const known = access(second === undefined ? procedure.circuit : first)?.[local];
    if (!done(work.reached, place)) minutes += known ?? DEFAULT_ACCESS[local] ?? INLINE_ACCESS;
  }
  for (const place of procedure.opens) {
    minutes += UNPLUG_MINUTES[place] ?? 0.5;
    if (!done(work.unplugged, place)) minutes += DISTURBANCE_MINUTES;
  }
  return Number(minutes.toFixed(2));
}
