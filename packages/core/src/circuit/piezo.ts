import { OPEN_OHMS } from "../network";
import type { CircuitBuilder } from "./builder";
import type { Drive, FamilyFault, Situation } from "./family";
import { partFault, set } from "./stages";

/** A piezo passes alternating current through its capacitance, and next to no direct current. */
export const AC_OHMS = 30_000;
const RING_HERTZ = 6500;

/** A bare crystal without a resistor beside it: an ohmmeter shows OL, ohms [low, high]. */
export const OPEN_PIEZO: readonly [number, number] = [8e7, 8e8];

/** Peak volts a healthy piezo makes: a tap, the noise of an engine, nothing at rest. */
export function piezoPeak({ engine, setup }: Situation): number {
  if (setup.stimulus?.kind === "tap") return 0.55;
  if (engine.running) return 0.06 + 0.00006 * engine.rpm;
  return 0;
}

/** Sound piezos of one engine ring within a factor of ten of each other, and no module asks for more: less than this share of the usual ring is missed. */
const LEAST_RING_SHARE = 0.1;

/**
 * By how much a ring has to fall in the module before it is missed, volts peak to peak.
 *
 * @param ringVolts of the bare piezo, peak to peak
 * @param holdOhms what lies on the wire in the module
 */
export function missedRing(ringVolts: number, holdOhms: readonly number[]): number {
  const heard = ringVolts / (1 + holdOhms.reduce((sum, ohms) => sum + AC_OHMS / ohms, 0));
  return (1 - LEAST_RING_SHARE) * heard;
}

/** Lays a piezo between two nodes: what it makes, and beside it what leads direct current. @param dcOhms its resistance to direct current */
export function layPiezo(builder: CircuitBuilder, plus: string, minus: string, dcOhms: number): void {
  builder.add({ kind: "source", id: "piezo", plus, minus, volts: 0, ohms: OPEN_OHMS });
  builder.resistor("leak", plus, minus, dcOhms);
}

/**
 * The moments of a piezo: one without ring that carries the average, and the two peaks, where it is a small source behind its
 * alternating-current resistance.
 *
 * @param factor on its amplitude
 */
export function piezoDrive(situation: Situation, factor = 1): Drive {
  const peak = factor * piezoPeak(situation);
  const still = { share: 1, assignments: [...set("piezo", "volts", 0), ...set("piezo", "ohms", OPEN_OHMS)] };
  if (peak === 0) return { moments: [still], swing: null, shape: "ring", hertz: 0, hertzSpread: 0 };
  const at = (volts: number) => ({ share: 0, assignments: [...set("piezo", "volts", volts), ...set("piezo", "ohms", AC_OHMS)] });
  return { moments: [still, at(peak), at(-peak)], swing: [1, 2], shape: "ring", hertz: RING_HERTZ, hertzSpread: 0.2 };
}

/** What goes wrong in a piezo: a broken lead, a leak across it, a cracked or badly torqued element. */
export function piezoFaults(): readonly FamilyFault[] {
  return [
    partFault("open", "Sensor open inside", [...set("piezo", "ohms", OPEN_OHMS), ...set("leak", "ohms", OPEN_OHMS)]),
    {
      unit: "sensor",
      kind: "short",
      title: "Sensor leaks inside",
      severity: { key: "ohms", low: 0.5, high: 1e4 },
      assign: ({ severity }) => set("leak", "ohms", severity),
    },
    {
      unit: "sensor",
      kind: "weak",
      title: "Sensor weak, cracked or wrongly torqued",
      severity: { key: "severity", low: 1 - LEAST_RING_SHARE, high: 0.99 },
      assign: ({ severity, situation, moment }) => piezoDrive(situation, 1 - severity).moments[moment]?.assignments ?? [],
    },
    partFault("dead", "Sensor makes nothing", set("piezo", "volts", 0)),
  ];
}
