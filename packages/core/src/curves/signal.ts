import type { Circuit } from "@fox-lamp/language";
import { dividerVolts } from "../arithmetic";
import { thermistorOhms } from "../circuit";
import { thermistorCircuit } from "./pull-up";

/** A temperature circuit's signal over temperature: what a sound one shows, within the tolerance of its parts. */
export interface SignalCurve {
  readonly points: readonly { readonly degC: number; readonly ohms: number; readonly volts: number }[];
  readonly supplyVolts: number;
  readonly pullOhms: number;
}

const STEPS = 48;

/** The signal of a thermistor's circuit over its curve's own range, Vsig = Vref Rs / (Rs + Rpull); null for circuits of other kinds, or with parameters that cannot be. */
export function signalCurveOf(circuit: Circuit): SignalCurve | null {
  const made = thermistorCircuit(circuit);
  if (made === null) return null;
  const { curve, pullOhms, supplyVolts } = made;
  const [least, most] = [curve[0]?.[0] ?? 0, curve.at(-1)?.[0] ?? 0];
  const points = Array.from({ length: STEPS + 1 }, (_, step) => {
    const degC = least + ((most - least) * step) / STEPS;
    const ohms = thermistorOhms(curve, degC);
    return { degC, ohms, volts: dividerVolts(supplyVolts, pullOhms, ohms).value };
  });
  return { points, supplyVolts, pullOhms };
}
