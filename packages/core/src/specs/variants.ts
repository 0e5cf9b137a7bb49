import type { SpecVariant } from "@fox-lamp/language";
import { windingOhmsAt } from "../arithmetic";
import { interpolate } from "../circuit";

/** What was measured and seen of a part in the hand. */
export interface PartInHand {
  readonly ohms?: number | undefined;
  readonly degC?: number | undefined;
  readonly teeth?: number | undefined;
  readonly connector?: string | undefined;
  /** A point of what it shows: what it sensed, and what was read. */
  readonly point?: readonly [number, number] | undefined;
}

/** How a variant stands to a part in the hand. */
export interface VariantMatch {
  readonly part: string;
  /** Whether all that is known of both agrees; null where nothing is known of both. */
  readonly fits: boolean | null;
  readonly agrees: readonly string[];
  readonly differs: readonly string[];
}

/** A reading of a meter may lie this much outside a printed window, a share. */
const METER_SHARE = 0.01;
/** A point of a line agrees within this share of the line's span. */
const LINE_SHARE = 0.05;

const tidy = (value: number): string => `${Number(value.toPrecision(4))}`;

/** The window of a variant's ohms at the temperature of the part in the hand: a winding follows copper where both temperatures are known. */
function ohmsWindow({ ohms, degC }: SpecVariant, at: number | undefined, winding: boolean): readonly [number, number] | null {
  if (ohms === undefined) return null;
  if (!winding || degC === undefined || at === undefined) return ohms;
  return [windingOhmsAt(ohms[0], degC, at), windingOhmsAt(ohms[1], degC, at)];
}

/**
 * Holds a part in the hand against the look-alikes of a family: which ones it can be, and by what the others are out.
 * @param winding whether its resistance is copper, which rises 0.39 % a degree
 */
export function compareVariants(variants: readonly SpecVariant[], hand: PartInHand, winding: boolean): VariantMatch[] {
  const matches = variants.map((variant): VariantMatch => {
    const [agrees, differs]: [string[], string[]] = [[], []];
    const window = ohmsWindow(variant, hand.degC, winding);
    if (window !== null && hand.ohms !== undefined) {
      // A part whose ohms follow a temperature that is not the same on both sides says nothing by them.
      const comparable = winding || variant.degC === undefined || hand.degC === undefined || Math.abs(variant.degC - hand.degC) <= 3;
      const inside = hand.ohms >= window[0] * (1 - METER_SHARE) && hand.ohms <= window[1] * (1 + METER_SHARE);
      const said = `${tidy(hand.ohms)} ohm, ${inside ? "within" : "not"} ${tidy(window[0])} to ${tidy(window[1])}`;
      if (comparable) (inside ? agrees : differs).push(said);
    }
    if (variant.teeth !== undefined && hand.teeth !== undefined) {
      if (variant.teeth === hand.teeth) agrees.push(`${hand.teeth} teeth`);
      else differs.push(`${hand.teeth} teeth, not ${variant.teeth}`);
    }
    if (variant.connector !== undefined && hand.connector !== undefined && hand.connector.trim() !== "") {
      if (variant.connector.trim().toLowerCase() === hand.connector.trim().toLowerCase()) agrees.push(`connector ${variant.connector}`);
      else differs.push(`connector ${hand.connector.trim()}, not ${variant.connector}`);
    }
    if (variant.line !== undefined && hand.point !== undefined) {
      const line = [...variant.line].sort((a, b) => a[0] - b[0]);
      const shown = line.map(([, y]) => y);
      const wanted = interpolate(line, hand.point[0]);
      const near = Math.abs(wanted - hand.point[1]) <= LINE_SHARE * (Math.max(...shown) - Math.min(...shown));
      (near ? agrees : differs).push(`${tidy(hand.point[1])} at ${tidy(hand.point[0])}, its line makes ${tidy(wanted)}`);
    }
    return { part: variant.part, fits: agrees.length + differs.length === 0 ? null : differs.length === 0, agrees, differs };
  });
  const rank = ({ fits }: VariantMatch): number => (fits === null ? 1 : fits ? 0 : 2);
  return matches.sort((a, b) => rank(a) - rank(b));
}
