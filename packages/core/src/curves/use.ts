import type { SpecCurve } from "@fox-lamp/language";
import { barometricKPa } from "../arithmetic";

type Kind = SpecCurve["kind"];

/** Where a family keeps its curve: the parameter, and the kinds of curve that can be put there. */
export interface CurveSlot {
  readonly parameter: "curve" | "transfer";
  /** The kind its points have in the circuit. */
  readonly kind: Kind;
  /** Kinds that can be brought to it: a chart over height is one over the air's pressure. */
  readonly takes: readonly Kind[];
}

const VOLTS: CurveSlot = { parameter: "transfer", kind: "pressure-volts", takes: ["pressure-volts", "altitude-volts"] };
const HERTZ: CurveSlot = { parameter: "transfer", kind: "pressure-hertz", takes: ["pressure-hertz", "altitude-hertz"] };
const POSITION: CurveSlot = { parameter: "transfer", kind: "position-volts", takes: ["position-volts"] };
const SLOTS: Readonly<Record<string, CurveSlot>> = {
  "thermistor-2w": { parameter: "curve", kind: "temperature-ohms", takes: ["temperature-ohms"] },
  "potentiometer-3w": POSITION,
  "dual-track": POSITION,
  "pressure-3w": VOLTS,
  "pressure-freq": HERTZ,
  "maf-voltage": { parameter: "transfer", kind: "flow-volts", takes: ["flow-volts"] },
  "maf-freq": { parameter: "transfer", kind: "flow-hertz", takes: ["flow-hertz"] },
};

/** The curve a family's circuits have; null for families without one. */
export function curveSlotOf(family: string): CurveSlot | null {
  return Object.hasOwn(SLOTS, family) ? (SLOTS[family] as CurveSlot) : null;
}

/** The points of a curve as its circuit takes them, in rising order; null where its kind is none of the slot's. @param seaLevelKPa for charts over height */
export function pointsFor(slot: CurveSlot, { kind, points }: Pick<SpecCurve, "kind" | "points">, seaLevelKPa?: number): SpecCurve["points"] | null {
  if (!slot.takes.includes(kind)) return null;
  const brought = kind.startsWith("altitude") ? points.map(([metres, shown]): [number, number] => [barometricKPa(metres, seaLevelKPa), shown]) : [...points];
  return brought.sort((a, b) => a[0] - b[0]);
}

/** Units of a kind of curve, what is sensed before what is shown. */
export function unitsOfCurve(kind: Kind): readonly [string, string] {
  const [sensed, shown] = kind.split("-") as [string, string];
  const SENSED: Readonly<Record<string, string>> = { temperature: "degC", pressure: "kPa", altitude: "m", flow: "g/s", position: "%" };
  const SHOWN: Readonly<Record<string, string>> = { ohms: "ohm", volts: "V", hertz: "Hz" };
  return [SENSED[sensed] ?? "", SHOWN[shown] ?? ""];
}
