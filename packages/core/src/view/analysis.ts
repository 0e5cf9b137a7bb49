import type { Circuit, Diagnosis, Expect, Measurement, NextTest, Reading } from "@fox-lamp/language";
import { calculatorFor, type OpenedCalculator } from "../calculators";
import { type DiagnosedJob, diagnoseJob, type OnProgress, openCase, type Session, weighing } from "../diagnosis";
import type { Steps } from "../numeric";
import type { LimitNote } from "../specs";
import type { CircuitView } from "./circuit-view";
import { type SceneVolts, soundCircuits } from "./sound-circuits";

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

/** Healthy windows of measurements; null where nothing can be said. @throws BadInput for what cannot be */
export function windowsOf(circuits: readonly Circuit[], measurements: readonly Measurement[], session: Session): (Expect | null)[] {
  const sound = soundCircuits(circuits, session);
  return measurements.map((measurement, index) => sound.window(measurement, `measurements[${index}]`));
}

/** What is known of a job without any diagnosis: its circuits, and the healthy window of every reading, by reading id. */
export type Opening = Pick<Analysis, "circuits" | "windows">;

/** What a bench can show at once, before anything is diagnosed. @throws BadInput for what cannot be */
export function openingOf({ circuits, readings }: DiagnosedJob, session: Session): Opening {
  const sound = soundCircuits(circuits, session);
  return { circuits: sound.views(), windows: ofReadings(readings, (reading, where) => sound.window(reading, where)) };
}

/** Something of every reading, by its id; those with nothing are left out. */
function ofReadings<T>(readings: readonly Reading[] = [], make: (reading: Reading, where: string, name: string) => T | undefined): Record<string, T> {
  return Object.fromEntries(
    readings.flatMap((reading, index) => {
      const name = reading.id ?? `r${index + 1}`;
      const made = make(reading, `readings[${index}]`, name);
      return made === undefined ? [] : [[name, made]];
    }),
  );
}

/** A job's circuits as their sheets stand, with the kind their readings spoke for where a sheet leaves it open. */
function asMeant(job: DiagnosedJob, session: Session): Circuit[] {
  const taken = openCase(job, session).job.circuits;
  return job.circuits.map((circuit) => {
    const meant = Object.entries(taken.find(({ id }) => id === circuit.id)?.with ?? {});
    const added = meant.filter(([name, value]) => circuit.with?.[name] === undefined && isOfFamily(value));
    return added.length === 0 ? circuit : { ...circuit, with: { ...circuit.with, ...Object.fromEntries(added) } };
  });
}

function isOfFamily(value: unknown): boolean {
  return typeof value === "object" && value !== null && "from" in value && value.from === "family";
}

/**
 * What the drawing and the gauge show for one test of a job: healthy volts in its setup, the window in the sensor's own unit.
 * @throws BadInput for what cannot be
 */
export function sceneOf(job: DiagnosedJob, test: NextTest, session: Session): { readonly volts: SceneVolts; readonly engineering: Expect | null } {
  const sound = soundCircuits(asMeant(job, session), session);
  return { volts: sound.volts(test) ?? {}, engineering: sound.engineering(test) };
}

/** Analyses a job; what is computed is kept in the session. @throws BadInput for what cannot be */
export function analyse(job: DiagnosedJob, session: Session, onProgress?: OnProgress): Analysis {
  const diagnosis = diagnoseJob(job, session, onProgress);
  const circuits = asMeant(job, session);
  const sound = soundCircuits(circuits, session);
  const ofTests = <T>(make: (test: NextTest) => T | null): Record<string, T> =>
    Object.fromEntries(
      diagnosis.next.flatMap((test) => {
        const made = make(test);
        return made === null ? [] : [[test.test, made]];
      }),
    );
  return {
    diagnosis,
    ...openingOf({ ...job, circuits }, session),
    calculators: ofReadings(job.readings, (reading) => {
      const circuit = sound.circuitOf(reading.circuit);
      return circuit === undefined ? undefined : (calculatorFor(circuit, reading) ?? undefined);
    }),
    limitNotes: ofReadings(job.readings, (reading, _where, name) => {
      if (reading.limits === undefined) return undefined;
      const counts = diagnosis.booked?.find((one) => one.reading === name);
      const notes = sound.limitNotes(reading, counts);
      return notes.length === 0 ? undefined : notes;
    }),
    engineering: ofTests((test) => sound.engineering(test)),
    volts: ofTests((test) => sound.volts(test)),
  };
}

/** Analyses a job in pieces, so that something else may be done between two of them. @throws BadInput for what cannot be */
export function* analysing(job: DiagnosedJob, session: Session): Steps<Analysis> {
  yield* weighing(job, session);
  return analyse(job, session);
}
