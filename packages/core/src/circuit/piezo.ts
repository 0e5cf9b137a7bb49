import type { Drive, FamilyFault, Situation } from "./family";
import { partFault, set } from "./stages";

/** A piezo passes alternating current through its capacitance, and next to no direct current. */
export const AC_OHMS = 30_000;
const RING_HERTZ = 6500;

/** Peak volts a healthy piezo makes: a tap, the noise of an engine, nothing at rest. */
export function piezoPeak({ engine, setup }: Situation): number {
  if (setup.stimulus?.kind === "tap") return 0.5;
  if (engine.running) return 0.06 + 0.00006 * engine.rpm;
  return 0;
}

/**
 * The moments of a piezo: one without ring that carries the average, and the two peaks, where it is a small source behind its
 * alternating-current resistance.
 *
 * @param dcOhms its resistance to direct current
 * @param factor on its amplitude
 */
export function piezoDrive(situation: Situation, dcOhms: number, factor = 1): Drive {
  const peak = factor * piezoPeak(situation);
  const still = { share: 1, assignments: [...set("piezo", "volts", 0), ...set("piezo", "ohms", dcOhms)] };
  if (peak === 0) return { moments: [still], swing: null, shape: "ring", hertz: 0, hertzSpread: 0 };
  const at = (volts: number) => ({ share: 0, assignments: [...set("piezo", "volts", volts), ...set("piezo", "ohms", Math.min(dcOhms, AC_OHMS))] });
  return { moments: [still, at(peak), at(-peak)], swing: [1, 2], shape: "ring", hertz: RING_HERTZ, hertzSpread: 0.2 };
}

/** What goes wrong in a piezo: a broken lead, a leak across it, a cracked or badly torqued element. */
export function piezoFaults(dcOhms: number): readonly FamilyFault[] {
  const { assign: _assign, ...open } = partFault("open", "Sensor open inside", []);
  return [
    { ...open, assign: () => set("piezo", "ohms", 1e9) },
    {
      unit: "sensor",
      kind: "short",
      title: "Sensor leaks inside",
      severity: { key: "ohms", low: 0.5, high: 1e4 },
      // The leak lies across the element: it divides what the element makes and lowers what it looks like from outside.
      assign: ({ severity, situation, moment }) => [
        ...(piezoDrive(situation, dcOhms, severity / (severity + AC_OHMS)).moments[moment]?.assignments ?? []),
        ...set("piezo", "ohms", moment === 0 ? (severity * dcOhms) / (severity + dcOhms) : (severity * AC_OHMS) / (severity + AC_OHMS)),
      ],
    },
    {
      unit: "sensor",
      kind: "weak",
      title: "Sensor weak, cracked or wrongly torqued",
      severity: { key: "severity", low: 0.7, high: 0.99 },
      assign: ({ severity, situation, moment }) => piezoDrive(situation, dcOhms, 1 - severity).moments[moment]?.assignments ?? [],
    },
    {
      unit: "sensor",
      kind: "dead",
      title: "Sensor makes nothing",
      severity: null,
      assign: () => set("piezo", "volts", 0),
    },
  ];
}
