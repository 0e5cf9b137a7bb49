import { knownValue, knownWithin, type Setup } from "@fox-lamp/language";
import { engineOf } from "./engine";
import type { BuiltFamily, Situation, World } from "./family";

/** A world for circuits that sense nothing. */
export const NO_WORLD: World = {
  quantity: "none",
  unit: "",
  low: 0,
  high: 1,
  nominal: 0,
  normal: [{ value: 0, weight: 1, spread: 0 }],
  abnormal: [],
  accuracy: 0,
  settable: [],
  forced: () => ({ value: 0, spread: 0 }),
};

/** Who says "within two degrees" is right nineteen times in twenty: so many standard deviations. */
const WITHIN_SPREADS = 2;

/** Whether the technician states the sensed quantity, rather than the state of the engine bringing it. */
export function isHeld({ quantity }: World, { truth = {} }: Setup): boolean {
  return quantity !== "none" && quantity !== "flow" && truth[quantity] !== undefined;
}

/** The value of the sensed quantity that a setup fixes, with its standard deviation: stated, or brought by the engine. */
export function fixedWorld(world: World, setup: Setup): { readonly value: number; readonly spread: number } | null {
  const { quantity } = world;
  const truth = setup.truth ?? {};
  if (quantity === "level") {
    const level = truth.level === undefined ? undefined : knownValue(truth.level);
    if (level !== undefined) return { value: level === "high" ? 1 : level === "low" ? 0 : level, spread: 0 };
  } else if (quantity !== "none" && quantity !== "flow") {
    const stated = truth[quantity];
    if (stated !== undefined) {
      const within = knownWithin(stated);
      return { value: knownValue(stated), spread: within === undefined ? world.accuracy : within / WITHIN_SPREADS };
    }
  }
  return world.forced?.(engineOf(setup), setup) ?? null;
}

/** {@link fixedWorld} without its spread. */
export function statedWorld(world: World, setup: Setup): number | null {
  return fixedWorld(world, setup)?.value ?? null;
}

/** What a circuit is exposed to in a setup at a value of its sensed quantity. */
export function situationOf(world: World, setup: Setup, value: number): Situation {
  return { engine: engineOf(setup), setup, world: value, stated: fixedWorld(world, setup) !== null };
}

/** How far a line that the sheet does not state is turned at a value of the sensed quantity, in standard deviations of that value. */
export function stretchAt({ world: { low, high }, stretch = 0 }: Pick<BuiltFamily, "world" | "stretch">, value: number, spread: number): number {
  return spread === 0 ? 0 : (stretch * (value - 0.5 * (low + high))) / spread;
}
