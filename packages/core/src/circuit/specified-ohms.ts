import { type Circuit, unitKindOf } from "@fox-lamp/language";
import { windingOhmsAt } from "../arithmetic";
import { statedParameters } from "./provenance";

/**
 * The resistance a circuit's sheet gives for a unit's part, lowest and highest, ohms. What is usual for the family is no specification: null where
 * the sheet itself says nothing.
 * @param unit e.g. `purge/coil`
 */
export function specifiedOhms({ with: given }: Pick<Circuit, "with">, unit: string): readonly [number, number] | null {
  const { values, origins } = statedParameters(given);
  const stated = (name: string): unknown => ((origins.get(name)?.from ?? "family") === "family" ? undefined : values[name]);
  const kind = unitKindOf(unit);
  const window = kind === "heater" ? stated("heater") : kind === "coil" ? stated("coil") : (stated("resistance") ?? stated("coil"));
  return Array.isArray(window) && window.length === 2 && window.every((end) => typeof end === "number") ? [window[0] as number, window[1] as number] : null;
}

/** The temperature a sheet's resistance of a winding is given at where it says none, degC. */
const BOOK_DEGC = 20;

/**
 * A sheet's window of a copper winding at another temperature than the book's, ohms.
 * @param degC of the winding when it was measured; null where nobody knows it: the book's own
 */
export function windingOhmsWindow([low, high]: readonly [number, number], degC: number | null): readonly [number, number] {
  if (degC === null) return [low, high];
  return [windingOhmsAt(low, BOOK_DEGC, degC), windingOhmsAt(high, BOOK_DEGC, degC)];
}
