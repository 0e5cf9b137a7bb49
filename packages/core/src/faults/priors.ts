import { type Hint, hintFactor } from "./hints";

/**
 * How often each kind of damage is met, before any reading, per thousand cases. Contacts and chafed wires are common,
 * modules rare; the sensor itself is blamed most and guilty in about a third. Figures are judgement, documented in
 * docs/priors.md, and only order the search: a verdict never rests on them alone.
 */
export const PRIOR_WEIGHTS: Readonly<Record<string, number>> = {
  "wire/open": 28,
  "wire/resistance": 22,
  "wire/short-ground": 28,
  "wire/short-battery": 6,
  "wire/short-to": 8,
  "wire/cranking": 8,
  "contact@sensor/open": 32,
  "contact@sensor/corroded": 40,
  "contact@sensor/loose": 14,
  "contact@sensor/swapped": 2,
  "contact@sensor/bridged": 1.5,
  "contact@inline/open": 22,
  "contact@inline/corroded": 26,
  "contact@inline/loose": 10,
  "contact@module/open": 12,
  "contact@module/corroded": 12,
  "contact@module/loose": 6,
  "sensor/open": 70,
  "sensor/short": 35,
  "sensor/dead": 70,
  "sensor/stuck-high": 35,
  "sensor/stuck-low": 35,
  "sensor/skewed": 90,
  "sensor/noisy": 90,
  "sensor/weak": 60,
  "sensor/slow": 45,
  "sensor/hot": 25,
  "sensor/wrong-variant": 20,
  "heater/open": 90,
  "heater/short": 15,
  "heater/resistance": 30,
  "coil/open": 70,
  "coil/short": 35,
  "coil/resistance": 35,
  "coil/hot": 12,
  "module/any": 5,
  "battery/weak": 20,
  "ground/dirty": 12,
  "outside/true-value": 60,
  "outside/no-target": 40,
  "outside/plugged-port": 25,
};

/** Probability, before any reading, that nothing is wrong in the circuits at hand. */
export const HEALTHY_PRIOR = 0.08;

/** The weight of a fault by unit and kind, e.g. `wire:sig`, `short-to:gnd`, with the factors of what is known of the car. */
export function priorWeight(unit: string, kind: string, hints: readonly Hint[] = []): number {
  const part = unit.split(":")[0] ?? unit;
  const bareKind = kind.split(":")[0] ?? kind;
  return tableWeight(unit, bareKind) * hintFactor(hints, part, bareKind);
}

function tableWeight(unit: string, bareKind: string): number {
  const [part = "", rest = ""] = unit.split(":");
  if (part === "module") return PRIOR_WEIGHTS["module/any"] ?? 1;
  if (part === "contact") {
    const place = rest.split("@")[1] ?? "sensor";
    const where = place === "sensor" || place === "module" ? place : "inline";
    return PRIOR_WEIGHTS[`contact@${where}/${bareKind}`] ?? 1;
  }
  return PRIOR_WEIGHTS[`${part}/${bareKind}`] ?? 1;
}
