import { type Finding, findingsAt, parseUnit, type RepairUnit } from "@fox-lamp/language";
import type { Fault } from "../../faults";

/** Chance that a look shows something that does no harm: old green on a terminal, dried water, filings on a magnet. */
const FALSE_ALARM: Readonly<Record<Exclude<Finding, "ok">, number>> = {
  unplugged: 0.01,
  corroded: 0.05,
  "pin-out": 0.03,
  chafed: 0.04,
  wet: 0.03,
  burnt: 0.008,
  "not-turning": 0.002,
  gap: 0.02,
  metal: 0.03,
  "plugged-port": 0.004,
  contaminated: 0.05,
  "wrong-part": 0.004,
};

/** What is wrong, as a look meets it: the unit and the kind of its fault, and where one looks. */
interface Damage {
  readonly unit: RepairUnit;
  readonly kind: string;
  readonly place: string;
}

const isShort = (kind: string): boolean => kind.startsWith("short");

/** Chance that a terminal's fault shows, looking into its own connector. */
function atContact(finding: Finding, kind: string): number {
  const swapped = kind.startsWith("swapped");
  const bridged = kind.startsWith("bridged");
  switch (finding) {
    case "corroded":
      return kind === "corroded" ? 0.65 : bridged ? 0.3 : swapped ? 0 : 0.08;
    case "pin-out":
      return kind === "open" ? 0.6 : kind === "loose" || swapped ? 0.3 : 0.03;
    case "unplugged":
      return kind === "open" ? 0.1 : kind === "loose" ? 0.08 : 0;
    case "wet":
      return kind === "corroded" ? 0.15 : bridged ? 0.5 : swapped ? 0 : 0.02;
    case "burnt":
      return swapped ? 0 : 0.02;
    default:
      return 0;
  }
}

/** Chance that a wire's fault shows along the loom, or where the wire enters a connector. */
function atWire(finding: Finding, kind: string, place: string): number {
  const inLoom = place === "loom";
  switch (finding) {
    case "chafed":
      return inLoom ? (isShort(kind) ? 0.5 : 0.2) : isShort(kind) ? 0.06 : 0;
    case "corroded":
      return inLoom ? (kind === "resistance" ? 0.15 : 0.01) : 0;
    case "wet":
      return inLoom && kind === "resistance" ? 0.05 : 0;
    case "burnt":
      return inLoom ? (isShort(kind) ? 0.1 : 0.02) : isShort(kind) ? 0.02 : 0;
    default:
      return 0;
  }
}

/** Chance that a fault of the sensor, its heater or a coil shows on the part. */
function atPart(finding: Finding, { unit, kind }: Damage): number {
  const worn = kind === "weak" || kind === "skewed" || kind === "slow";
  switch (finding) {
    case "contaminated":
      return unit.kind === "sensor" ? (worn ? 0.35 : 0.02) : 0;
    case "wrong-part":
      return unit.kind !== "sensor" ? 0 : kind === "wrong-variant" ? 0.6 : 0.01;
    case "metal":
      return unit.kind === "sensor" && (kind === "weak" || kind === "noisy") ? 0.25 : 0;
    case "burnt":
      return unit.kind === "sensor" ? (kind === "short" || kind === "dead" ? 0.05 : 0) : kind === "open" || kind === "short" ? 0.12 : 0.03;
    default:
      return 0;
  }
}

/** Chance that what stands outside the circuit shows: the wheel and its gap, the port and its hose. */
function atOutside(finding: Finding, kind: string): number {
  if (kind === "no-target") return finding === "not-turning" ? 0.6 : finding === "gap" ? 0.3 : 0;
  if (kind === "plugged-port") return finding === "plugged-port" ? 0.7 : 0;
  return 0;
}

/** Chance that a look at a place shows a kind of damage that is there; 0 where it cannot be seen. */
function detection(finding: Finding, damage: Damage): number {
  const { unit, kind, place } = damage;
  switch (unit.kind) {
    case "contact":
      return unit.place === place ? atContact(finding, kind) : 0;
    case "wire":
      return place === "part" || place === "target" ? 0 : atWire(finding, kind, place);
    case "sensor":
      // A gap that is too wide is the wheel's or the bracket's, not the sensor's.
      if (place === "target") return kind === "weak" && finding === "metal" ? 0.25 : 0;
      return place === "part" || place === "sensor" ? atPart(finding, damage) : 0;
    case "heater":
    case "coil":
      return place === "part" || place === "sensor" ? atPart(finding, damage) : 0;
    case "outside":
      return atOutside(finding, kind);
    case "connector":
    case "contacts":
    case "module":
    case "ground":
    case "battery":
      return 0;
  }
}

/**
 * Probabilities of what a look shows: {@link findingsAt} of the place, "ok" first. Damage that is there is seen as what it looks like, or
 * missed; where it is missed, or not there, what is found is a false alarm. A look weighs twenty to one at most, but for what nobody
 * mistakes: a wheel that stands, a plugged port, a wrong part.
 *
 * @param circuit the circuit that is looked at
 * @param place as in a reading's `red`: sensor, module, C1, loom, target, part
 * @returns one chance for each of the place's findings; they sum to 1
 */
export function findingProbabilities(circuit: string, place: string, fault: Fault | null): Float64Array {
  const names = findingsAt(place);
  const unit = fault === null || fault.circuit !== circuit ? null : parseUnit(fault.unit);
  const seen = names.map((finding) => (unit === null || fault === null || finding === "ok" ? 0 : detection(finding, { unit, kind: fault.kind, place })));
  const missed = 1 - seen.reduce((sum, chance) => sum + chance, 0);
  const alarms = names.map((finding) => (finding === "ok" ? 0 : FALSE_ALARM[finding]));
  const none = 1 - alarms.reduce((sum, chance) => sum + chance, 0);
  return Float64Array.from(names, (finding, index) => (finding === "ok" ? missed * none : (seen[index] ?? 0) + missed * (alarms[index] ?? 0)));
}
