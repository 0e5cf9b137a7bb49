import type { Fault } from "../../faults";

/** Chance that a look shows something that does no harm: old green on a terminal, dried water. */
const FALSE_ALARM: Readonly<Record<string, number>> = { corroded: 0.05, wet: 0.03, chafed: 0.04, "pin-out": 0.03, contaminated: 0.05 };

/** Chance that a look at a place of a circuit shows a kind of damage that is there. */
function detection(finding: string, circuit: string, place: string, fault: Fault | null): number {
  if (fault === null || fault.circuit !== circuit) return 0;
  const unit = fault.unit.split("/")[1] ?? "";
  const [part = "", rest = ""] = unit.split(":");
  const contactPlace = part === "contact" ? (rest.split("@")[1] ?? "") : "";
  if (part === "contact" && contactPlace === place) {
    if (finding === "corroded") return fault.kind === "corroded" ? 0.65 : 0.08;
    if (finding === "pin-out") return fault.kind === "open" ? 0.6 : fault.kind === "loose" ? 0.3 : 0.03;
    if (finding === "wet") return fault.kind === "corroded" ? 0.15 : 0.02;
    return finding === "pin-out" && fault.kind.startsWith("swapped") ? 0.3 : 0;
  }
  if (part === "outside") {
    if (fault.kind === "no-target" && place === "target") return finding === "not-turning" ? 0.45 : finding === "gap" ? 0.45 : 0;
    if (fault.kind === "plugged-port" && (place === "part" || place === "sensor")) return finding === "plugged-port" ? 0.7 : 0;
    return 0;
  }
  if (part === "sensor" && place === "part") {
    if (finding === "contaminated") return fault.kind === "weak" || fault.kind === "skewed" || fault.kind === "slow" ? 0.35 : 0.02;
    if (finding === "wrong-part") return fault.kind === "wrong-variant" ? 0.6 : 0.01;
    return 0;
  }
  if (part === "wire" && place === "loom") {
    const short = fault.kind.startsWith("short");
    if (finding === "chafed") return short ? 0.5 : 0.2;
    if (finding === "corroded") return fault.kind === "resistance" ? 0.15 : 0.01;
  }
  return 0;
}

/**
 * Probabilities of what a look shows: the first name is "ok", the rest findings. A finding elsewhere is a false alarm.
 */
export function findingProbabilities(names: readonly string[], circuit: string, place: string, fault: Fault | null): Float64Array {
  const out = new Float64Array(names.length);
  let found = 0;
  for (let index = 1; index < names.length; index += 1) {
    const chance = Math.max(FALSE_ALARM[names[index] ?? ""] ?? 0.004, detection(names[index] ?? "", circuit, place, fault));
    out[index] = chance;
    found += chance;
  }
  out[0] = Math.max(0.02, 1 - found);
  return out;
}
