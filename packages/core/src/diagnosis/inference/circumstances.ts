import { parseUnit, placeIn, type Reading } from "@fox-lamp/language";
import type { Circumstances, Observation } from "../likelihood/observation";
import { foundOff } from "./found-off";
import { goesOf } from "./go";
import type { Inference } from "./inference";
import type { NamedReading } from "./observe";
import { complaintOf, isLoom, movedPlace, PRESENCE } from "./presence";

/** The connector a contact fault sits in, with its circuit; null for other units. */
export function placeOfUnit(unit: string): string | null {
  const parsed = parseUnit(unit);
  return parsed?.kind === "contact" ? placeIn(parsed.circuit, parsed.place) : null;
}

/** Connectors whose contacts a reading's state disturbs: those unplugged, and one that is moved. */
function disturbed(reading: Reading): readonly string[] {
  const open = reading.setup?.open ?? [];
  const moved = movedPlace(reading);
  return moved === null || isLoom(moved) ? open : [...open, moved];
}

/**
 * What readings say about when faults were there: whether the complaint showed, and which connectors had been unplugged or moved.
 *
 * @param onlyCircuit the circuit of readings that name none
 * @param comesAndGoes whether the job's fault is absent at times
 */
export function circumstancesOf(
  inference: Inference,
  readings: readonly NamedReading[],
  observations: readonly Observation[],
  onlyCircuit: string,
  comesAndGoes: boolean,
): Circumstances {
  const { grid } = inference;
  const at = new Map(readings.map(({ id }, index) => [id, index]));
  const order = observations.map(({ id }) => at.get(id) ?? -1);
  const first = new Map<string, number>();
  const disturb = (reading: Reading, connector: string, from: number): void => {
    const place = placeIn(reading.circuit ?? onlyCircuit, connector);
    if (!first.has(place)) first.set(place, from);
  };
  readings.forEach(({ reading }, index) => {
    for (const connector of disturbed(reading)) disturb(reading, connector, index);
    // A plug that hung loose is pushed home once it has been seen.
    const off = foundOff(reading);
    if (off !== null) disturb(reading, off, index + 1);
  });
  const after: Uint8Array[] = [];
  const entry = new Map<string, number>();
  for (const [place, from] of first) {
    const later = Uint8Array.from(order, (index) => (index >= from ? 1 : 0));
    entry.set(place, after.push(later) - 1);
  }
  const byFault = grid.faults.map((fault) => {
    const place = fault === null || fault.kind.startsWith("swapped") ? null : placeOfUnit(fault.unit);
    return place === null ? -1 : (entry.get(place) ?? -1);
  });
  const presence = !comesAndGoes ? null : observations.map(({ id }) => PRESENCE[complaintOf(readings[at.get(id) ?? -1]?.reading.symptom)]);
  const taken = goesOf(readings, onlyCircuit, inference.basis.conditions);
  const goes = order.map((index) => taken[index] ?? -1);
  return { sometimes: grid.sometimes, presence, goes, disturbedBy: Int32Array.from(grid.fault, (fault) => byFault[fault]), after };
}
