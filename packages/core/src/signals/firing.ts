import type { ChannelReading } from "./channel";

/** Two windings that are switched on at the same moment; `until` the place, in samples, from which they are not; null where they always are. */
export interface FiredTogether {
  readonly first: string;
  readonly second: string;
  readonly until: number | null;
}

/** At the same moment is within this, seconds. */
const SAME_SECONDS = 0.0004;
const LEAST_TOGETHER = 3;

/** Moments a low side is switched on: where its wire falls, or where the current of its clamp begins. */
function switchedOn({ unit, edges: { at, rising } }: ChannelReading): number[] {
  const wanted = unit === "A" ? 1 : 0;
  return [...at].filter((_, edge) => rising[edge] === wanted);
}

/** Which of some driven windings are switched on together, and until when: two at once before the cams are known, one after the other from then on. */
export function firingOf(channels: readonly ChannelReading[], rate: number): FiredTogether[] {
  const driven = channels.filter(({ expected, kind, unit }) => expected.role === "control" && kind === "square" && unit === "V");
  return driven.flatMap((one, index) =>
    driven.slice(index + 1).flatMap((other): FiredTogether[] => {
      const [own, others] = [switchedOn(one), switchedOn(other)];
      let [near, count, last] = [0, 0, -1];
      const same = own.map((at) => {
        while (near + 1 < others.length && Math.abs((others[near + 1] as number) - at) <= Math.abs((others[near] as number) - at)) near += 1;
        return others.length > 0 && Math.abs((others[near] as number) - at) <= SAME_SECONDS * rate;
      });
      same.forEach((yes, place) => {
        if (!yes) return;
        count += 1;
        last = place;
      });
      // Together at first, all of them: pulses that meet now and then say nothing.
      if (count < LEAST_TOGETHER || count < last + 1) return [];
      const next = own[last + 1];
      return [{ first: one.name, second: other.name, until: next ?? null }];
    }),
  );
}
