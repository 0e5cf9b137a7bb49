import type { Reading, Value } from "@fox-lamp/language";
import { isLoom, isStill, movedPlace } from "../inference/presence";

/** A reading has changed from this share of the larger one on, and by so much in its own unit: no meter and no bad lead makes that. */
const CHANGED_SHARE = 0.3;
const LEAST_CHANGE = 0.3;

/** A reading's measurement but for what was moved while it was taken. */
function stillKey({ circuit, meter, red, black, unit, setup }: Reading): string {
  const { stimulus: _moved, ...still } = setup ?? {};
  return JSON.stringify([circuit, meter, red, black, unit, Object.entries(still).sort(([one], [other]) => (one < other ? -1 : 1))]);
}

function ends(value: Value): readonly [number, number] | null {
  if (typeof value === "number") return [value, value];
  return typeof value === "object" && value !== null ? [value.min, value.max] : null;
}

/** Whether two values of one measurement are not the same state of a circuit. */
function differs(one: Value, other: Value): boolean {
  const [first, second] = [ends(one), ends(other)];
  if (first === null || second === null) return (first === null) !== (second === null) || one !== other;
  const apart = Math.max(Math.abs(first[0] - second[0]), Math.abs(first[1] - second[1]));
  return apart > Math.max(LEAST_CHANGE, CHANGED_SHARE * Math.max(...first.map(Math.abs), ...second.map(Math.abs)));
}

/** Whether a reading became another one while the loom was moved: the fault comes and goes, whoever has said so. */
export function showsWhileMoved(readings: readonly Reading[]): boolean {
  // What a loose strand does while the loom is moved it does at no connector.
  const moved = readings.filter((reading) => isLoom(movedPlace(reading)));
  if (moved.length === 0) return false;
  const still = readings.filter(isStill);
  return moved.some((reading) => {
    const key = stillKey(reading);
    return still.some((before) => stillKey(before) === key && differs(before.value, reading.value));
  });
}

/**
 * Readings of a job whose fault comes and goes, with what they themselves say of it: where a measurement reads the same whenever nothing is moved,
 * and something else while a place is, the fault was there then and not otherwise, or the other way round where somebody said that the complaint is
 * there when nothing is moved. What somebody said of the complaint stands.
 */
export function withSymptoms<R extends { readonly reading: Reading }>(readings: readonly R[]): R[] {
  const groups = new Map<string, R[]>();
  for (const named of readings) {
    const key = stillKey(named.reading);
    groups.set(key, [...(groups.get(key) ?? []), named]);
  }
  const shown = new Map<R, boolean>();
  for (const group of groups.values()) {
    const still = group.filter(({ reading }) => isStill(reading));
    const moved = group.filter(({ reading }) => movedPlace(reading) !== null);
    const [first] = still;
    if (first === undefined || still.some(({ reading }) => differs(first.reading.value, reading.value))) continue;
    const changed = moved.map(({ reading }) => differs(first.reading.value, reading.value));
    if (!changed.includes(true)) continue;
    const stated = new Set(still.flatMap(({ reading }) => reading.symptom ?? []));
    // The same numbers with the complaint and without it: they do not tell.
    if (stated.size > 1) continue;
    const standing = stated.has(true);
    for (const named of still) shown.set(named, standing);
    moved.forEach((named, index) => {
      shown.set(named, changed[index] === true ? !standing : standing);
    });
  }
  return readings.map((named) => {
    const symptom = named.reading.symptom ?? shown.get(named);
    return symptom === undefined ? named : { ...named, reading: { ...named.reading, symptom } };
  });
}
