import type { Assignment } from "./assignment";
import type { World } from "./family";

/** Resistance of a clean wiper, ohms. */
export const WIPER_OHMS = 100;

/** Positions are set by hand: released against the stop, or held open. */
export const POSITION_WORLD: World = {
  quantity: "position",
  unit: "%",
  low: 0,
  high: 100,
  nominal: 0,
  normal: [0, 12, 26, 40, 55, 70, 85, 98].map((value) => ({ value, spread: value === 0 ? 2 : 8, weight: value === 0 ? 12 : 1 })),
  abnormal: [],
  accuracy: 1.5,
  settable: [
    { value: 0, how: "released, against its stop", stimulus: undefined, minutes: 0.2 },
    { value: 100, how: "held wide open by hand, key on, engine off", stimulus: undefined, minutes: 0.5 },
  ],
};

/** The two halves of a track (elements `upper` and `lower` with a suffix) with the wiper at a share of its voltage. */
export function trackAt(suffix: string, trackOhms: number, share: number): readonly Assignment[] {
  return [
    { element: `upper${suffix}`, field: "ohms", value: trackOhms * (1 - share) },
    { element: `lower${suffix}`, field: "ohms", value: trackOhms * share },
  ];
}
