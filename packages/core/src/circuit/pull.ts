import type { CircuitBuilder } from "./builder";
import type { Alternative, Tolerance } from "./family";
import { unsaid } from "./stages";

/** A weak pull-up of a ratiometric input, ohms. */
const WEAK_PULLUP_OHMS = 100_000;

/** How far a resistor of an input may be from the usual one, ln ohms: 47 kilo-ohm to 1 megohm are met where it is weak (field guide, section 14). */
const PULL_SPREAD = 0.8;

/** The parameters that say an input's resistor, the one it has under what is given first: that one is asked for. */
export function pullNames({ pullup }: { readonly pullup?: number | undefined }): readonly string[] {
  return pullup === undefined ? ["pulldown", "pullup"] : ["pullup", "pulldown"];
}

/** What a sheet leaves open of an input's resistors. @param names the parameters that say them; @param elements move together */
export function unsaidPull(builder: CircuitBuilder, names: readonly string[], elements: readonly string[] = ["pull"]): readonly Tolerance[] {
  return unsaid(builder, names, { id: "pull", targets: elements.map((element) => ({ element, field: "ohms", kind: "relative", sigma: PULL_SPREAD })) });
}

/** A module holds an open input down on some cars and up on others: both are met where the sheet names neither resistor. */
export function pullAlternatives(silent: (parameter: string) => boolean): readonly Alternative[] {
  if (!silent("pulldown") || !silent("pullup")) return [];
  return [
    { with: {}, weight: 0.6 },
    { with: { pullup: WEAK_PULLUP_OHMS }, weight: 0.4 },
  ];
}

/** The same of a sensor with two tracks: both down, or the second or both up, so that the module sees an unplugged sensor for what it is. */
export function heldUpAlternatives(silent: (parameter: string) => boolean): readonly Alternative[] {
  if (!silent("heldUp")) return [];
  return [
    { with: { heldUp: "none" }, weight: 0.55 },
    { with: { heldUp: "second" }, weight: 0.25 },
    { with: { heldUp: "both" }, weight: 0.2 },
  ];
}

/** Every kind of one list with every kind of another; an empty list leaves nothing open. */
export function crossed(some: readonly Alternative[], others: readonly Alternative[]): readonly Alternative[] {
  if (some.length === 0) return others;
  if (others.length === 0) return some;
  return some.flatMap((one) => others.map((other) => ({ with: { ...one.with, ...other.with }, weight: one.weight * other.weight })));
}
