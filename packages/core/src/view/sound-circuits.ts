import { BadInput, type Circuit, type Expect, type Measurement, type NextTest, type Reading, type Setup } from "@fox-lamp/language";
import { applySetup, buildModel, type CircuitModel, MODULE_GROUND, type Model } from "../circuit";
import { clustersOf, type Session } from "../diagnosis";
import { nodeVolts, solveNetwork } from "../network";
import { lazy } from "../numeric";
import { expectHealthy } from "../procedures";
import { type LimitNote, notesOnLimits } from "../specs";
import { type CircuitView, viewOf } from "./circuit-view";

/** Healthy volts against battery negative, by `pin@place`. */
export type SceneVolts = Readonly<Record<string, number>>;

/** The part of a test its scene depends on. */
export type SceneTest = Pick<NextTest, "test" | "circuit" | "meter" | "red" | "setup" | "unit" | "record">;

/** What a sound circuit shows for a measurement depends on these of its fields. */
const ASKED = [
  "circuit",
  "meter",
  "red",
  "black",
  "setup",
  "pid",
  "unit",
  "ac",
  "coupling",
  "range",
  "record",
] as const satisfies readonly (keyof Measurement)[];

/** What a set of circuits takes while it is kept, and what each answer takes, bytes. */
const CIRCUIT_BYTES = 60_000;
const ANSWER_BYTES = 1500;

/**
 * A job's circuits while nothing is wrong with them: windows, volts, drawings. Each answer is worked out once and kept. What is asked of a circuit
 * is worked out on it and those it shares anything with, as its diagnosis is.
 */
export class SoundCircuits {
  readonly model: Model;
  readonly views: () => readonly CircuitView[];
  private readonly sets: () => readonly Model[];
  private readonly windows = new Map<string, Expect | null>();
  private readonly scenes = new Map<string, SceneVolts>();
  private readonly notes = new Map<string, readonly LimitNote[]>();

  /** @throws BadInput for circuits that cannot be */
  constructor(circuits: readonly Circuit[]) {
    this.model = buildModel(circuits);
    this.views = lazy(() => this.model.circuits.map((circuit) => viewOf(this.model, circuit)));
    this.sets = lazy(() => {
      const clusters = clustersOf(this.model);
      return clusters.length === 1 ? [this.model] : clusters.map((own) => buildModel(own));
    });
  }

  /** An estimate of what is held, bytes. */
  get bytes(): number {
    return CIRCUIT_BYTES * this.model.circuits.length + ANSWER_BYTES * (this.windows.size + this.scenes.size + this.notes.size);
  }

  /** The circuit a reading or test is of; the first one where it names none. */
  circuitOf(id: string | undefined): CircuitModel | undefined {
    return this.model.circuits.find((circuit) => circuit.id === id) ?? this.model.circuits[0];
  }

  /** The healthy window of a measurement; null where nothing can be said. @param where names it in a problem; @throws BadInput for bad leads */
  window(measurement: Measurement, where: string): Expect | null {
    return kept(this.windows, keyOf(measurement), () => this.among(measurement.circuit, (model) => expectHealthy(model, measurement, where)));
  }

  /** Healthy volts of every place of a test's circuit, in its setup; null where the circuit is not known. */
  volts({ circuit: id, setup }: Pick<SceneTest, "circuit" | "setup">): SceneVolts | null {
    if (!this.model.circuits.some((circuit) => circuit.id === id)) return null;
    return kept(this.scenes, JSON.stringify([id, setup]), () => this.among(id, (model) => sceneVolts(model, id, setup)));
  }

  /** The window of a test that reads scan data, in the sensor's own unit; null where it has none, or the test asks for it already. */
  engineering({ meter, unit, record, circuit: id, red, setup, test }: SceneTest): Expect | null {
    if (meter !== "scan" || unit !== undefined || record !== undefined) return null;
    const reads = this.model.circuits.find((circuit) => circuit.id === id)?.built.reads.find(({ pin }) => pin === red.split("@")[0]);
    const own = reads?.by === "volts" ? reads.units[0] : undefined;
    return own === undefined ? null : this.window({ circuit: id, meter: "scan", red, setup, unit: own }, test);
  }

  /** What is to be said of the book's limits a reading carries. @param counts the value of the sheet they count as */
  limitNotes(reading: Reading, counts: { readonly title: string } | undefined): readonly LimitNote[] {
    const circuit = this.circuitOf(reading.circuit)?.id;
    return kept(this.notes, `${keyOf(reading)} ${JSON.stringify([reading.limits, reading.value, counts?.title])}`, () =>
      this.among(circuit, (model) => {
        const own = model.circuits.find(({ id }) => id === circuit);
        return own === undefined ? [] : notesOnLimits(model, own, reading, counts);
      }),
    );
  }

  /** Asks the circuits a circuit shares anything with; all of them where a lead or connector is of another one. */
  private among<T>(circuit: string | undefined, ask: (model: Model) => T): T {
    const own = this.sets().find(({ circuits }) => circuits.some(({ id }) => id === circuit));
    if (own === undefined || own === this.model) return ask(this.model);
    try {
      return ask(own);
    } catch (error) {
      if (!(error instanceof BadInput)) throw error;
      return ask(this.model);
    }
  }
}

function keyOf(measurement: Measurement): string {
  return JSON.stringify(ASKED.map((field) => measurement[field]));
}

function kept<T>(answers: Map<string, T>, key: string, make: () => T): T {
  const known = answers.get(key);
  if (known !== undefined) return known;
  const made = make();
  answers.set(key, made);
  return made;
}

function sceneVolts(model: Model, id: string, setup: Setup): SceneVolts {
  const circuit = model.circuits.find((candidate) => candidate.id === id);
  const { net, moments } = applySetup(model, setup, id);
  const solved = moments.map(({ share, values }) => ({ share, solution: solveNetwork(net, values) }));
  const average = (node: string): number => solved.reduce((sum, { share, solution }) => sum + share * nodeVolts(solution, node), 0);
  const volts: Record<string, number> = {};
  for (const path of circuit?.paths ?? []) for (const [place, node] of path.places) volts[`${path.pin}@${place}`] = average(node);
  volts["module"] = average(MODULE_GROUND);
  return volts;
}

/** A job's circuits while they are sound, as they are kept in a session. @throws BadInput for circuits that cannot be */
export function soundCircuits(circuits: readonly Circuit[], { cache }: Session): SoundCircuits {
  return cache.keep(
    `sound ${JSON.stringify(circuits)}`,
    () => new SoundCircuits(circuits),
    ({ bytes }) => bytes,
  );
}
