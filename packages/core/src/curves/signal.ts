import type { Circuit } from "@fox-lamp/language";
import { dividerVolts } from "../arithmetic";
import { type Curve, familyById, statedParameters, thermistorOhms } from "../circuit";

/** A temperature circuit's signal over temperature: what a sound one shows, within the tolerance of its parts. */
export interface SignalCurve {
  readonly points: readonly { readonly degC: number; readonly ohms: number; readonly volts: number }[];
  readonly supplyVolts: number;
  readonly pullOhms: number;
}

const STEPS = 48;

/** The signal of a thermistor's circuit over its curve's own range, Vsig = Vref Rs / (Rs + Rpull); null for circuits of other kinds, or with parameters that cannot be. */
export function signalCurveOf(circuit: Circuit): SignalCurve | null {
  const parsed = familyById(circuit.family)?.parameters.safeParse(statedParameters(circuit.with).values);
  if (circuit.family !== "thermistor-2w" || parsed?.success !== true) return null;
  const { curve, pullup, pullupV, vref } = parsed.data as { curve: Curve; pullup: number; pullupV?: number; vref?: number };
  const supply = pullupV ?? vref ?? 5;
  const [least, most] = [curve[0]?.[0] ?? 0, curve.at(-1)?.[0] ?? 0];
  const points = Array.from({ length: STEPS + 1 }, (_, step) => {
    const degC = least + ((most - least) * step) / STEPS;
    const ohms = thermistorOhms(curve, degC);
    return { degC, ohms, volts: dividerVolts(supply, pullup, ohms).value };
  });
  return { points, supplyVolts: supply, pullOhms: pullup };
}
