import { parseUnit, placeIn, type Reading } from "@fox-lamp/language";
import type { Probe } from "../../instruments";
import type { HypothesisGrid } from "../hypotheses/grid";
import type { NamedReading } from "./observe";

/** What the technician says of the complaint at a moment. */
export type Complaint = "yes" | "no" | "unknown";

/** How likely an intermittent fault is there, by what the technician says of the complaint at that moment. */
export const PRESENCE: Readonly<Record<Complaint, number>> = { yes: 0.95, no: 0.04, unknown: 0.65 };

/** {@link Complaint} of a reading's `symptom`. */
export function complaintOf(symptom: boolean | undefined): Complaint {
  return symptom === undefined ? "unknown" : symptom ? "yes" : "no";
}

/** The complaint as the last reading left it. */
export function complaintNow(readings: readonly NamedReading[]): Complaint {
  return complaintOf(readings.at(-1)?.reading.symptom);
}

/** Moving the loom between the connectors moves every wire, and leaves the contacts in them alone or nearly so. */
const LOOM = "loom";

/** Whether a place that is moved is a loom, of whichever circuit. */
export function isLoom(place: string | null): boolean {
  return place === LOOM || place?.endsWith(`:${LOOM}`) === true;
}

/** The place that was moved while a reading was taken; null where nothing was. */
export function movedPlace({ setup }: Pick<Reading, "setup">): string | null {
  return setup?.stimulus?.kind === "wiggle" ? (setup.stimulus.at ?? null) : null;
}

/** Whether nothing was done to the circuit while a reading was taken. */
export function isStill({ setup }: Pick<Reading, "setup">): boolean {
  return (setup?.stimulus?.kind ?? "none") === "none";
}

/** How often a complaint shows while the very place of its cause is moved; while another place is; and by itself, as it does now and then. */
const AT_ITS_PLACE = 0.7;
export const ELSEWHERE = 0.15;
/** Moving the loom moves every wire, and every contact a little. */
const LOOM_MOVES_CONTACTS = 0.3;

/** How often a fault's complaint shows while a place is moved. */
export function shownWhile(unit: string, moved: string, only: string): number {
  const parsed = parseUnit(unit);
  if (parsed === null) return ELSEWHERE;
  const place = placeIn(parsed.circuit, moved);
  if (parsed.kind === "contact" && placeIn(parsed.circuit, parsed.place) === place) return AT_ITS_PLACE;
  // The loom of a circuit that is named is its own; one that is not carries them all.
  const here = place === placeIn(parsed.circuit, LOOM);
  if (parsed.kind === "contact" && here) return LOOM_MOVES_CONTACTS;
  if (parsed.kind === "wire") return here ? AT_ITS_PLACE : parsed.circuit === only && !isLoom(moved) ? LOOM_MOVES_CONTACTS : ELSEWHERE;
  return ELSEWHERE;
}

/** How likely a fault that is not there now is back for the next reading by itself, and while a recording watches for it. */
const COMES_BACK = 0.12;
const COMES_BACK_WATCHED = 0.3;

/**
 * How likely a fault that comes and goes is there in the next reading of a probe, for every unit of a grid: as the complaint stands now, and as
 * moving a place or watching for a while brings it.
 */
export function presenceNext(grid: Pick<HypothesisGrid, "units">, now: Complaint): (probe: Probe) => Float64Array {
  const kept = new Map<string, Float64Array>();
  return (probe) => {
    const moved = probe.kind === "electrical" ? movedPlace(probe) : null;
    const watched = probe.kind === "electrical" && probe.statistic === "swing";
    const key = `${probe.circuit.id} ${moved ?? ""} ${watched}`;
    const known = kept.get(key);
    if (known !== undefined) return known;
    const alone = now === "no" ? (watched ? COMES_BACK_WATCHED : COMES_BACK) : PRESENCE[now];
    const shares = Float64Array.from(grid.units, (unit) => (moved === null ? alone : Math.max(alone, shownWhile(unit, moved, probe.circuit.id))));
    kept.set(key, shares);
    return shares;
  };
}
