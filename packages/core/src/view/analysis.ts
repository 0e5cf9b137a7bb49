import type { Circuit, Diagnosis, Expect, Measurement, NextTest, Reading, Setup } from "@fox-lamp/language";
import { calculatorFor, type OpenedCalculator } from "../calculators";
import { applySetup, buildModel, type CircuitModel, MODULE_GROUND, type Model } from "../circuit";
import { type DiagnosedJob, diagnoseJob, type OnProgress, type Session } from "../diagnosis";
import { nodeVolts, solveNetwork } from "../network";
import { expectHealthy } from "../procedures";
import { type LimitNote, notesOnLimits } from "../specs";
import { type CircuitView, viewOf } from "./circuit-view";

/** Healthy volts against battery negative, by `pin@place`. */
export type SceneVolts = Readonly<Record<string, number>>;

/** Everything the bench shows that has to be computed. */
export interface Analysis {
  readonly diagnosis: Diagnosis;
  readonly circuits: readonly CircuitView[];
  /** Healthy window of every reading, by reading id. */
  readonly windows: Readonly<Record<string, Expect | null>>;
  /** The calculator each reading is best looked at with, by reading id; only those that have one. */
  readonly calculators: Readonly<Record<string, OpenedCalculator>>;
  /** What is to be said of a book's limits, by reading id; only those of which something is. */
  readonly limitNotes: Readonly<Record<string, readonly LimitNote[]>>;
  /** The same window in the sensor's own unit, for tests that read scan data, by test id. */
  readonly engineering: Readonly<Record<string, Expect>>;
  /** Healthy volts in the setup of every offered test, by test id. */
  readonly volts: Readonly<Record<string, SceneVolts>>;
}

function sceneVolts(model: Model, circuit: CircuitModel, setup: Setup): SceneVolts {
  const { net, moments } = applySetup(model, setup, circuit.id);
  const solved = moments.map(({ share, values }) => ({ share, solution: solveNetwork(net, values) }));
  const average = (node: string): number => solved.reduce((sum, { share, solution }) => sum + share * nodeVolts(solution, node), 0);
  const volts: Record<string, number> = {};
  for (const path of circuit.paths) for (const [place, node] of path.places) volts[`${path.pin}@${place}`] = average(node);
  volts["module"] = average(MODULE_GROUND);
  return volts;
}

/** The unit in which the module's data shows a value besides volts; null where it has none, or the test asks for it already. */
function engineeringUnit(model: Model, { meter, unit, record, circuit, red }: Diagnosis["next"][number]): string | null {
  if (meter !== "scan" || unit !== undefined || record !== undefined) return null;
  const reads = model.circuits.find(({ id }) => id === circuit)?.built.reads.find(({ pin }) => pin === red.split("@")[0]);
  return reads?.by === "volts" ? (reads.units[0] ?? null) : null;
}

/** Healthy windows of measurements; null where nothing can be said. */
export function windowsOf(circuits: readonly Circuit[], measurements: readonly Measurement[]): (Expect | null)[] {
  const model = buildModel(circuits);
  return measurements.map((measurement, index) => expectHealthy(model, measurement, `measurements[${index}]`));
}

/** What the drawing and the gauge show for one test: healthy volts in its setup, the window in the sensor's own unit. */
export function sceneOf(circuits: readonly Circuit[], test: NextTest): { readonly volts: SceneVolts; readonly engineering: Expect | null } {
  const model = buildModel(circuits);
  const owner = model.circuits.find(({ id }) => id === test.circuit);
  return { volts: owner === undefined ? {} : sceneVolts(model, owner, test.setup), engineering: engineeringWindow(model, test) };
}

function engineeringWindow(model: Model, test: NextTest): Expect | null {
  const unit = engineeringUnit(model, test);
  return unit === null ? null : expectHealthy(model, { circuit: test.circuit, meter: "scan", red: test.red, setup: test.setup, unit }, test.test);
}

/** What is known of a job without any diagnosis: its circuits, and the healthy window of every reading, by reading id. */
export type Opening = Pick<Analysis, "circuits" | "windows">;

/** What a bench can show at once, before anything is diagnosed. @throws BadInput for what cannot be */
export function openingOf(job: DiagnosedJob): Opening {
  const model = buildModel(job.circuits);
  return { circuits: model.circuits.map((circuit) => viewOf(model, circuit)), windows: windowsOfReadings(model, job) };
}

function windowsOfReadings(model: Model, { readings = [] }: DiagnosedJob): Analysis["windows"] {
  return Object.fromEntries(readings.map((reading: Reading, index) => [reading.id ?? `r${index + 1}`, expectHealthy(model, reading, `readings[${index}]`)]));
}

function limitNotesOf(model: Model, { readings = [] }: DiagnosedJob, booked: Diagnosis["booked"] = []): Analysis["limitNotes"] {
  return Object.fromEntries(
    readings.flatMap((reading: Reading, index) => {
      const circuit = model.circuits.find(({ id }) => id === reading.circuit) ?? model.circuits[0];
      const name = reading.id ?? `r${index + 1}`;
      const counts = booked.find((one) => one.reading === name);
      const notes = circuit === undefined || reading.limits === undefined ? [] : notesOnLimits(model, circuit, reading, counts);
      return notes.length === 0 ? [] : [[name, notes]];
    }),
  );
}

function calculatorsOfReadings({ circuits }: Model, { readings = [] }: DiagnosedJob): Analysis["calculators"] {
  return Object.fromEntries(
    readings.flatMap((reading: Reading, index) => {
      const circuit = circuits.find(({ id }) => id === reading.circuit) ?? circuits[0];
      const opened = circuit === undefined ? null : calculatorFor(circuit, reading);
      return opened === null ? [] : [[reading.id ?? `r${index + 1}`, opened]];
    }),
  );
}

/** Analyses a job; what is computed is kept in the session. @throws BadInput for what cannot be */
export function analyse(job: DiagnosedJob, session: Session, onProgress?: OnProgress): Analysis {
  const diagnosis = diagnoseJob(job, session, onProgress);
  const model = buildModel(job.circuits);
  const volts = Object.fromEntries(
    diagnosis.next.flatMap(({ test, circuit: id, setup }) => {
      const circuit = model.circuits.find((candidate) => candidate.id === id);
      return circuit ? [[test, sceneVolts(model, circuit, setup)]] : [];
    }),
  );
  const engineering = Object.fromEntries(
    diagnosis.next.flatMap((test) => {
      const expect = engineeringWindow(model, test);
      return expect ? [[test.test, expect]] : [];
    }),
  );
  return {
    diagnosis,
    circuits: model.circuits.map((circuit) => viewOf(model, circuit)),
    windows: windowsOfReadings(model, job),
    calculators: calculatorsOfReadings(model, job),
    limitNotes: limitNotesOf(model, job, diagnosis.booked),
    engineering,
    volts,
  };
}
