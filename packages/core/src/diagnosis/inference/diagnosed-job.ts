import { BadInput, type Circuit, type FoundBefore, type JobFile, knownValue, type Measurement, type Reading } from "@fox-lamp/language";
import type { CircuitModel, Model, World } from "../../circuit";
import type { Conditions } from "../../procedures";
import { leavesWorldOpen } from "../hypotheses/sensed-values";
import type { NamedReading } from "./observe";

/** The part of a job a diagnosis depends on. */
export type DiagnosedJob = Pick<JobFile, "circuits" | "readings" | "bench" | "policy" | "hints" | "codes" | "intermittent" | "facts" | "learnt"> & {
  /** Ids of tests the technician cannot or will not do. */
  readonly skipped?: readonly string[];
  /** What is known about the sensed quantities; what readings state themselves is used where this says nothing. */
  readonly conditions?: Conditions;
  /** Pressure of the air outside, kPa, where the shop knows its altitude and weather. */
  readonly outsideKPa?: number;
  /** Ranks tests by information alone, as a baseline. */
  readonly costless?: boolean;
  /** Measurements that are asked about before they are taken: circuits they join are weighed together. */
  readonly asks?: readonly Measurement[];
};

/** What the readings themselves say about the sensed quantity: the last stated value that does not change by hand. */
export function conditionsOf(readings: readonly NamedReading[], { quantity }: World): Conditions {
  const conditions: { -readonly [K in keyof Conditions]: Conditions[K] } = {};
  for (const { reading } of readings) {
    const measured = reading.meter === "gauge" && typeof reading.value === "number" ? reading.value : undefined;
    if (measured !== undefined && (quantity === "temperature" || quantity === "pressure")) conditions[quantity] = measured;
    const truth = reading.setup?.truth;
    const stimulus = reading.setup?.stimulus?.kind ?? "none";
    if (truth?.temperature !== undefined) conditions.temperature = knownValue(truth.temperature);
    if (truth?.pressure !== undefined && stimulus === "none") conditions.pressure = knownValue(truth.pressure);
  }
  return conditions;
}

/**
 * What is known for the whole job as far as it holds for one circuit: a temperature or position for all, a pressure for the only
 * pressure sensor, or for those that see the outside air. Where nobody says a pressure and all of them see the outside air, it is that.
 */
export function knownFor(model: Model, id: string, known: Conditions, outsideKPa?: number): Conditions {
  const gauges = model.circuits.filter(({ built }) => built.world.quantity === "pressure");
  const circuit = gauges.find((candidate) => candidate.id === id);
  if (known.pressure === undefined) {
    const outside = outsideKPa !== undefined && gauges.length > 0 && gauges.every(({ built }) => built.world.outsideAir === true);
    return outside ? { ...known, pressure: outsideKPa } : known;
  }
  if (circuit === undefined || gauges.length === 1 || circuit.built.world.outsideAir === true) return known;
  const { pressure: _pressure, ...rest } = known;
  return rest;
}

/** What was found before, as far as it is about circuits of these families. */
export function learntFor(circuits: readonly Circuit[], learnt: readonly FoundBefore[] = []): FoundBefore[] {
  const families = new Set(circuits.map(({ family }) => family));
  return learnt.filter(({ family }) => families.has(family));
}

/** What of a reading its weight depends on; its name, who took it and when are not among them. */
const WEIGHED_FIELDS = ["circuit", "meter", "red", "black", "setup", "value", "pid", "unit", "ac", "coupling", "range", "record", "symptom"] as const;

/** The part of a job its diagnosis is weighed from, whatever its readings are called: alike jobs are weighed once. */
export function weighedPart(job: DiagnosedJob): DiagnosedJob {
  const { circuits, readings, bench, policy, hints, codes, intermittent, skipped, conditions, outsideKPa, costless, asks, facts, learnt } = job;
  const bare = (reading: Reading): Reading =>
    Object.fromEntries(WEIGHED_FIELDS.flatMap((field) => (reading[field] === undefined ? [] : [[field, reading[field]]]))) as Reading;
  const asked = {
    circuits,
    readings: readings?.map(bare),
    bench,
    policy,
    hints,
    codes,
    intermittent,
    skipped,
    conditions,
    outsideKPa,
    costless,
    asks,
    facts,
    learnt,
  };
  return Object.fromEntries(Object.entries(asked).filter(([, value]) => value !== undefined)) as unknown as DiagnosedJob;
}

/** A job's readings numbered by their place in it. */
export function numberReadings(job: DiagnosedJob): NamedReading[] {
  return (job.readings ?? []).map((reading, index) => ({ reading, id: placeName(index), where: `readings[${index}]` }));
}

/** How a reading is named by its place in the job. */
export function placeName(index: number): string {
  return `#${index + 1}`;
}

/** What is shown of a place in a job or of a code: the reading's name, r1, r2 ... where it has none, and the code itself. */
export type NameOf = (id: string) => string;

/** The names of a job's readings, by their places; a second one of the same name is told apart. */
export function namesIn(job: DiagnosedJob): NameOf {
  const taken = new Set<string>();
  const names = new Map(
    (job.readings ?? []).map(({ id }, index) => {
      const wanted = id ?? `r${index + 1}`;
      const name = taken.has(wanted) ? `${wanted}#${index + 1}` : wanted;
      taken.add(name);
      return [placeName(index), name];
    }),
  );
  // What was noticed while a reading was taken is called after that reading.
  return (id) => names.get(id) ?? id.replaceAll(/#\d+/gu, (place) => names.get(place) ?? place);
}

/** Circuits of which some reading leaves the sensed quantity open although it is known. */
export function openWorlds(
  own: readonly NamedReading[],
  circuitOf: (reading: Reading) => CircuitModel | undefined,
  conditions: Readonly<Record<string, Conditions>>,
): Set<string> {
  return new Set(
    own.flatMap(({ reading }) => {
      const circuit = circuitOf(reading);
      if (circuit === undefined || !leavesWorldOpen(circuit, reading)) return [];
      const { quantity } = circuit.built.world;
      const known =
        quantity === "position" || quantity === "flow" || (quantity !== "level" && quantity !== "none" && conditions[circuit.id]?.[quantity] !== undefined);
      return known ? [circuit.id] : [];
    }),
  );
}

/** Refuses readings of circuits the job does not have. */
export function assertCircuits(job: DiagnosedJob, readings: readonly NamedReading[]): void {
  const ids = job.circuits.map((circuit) => circuit.id);
  for (const { reading, where } of readings) {
    if (reading.circuit === undefined ? ids.length === 1 : ids.includes(reading.circuit)) continue;
    const got = reading.circuit === undefined ? "says no circuit" : `no circuit is called "${reading.circuit}"`;
    throw new BadInput({ code: "circuit:unknown", where: `${where}.circuit`, message: `${got}; expected one of ${ids.join(", ")}` });
  }
}
