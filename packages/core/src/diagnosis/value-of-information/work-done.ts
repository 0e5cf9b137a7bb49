import { type Instrument, placeIn, type Reading } from "@fox-lamp/language";
import { measurementId } from "../../procedures";
import type { DiagnosedJob } from "../inference/diagnosed-job";
import type { NamedReading } from "../inference/observe";
import { type Complaint, complaintOf } from "../inference/presence";

/** What has been done so far, as far as it changes the price of the next test. */
export interface WorkDone {
  readonly reached: ReadonlySet<string>;
  readonly unplugged: ReadonlySet<string>;
  readonly done: ReadonlyMap<string, number>;
  readonly last: string | null;
  /** Tests since which nothing was moved, heated or unplugged, and the complaint did not come or go. */
  readonly unchanged: ReadonlySet<string>;
  /** Tests that did not read the same each time they were done. */
  readonly differing: ReadonlySet<string>;
  /** The complaint as the last reading left it. */
  readonly complaint: Complaint;
  /** Tests whose reading is in doubt: only these, and tests that wait for a fault to show, are worth repeating. */
  readonly doubted: ReadonlySet<string>;
  readonly bench: ReadonlySet<Instrument> | null;
  /** The fault comes and goes: a reading that looks healthy may be taken again. */
  readonly passing: boolean;
  /** The engine does not start: nothing can be read at idle or above. */
  readonly noStart: boolean;
  /** Tests the technician cannot or will not do. */
  readonly skipped: ReadonlySet<string>;
}

/** A test of one circuit: its id repeats in others. */
export function testKey(circuit: string, id: string): string {
  return `${circuit} ${id}`;
}

/** The test a reading was taken in. @param onlyCircuit the circuit of readings that name none */
export function testOf(reading: Reading, onlyCircuit: string): string {
  return testKey(reading.circuit ?? onlyCircuit, measurementId(reading));
}

const DISTURBING: readonly string[] = ["wiggle", "tap", "heat", "cool", "snap"];

/** Whether a reading changed something for those that follow: it moved, struck or heated, unplugged what was never unplugged, or found the complaint come or gone. */
function disturbs({ setup = {}, symptom }: Reading, before: Complaint, unplugged: ReadonlySet<string>, circuit: string): boolean {
  if (DISTURBING.includes(setup.stimulus?.kind ?? "none")) return true;
  if ((setup.open ?? []).some((open) => !unplugged.has(placeIn(circuit, open)))) return true;
  return complaintOf(symptom) !== before;
}

/** Two readings of one test further apart than this share of the larger are not the same; recordings by their ends. A steady level repeats better. */
const ALIKE_SHARE = 0.25;
const ALIKE_LEVEL_SHARE = 0.08;
/** Levels nearer than this are the same whatever their size, volts. */
const LEAST_APART = 0.15;

/** Whether two readings of one test read the same. */
export function alike({ meter, unit, value: one }: Reading, { value: other }: Reading): boolean {
  const level = meter === "volts-dc" || (meter === "scan" && unit === undefined);
  const share = level ? ALIKE_LEVEL_SHARE : ALIKE_SHARE;
  if (typeof one === "number" && typeof other === "number")
    return Math.abs(one - other) <= Math.max(level ? LEAST_APART : 0, share * Math.max(Math.abs(one), Math.abs(other)));
  if (typeof one === "object" && typeof other === "object") {
    const room = ALIKE_SHARE * Math.max(Math.abs(one.max - one.min), Math.abs(other.max - other.min));
    return Math.abs(one.min - other.min) <= room && Math.abs(one.max - other.max) <= room;
  }
  return one === other;
}

/** What the readings so far mean for the price and the use of the next test. */
export function workDoneOf(
  readings: readonly NamedReading[],
  onlyCircuit: string,
  job: DiagnosedJob,
  inDoubt: ReadonlySet<string>,
  passing: boolean,
): WorkDone {
  const reached = new Set<string>();
  const unplugged = new Set<string>();
  const done = new Map<string, number>();
  const doubted = new Set<string>();
  const unchanged = new Set<string>();
  const differing = new Set<string>();
  const firstRead = new Map<string, Reading>();
  let complaint: Complaint = "unknown";
  let seen: string | null = null;
  let last: string | null = null;
  let noStart = job.facts?.engine === "does-not-start";
  for (const { reading, id: readingId } of readings) {
    const circuit = reading.circuit ?? onlyCircuit;
    for (const point of [reading.meter === "scan" ? "" : reading.red, reading.black ?? "", reading.setup?.stimulus?.at ?? ""]) {
      const [left = "", right] = point.split("@");
      const place = right ?? left;
      const owner = right !== undefined && left.includes(":") ? (left.split(":")[0] ?? circuit) : circuit;
      if (place !== "") reached.add(placeIn(owner, place === "part" ? "sensor" : place));
    }
    if (disturbs(reading, complaint, unplugged, circuit)) unchanged.clear();
    complaint = complaintOf(reading.symptom);
    for (const open of reading.setup?.open ?? []) {
      const place = placeIn(circuit, open);
      reached.add(place);
      // Did unplugging change the complaint? What the module saw before is worth seeing again.
      if (!unplugged.has(place) && seen !== null) done.delete(seen);
      unplugged.add(place);
    }
    const id = testOf(reading, onlyCircuit);
    done.set(id, (done.get(id) ?? 0) + 1);
    unchanged.add(id);
    const first = firstRead.get(id);
    if (first === undefined) firstRead.set(id, reading);
    else if (!alike(first, reading)) differing.add(id);
    if (reading.meter === "scan" && (reading.setup?.open ?? []).length === 0 && reading.setup?.stimulus === undefined) seen = id;
    if (inDoubt.has(readingId)) doubted.add(id);
    last = id;
    // A module that sees no engine speed while cranking does not let the engine run.
    if (reading.meter === "scan" && reading.unit === "rpm" && reading.setup?.key === "crank") noStart = reading.value === 0;
    if (reading.setup?.key === "idle" || reading.setup?.key === "rev") noStart = false;
  }
  const bench = job.bench === undefined ? null : new Set<Instrument>(job.bench);
  return { reached, unplugged, done, last, unchanged, differing, complaint, doubted, bench, passing, noStart, skipped: new Set(job.skipped ?? []) };
}
