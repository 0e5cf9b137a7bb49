import { placeIn } from "@fox-lamp/language";
import type { OfferedTest } from "../inference/basis";
import type { WorkDone } from "./work-done";

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

/** Minutes a test costs now: itself, reaching places not yet reached, unplugging, disturbance. */
export function minutesOf(
  offered: Pick<OfferedTest, "procedure">,
  access: (circuit: string) => Readonly<Record<string, number>> | undefined,
  work: WorkDone,
): number {
  const { procedure } = offered;
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
