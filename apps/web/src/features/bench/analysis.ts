import { applySetup, buildModel, type CircuitModel, MODULE_GROUND, type Model, type Quantity } from "@fox-lamp/core/circuit";
import { type DiagnosedJob, diagnoseJob, type EngineCache } from "@fox-lamp/core/diagnosis";
import { nodeVolts, solveNetwork } from "@fox-lamp/core/network";
import { expectHealthy } from "@fox-lamp/core/tests";
import type { Diagnosis, Expect, Reading, Setup } from "@fox-lamp/language";

/** A circuit as the drawing needs it. */
export interface CircuitView {
  readonly id: string;
  readonly title: string;
  readonly part: string;
  readonly pins: readonly { readonly pin: string; readonly colour: string | null; readonly cavity: string | null }[];
  readonly inline: readonly string[];
  readonly quantity: Quantity;
  readonly unit: string;
  readonly stages: readonly string[];
}

/** Healthy volts against battery negative, by `pin@place`. */
export type SceneVolts = Readonly<Record<string, number>>;

/** Everything the bench shows that has to be computed. */
export interface Analysis {
  readonly diagnosis: Diagnosis;
  readonly circuits: readonly CircuitView[];
  /** Healthy window of every reading, by reading id. */
  readonly windows: Readonly<Record<string, Expect | null>>;
  /** The same window in the sensor's own unit, for tests that read scan data, by test id. */
  readonly engineering: Readonly<Record<string, Expect>>;
  /** Healthy volts in the setup of every offered test, by test id. */
  readonly volts: Readonly<Record<string, SceneVolts>>;
}

function viewOf({ id, title, circuit, family, pins, inline, built }: CircuitModel): CircuitView {
  return {
    id,
    title,
    part: family.part,
    pins: pins.map(({ pin }) => ({
      pin,
      colour: circuit.colours?.[pin] ?? null,
      cavity: circuit.cavities?.[pin] === undefined ? null : String(circuit.cavities[pin]),
    })),
    inline,
    quantity: built.world.quantity,
    unit: built.world.unit,
    stages: [...new Set(built.faults.filter(({ unit }) => unit.startsWith("module:")).map(({ unit }) => unit))],
  };
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

/** Analyses a job; engines are kept in `cache` between calls. @throws BadInput for what cannot be */
export function analyse(job: DiagnosedJob, cache: EngineCache): Analysis {
  const diagnosis = diagnoseJob(job, cache);
  const model = buildModel(job.circuits);
  const windows = Object.fromEntries(
    (job.readings ?? []).map((reading: Reading, index) => [reading.id ?? `r${index + 1}`, expectHealthy(model, reading, `readings[${index}]`)]),
  );
  const volts = Object.fromEntries(
    diagnosis.next.flatMap(({ test, circuit: id, setup }) => {
      const circuit = model.circuits.find((candidate) => candidate.id === id);
      return circuit ? [[test, sceneVolts(model, circuit, setup)]] : [];
    }),
  );
  const engineering = Object.fromEntries(
    diagnosis.next.flatMap((test) => {
      const unit = model.circuits.find((candidate) => candidate.id === test.circuit)?.built.world.unit;
      const expect =
        test.meter === "scan" && unit
          ? expectHealthy(model, { circuit: test.circuit, meter: "scan", red: test.red, setup: test.setup, unit }, test.test)
          : null;
      return expect ? [[test.test, expect]] : [];
    }),
  );
  return { diagnosis, circuits: model.circuits.map(viewOf), windows, engineering, volts };
}
