import type { Reading, Value } from "@fox-lamp/language";

/** Moving the loom moves every wire: what a loose strand does then it does at no connector. */
const LOOM = "loom";
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
  const moved = readings.filter(({ setup }) => setup?.stimulus?.kind === "wiggle" && setup.stimulus.at === LOOM);
  if (moved.length === 0) return false;
  const still = readings.filter(({ setup }) => (setup?.stimulus?.kind ?? "none") === "none");
  return moved.some((reading) => {
    const key = stillKey(reading);
    return still.some((before) => stillKey(before) === key && differs(before.value, reading.value));
  });
}
