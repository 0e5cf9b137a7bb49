import { BadInput, type JobFile, type Reading } from "@fox-lamp/language";
import type { CircuitModel, Model, World } from "../circuit";
import type { Conditions } from "../tests";
import { leavesWorldOpen } from "./engine";

/** The part of a job a diagnosis depends on. */
export type DiagnosedJob = Pick<JobFile, "circuits" | "readings" | "bench" | "policy" | "hints" | "codes" | "intermittent"> & {
  /** Ids of tests the technician cannot or will not do. */
  readonly skipped?: readonly string[];
  /** What is known about the sensed quantities; what readings state themselves is used where this says nothing. */
  readonly conditions?: Conditions;
  /** Ranks tests by information alone, as a baseline. */
  readonly costless?: boolean;
};

/** A reading with its name and its place in the file. */
export interface NumberedReading {
  readonly reading: Reading;
  readonly id: string;
  readonly where: string;
}

/** What the readings themselves say about the sensed quantity: the last stated value that does not change by hand. */
export function conditionsOf(readings: readonly NumberedReading[], { quantity }: World): Conditions {
  const conditions: { -readonly [K in keyof Conditions]: Conditions[K] } = {};
  for (const { reading } of readings) {
    const measured = reading.meter === "gauge" && typeof reading.value === "number" ? reading.value : undefined;
    if (measured !== undefined && (quantity === "temperature" || quantity === "pressure")) conditions[quantity] = measured;
    const truth = reading.setup?.truth;
    const stimulus = reading.setup?.stimulus?.kind ?? "none";
    if (truth?.temperature !== undefined) conditions.temperature = truth.temperature;
    if (truth?.pressure !== undefined && stimulus === "none") conditions.pressure = truth.pressure;
  }
  return conditions;
}

/**
 * What is known for the whole job as far as it holds for one circuit: a temperature or position for all, a pressure for the only
 * pressure sensor, or for those that see the outside air.
 */
export function knownFor(model: Model, id: string, known: Conditions): Conditions {
  if (known.pressure === undefined) return known;
  const gauges = model.circuits.filter(({ built }) => built.world.quantity === "pressure");
  const circuit = gauges.find((candidate) => candidate.id === id);
  if (circuit === undefined || gauges.length === 1 || circuit.built.world.settable.length > 0) return known;
  const { pressure: _pressure, ...rest } = known;
  return rest;
}

/** Names a job's readings r1, r2 ... where they have no id; a second one of the same name is told apart. */
export function numberReadings(job: DiagnosedJob): NumberedReading[] {
  const taken = new Set<string>();
  return (job.readings ?? []).map((reading, index) => {
    const wanted = reading.id ?? `r${index + 1}`;
    const id = taken.has(wanted) ? `${wanted}#${index + 1}` : wanted;
    taken.add(id);
    return { reading, id, where: `readings[${index}]` };
  });
}

/** Circuits of which some reading leaves the sensed quantity open although it is known. */
export function openWorlds(
  own: readonly NumberedReading[],
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
export function assertCircuits(job: DiagnosedJob, readings: readonly NumberedReading[]): void {
  const ids = job.circuits.map((circuit) => circuit.id);
  for (const { reading, where } of readings) {
    if (reading.circuit === undefined ? ids.length === 1 : ids.includes(reading.circuit)) continue;
    const got = reading.circuit === undefined ? "says no circuit" : `no circuit is called "${reading.circuit}"`;
    throw new BadInput({ code: "circuit:unknown", where: `${where}.circuit`, message: `${got}; expected one of ${ids.join(", ")}` });
  }
}
