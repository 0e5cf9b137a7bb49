import { type Instrument, type Measurement, placeIn, type Reading } from "@fox-lamp/language";
import { measurementId } from "../../procedures";
import type { DiagnosedJob } from "../inference/diagnosed-job";
import { foundOff } from "../inference/found-off";
import { follow, type Go, type Known, screenOf, statedBesides } from "../inference/go";
import type { NamedReading } from "../inference/observe";
import { type Complaint, complaintOf } from "../inference/presence";

/** What has been done so far, as far as it changes the price of the next test. */
export interface WorkDone {
  readonly reached: ReadonlySet<string>;
  readonly unplugged: ReadonlySet<string>;
  /** Places that were looked at, in whatever state. */
  readonly looked: ReadonlySet<string>;
  readonly done: ReadonlyMap<string, number>;
  readonly last: string | null;
  /** The go in which the last reading was taken from the module, with the tests read in it; null for another instrument. */
  readonly go: Go | null;
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
  /** What tests take for granted: see {@link testOf}. */
  readonly known: Known;
}

/** A test of one circuit: its id repeats in others. */
export function testKey(circuit: string, id: string): string {
  return `${circuit} ${id}`;
}

/** A point without the name of its own circuit, as tests of that circuit name it. */
function ownPoint(point: string, circuit: string): string {
  return point.startsWith(`${circuit}:`) ? point.slice(circuit.length + 1) : point;
}

/**
 * The test a reading was taken in, however it was written: a value that is known for the whole job is the same said or unsaid, with how sure it is or
 * without; a lowest and a highest are a recording.
 *
 * @param onlyCircuit the circuit of readings that name none
 * @param known nothing unless given: what was stated with each of two readings then counts
 */
export function testOf(reading: Measurement & { readonly value?: Reading["value"] }, onlyCircuit: string, known: Known = {}): string {
  const circuit = reading.circuit ?? onlyCircuit;
  const { truth: _truth, ...setup } = reading.setup ?? {};
  const stated = statedBesides(circuit, reading.setup ?? {}, known);
  const record = typeof reading.value === "object" ? ("min-max" as const) : reading.record;
  const [red, black] = [ownPoint(reading.red, circuit), reading.black === undefined ? undefined : ownPoint(reading.black, circuit)];
  return testKey(circuit, measurementId({ ...reading, red, black, record, setup: { ...setup, truth: Object.fromEntries(stated) } }));
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
  known: Known,
): WorkDone {
  const reached = new Set<string>();
  const unplugged = new Set<string>();
  const looked = new Set<string>();
  const done = new Map<string, number>();
  const doubted = new Set<string>();
  const unchanged = new Set<string>();
  const differing = new Set<string>();
  const firstRead = new Map<string, Reading>();
  let complaint: Complaint = "unknown";
  let seen: string | null = null;
  let last: string | null = null;
  let go: Go | null = null;
  let noStart = job.facts?.engine === "does-not-start";
  for (const { reading, id: readingId } of readings) {
    const circuit = reading.circuit ?? onlyCircuit;
    for (const point of [reading.meter === "scan" ? "" : reading.red, reading.black ?? "", reading.setup?.stimulus?.at ?? ""]) {
      const [left = "", right] = point.split("@");
      const place = right ?? left;
      const owner = right !== undefined && left.includes(":") ? (left.split(":")[0] ?? circuit) : circuit;
      if (place !== "") reached.add(placeIn(owner, place === "part" ? "sensor" : place));
    }
    if (reading.meter === "look") looked.add(placeIn(circuit, reading.red));
    if (disturbs(reading, complaint, unplugged, circuit)) unchanged.clear();
    // A plug that hung loose is pushed home: what the module saw before is worth seeing again.
    if (foundOff(reading) !== null) {
      unchanged.clear();
      if (seen !== null) done.delete(seen);
      last = null;
    }
    complaint = complaintOf(reading.symptom);
    for (const open of reading.setup?.open ?? []) {
      const place = placeIn(circuit, open);
      reached.add(place);
      // Did unplugging change the complaint? What the module saw before is worth seeing again.
      if (!unplugged.has(place) && seen !== null) done.delete(seen);
      unplugged.add(place);
    }
    const id = testOf(reading, onlyCircuit, known);
    done.set(id, (done.get(id) ?? 0) + 1);
    unchanged.add(id);
    const first = firstRead.get(id);
    if (first === undefined) firstRead.set(id, reading);
    else if (!alike(first, reading)) differing.add(id);
    if (reading.meter === "scan" && (reading.setup?.open ?? []).length === 0 && reading.setup?.stimulus === undefined) seen = id;
    if (inDoubt.has(readingId)) doubted.add(id);
    last = id;
    go = follow(go, screenOf({ circuit, meter: reading.meter, setup: reading.setup ?? {} }, known), id);
    // A module that sees no engine speed while cranking does not let the engine run.
    if (reading.meter === "scan" && reading.unit === "rpm" && reading.setup?.key === "crank") noStart = reading.value === 0;
    if (reading.setup?.key === "idle" || reading.setup?.key === "rev") noStart = false;
  }
  const bench = job.bench === undefined ? null : new Set<Instrument>(job.bench);
  return {
    reached,
    unplugged,
    looked,
    done,
    last,
    go,
    unchanged,
    differing,
    complaint,
    doubted,
    bench,
    passing,
    noStart,
    skipped: new Set(job.skipped ?? []),
    known,
  };
}
