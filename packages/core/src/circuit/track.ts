import { z } from "zod";
import type { Assignment } from "./assignment";
import type { Alternative, ModuleReading, World } from "./family";

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

/**
 * A plate that a motor holds, or a pedal: with the key on springs leave the plate a little open, running the motor closes it.
 */
export const HELD_WORLD: World = {
  ...POSITION_WORLD,
  normal: [
    { value: 0, weight: 9, spread: 2 },
    { value: 12, weight: 5, spread: 4.5 },
    ...[26, 40, 55, 70, 85, 98].map((value) => ({ value, spread: 8, weight: 1 })),
  ],
  forced: ({ key }) => (key === "idle" ? { value: 3, spread: 3 } : key === "rev" ? { value: 14, spread: 9 } : null),
};

/** The two halves of a track (elements `upper` and `lower` with a suffix) with the wiper at a share of its voltage. */
export function trackAt(suffix: string, trackOhms: number, share: number): readonly Assignment[] {
  return [
    { element: `upper${suffix}`, field: "ohms", value: trackOhms * (1 - share) },
    { element: `lower${suffix}`, field: "ohms", value: trackOhms * share },
  ];
}

/** What a module's percentage of a plate or pedal is a share of. */
export const PERCENT_OF = z
  .enum(["opening", "reference"])
  .default("opening")
  .describe("what the module's percentage is a share of: the opening, or the reference");

/** Both are met where the sheet does not say. */
export function percentAlternatives(silent: (parameter: string) => boolean): readonly Alternative[] {
  if (!silent("percentOf")) return [];
  return [
    { with: { percentOf: "opening" }, weight: 0.6 },
    { with: { percentOf: "reference" }, weight: 0.4 },
  ];
}

/** What a module reports where its percentage is a share of the reference: it then knows nothing of the sensor's own line. */
export function percentShown({ percentOf, vref }: { readonly percentOf: "opening" | "reference"; readonly vref: number }): Pick<ModuleReading, "shows"> {
  if (percentOf === "opening") return {};
  return { shows: { toShown: (volts) => Math.min(100, Math.max(0, (100 * volts) / vref)), toVolts: (percent) => (percent * vref) / 100 } };
}
