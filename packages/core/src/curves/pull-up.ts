import type { Circuit } from "@fox-lamp/language";
import { type Curve, familyById, statedParameters } from "../circuit";

/** A thermistor's curve and the module's resistor and supply behind which it stands. */
export interface ThermistorCircuit {
  readonly curve: Curve;
  readonly pullOhms: number;
  readonly supplyVolts: number;
}

/** What a thermistor's circuit is made of, the supply of its pull-up being the reference unless it says otherwise; null for circuits of other kinds, or with parameters that cannot be. */
export function thermistorCircuit(circuit: Circuit): ThermistorCircuit | null {
  const parsed = familyById(circuit.family)?.parameters.safeParse(statedParameters(circuit.with).values);
  if (circuit.family !== "thermistor-2w" || parsed?.success !== true) return null;
  const { curve, pullup, pullupV, vref } = parsed.data as { curve: Curve; pullup: number; pullupV?: number; vref: number };
  return { curve, pullOhms: pullup, supplyVolts: pullupV ?? vref };
}
