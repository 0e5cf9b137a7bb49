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
  return movedTo(world, setup) ?? world.forced?.(engineOf(setup), setup) ?? null;
}

/** Where a hot air gun or a cold spray takes a part nobody holds a thermometer to: it tells nothing of what the car had before, degrees. */
const WARMED_TO = { value: 75, spread: 30 };
const COOLED_TO = { value: 25, spread: 25 };

/** The value a temperature is moved to without being stated; null where nothing moves it. */
function movedTo({ quantity }: World, { stimulus, truth }: Setup): { readonly value: number; readonly spread: number } | null {
  if (quantity !== "temperature" || truth?.temperature !== undefined) return null;
  return stimulus?.kind === "heat" ? WARMED_TO : stimulus?.kind === "cool" ? COOLED_TO : null;
}

/** Under which stimuli each sensed quantity moves, by an amount that nobody knows unless it is stated where it was held. */
const MOVED_BY: Readonly<Record<World["quantity"], readonly string[]>> = {
  none: [],
  position: ["sweep"],
  level: ["steel", "sweep"],
  temperature: ["heat", "cool"],
  pressure: ["vacuum", "snap"],
  flow: ["snap"],
};

/** Whether what a circuit senses moves in a setup: what is recorded meanwhile swings without any fault. */
export function movesSensed(world: World, setup: Setup): boolean {
  if (!MOVED_BY[world.quantity].includes(setup.stimulus?.kind ?? "none")) return false;
  // A temperature that is stated is the one it had before it was warmed or cooled.
  return world.quantity === "temperature" || !isHeld(world, setup);
}

/** How far a hot air gun, a cold spray or a hand pump takes what it is used on, degrees and kilopascals; a snap opens the throttle to the air outside. */
const WARMED = 40;
const COOLED = 25;
const PUMPED = 50;
const OUTSIDE_KPA = 95;

/** Values of the sensed quantity that a recording passes while it is moved. @param now where it stood before */
export function movedThrough(world: World, setup: Setup, now: number): readonly number[] {
  const { quantity, low, high } = world;
  switch (setup.stimulus?.kind) {
    case "heat":
      return [now, Math.min(high, now + WARMED)];
    case "cool":
      return [now, Math.max(low, now - COOLED)];
    case "vacuum":
      return [now, Math.max(low, now - PUMPED)];
    case "snap":
      return quantity === "pressure" ? [statedWorld(world, { ...setup, stimulus: undefined }) ?? now, Math.min(high, OUTSIDE_KPA)] : [now];
    case "sweep":
      return [low, 0.5 * (low + high), high];
    case "steel":
      return [low, high];
    default:
      return [now];
  }
}

/** Engine states that bring about the sensed quantity, each with a deviation of its own besides the one this engine has in all of them. */
const BRINGING = ["crank", "idle", "rev"] as const;

/**
 * Where a value of the sensed quantity comes from, which is what its error is shared with: `known` (one gauge, one thermometer), a state of the
 * engine, one of the stops and held values it can be set to, or `moved` by warming or cooling the part. `anywhere` is shared with nothing.
 */
export type WorldSource = "known" | "moved" | "anywhere" | (typeof BRINGING)[number] | `set${number}`;

/** Whether a value comes from what the turning engine does. */
export function isBrought(source: WorldSource): boolean {
  return (BRINGING as readonly string[]).includes(source);
}

/** Who says of a position no more than this stands somewhere else each time, standard deviation as a share of the whole way. */
const ANYWHERE_SHARE = 0.2;

/** A position nobody knows more of than that it lies between the stops: {@link isAnywhere}. */
export const ANYWHERE = { value: 50, within: 60 } as const;

function isAnywhere({ quantity, low, high }: World, { truth }: Setup): boolean {
  const within = quantity === "position" && truth?.position !== undefined ? knownWithin(truth.position) : undefined;
  return within !== undefined && within / WITHIN_SPREADS >= ANYWHERE_SHARE * (high - low);
}

/** {@link WorldSource} of a setup. */
export function worldSource(world: World, setup: Setup): WorldSource {
  const fixed = fixedWorld(world, setup);
  if (fixed === null) return "known";
  if (movedTo(world, setup) !== null) return "moved";
  if (isAnywhere(world, setup)) return "anywhere";
  if (!isHeld(world, setup)) return BRINGING.find((key) => key === setup.key) ?? "known";
  const at = world.settable.findIndex(({ value }) => value === fixed.value);
  return at < 0 ? "known" : `set${at}`;
}

/** The sources of a circuit's sensed quantity that have errors of their own, besides `known`. */
export function worldSourcesOf({ quantity, forced, settable }: World): readonly Exclude<WorldSource, "known" | "anywhere">[] {
  if (quantity === "none" || quantity === "level") return [];
  const moved = quantity === "temperature" ? (["moved"] as const) : [];
  return [...moved, ...(forced === undefined ? [] : BRINGING), ...settable.map((_, index): `set${number}` => `set${index}`)];
}

/** {@link fixedWorld} without its spread. */
export function statedWorld(world: World, setup: Setup): number | null {
  return fixedWorld(world, setup)?.value ?? null;
}

/** What a circuit is exposed to in a setup at a value of its sensed quantity. */
export function situationOf(world: World, setup: Setup, value: number): Situation {
  return { engine: engineOf(setup), setup, world: value, stated: fixedWorld(world, setup) !== null };
}

/** How far the ends of a line that the sheet does not state may lie along what is sensed, in standard deviations of its value. */
export function shiftAt({ shift = 0 }: Pick<BuiltFamily, "shift">, spread: number): number {
  return spread === 0 ? 0 : shift / spread;
}

/** How far a line that the sheet does not state is turned at a value of the sensed quantity, in standard deviations of that value. */
export function stretchAt({ world: { low, high }, stretch = 0 }: Pick<BuiltFamily, "world" | "stretch">, value: number, spread: number): number {
  return spread === 0 ? 0 : (stretch * (value - 0.5 * (low + high))) / spread;
}
