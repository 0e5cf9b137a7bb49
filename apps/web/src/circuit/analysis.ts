import { applySetup, buildModel, type CircuitModel, MODULE_GROUND, type Model, type Quantity } from "@fox-lamp/core/circuit";
import { type DiagnosedJob, diagnoseJob, type OnProgress, type Session } from "@fox-lamp/core/diagnosis";
import { nodeVolts, solveNetwork } from "@fox-lamp/core/network";
import { expectHealthy } from "@fox-lamp/core/procedures";
import {
  type Diagnosis,
  type Expect,
  isGroundRole,
  type Measurement,
  type NextTest,
  type PinRole,
  parseLocalUnit,
  type Reading,
  type Setup,
} from "@fox-lamp/language";

/** One conductor of a circuit, as the drawing needs it. */
export interface PinView {
  readonly pin: string;
  readonly colour: string | null;
  readonly cavity: string | null;
  readonly role: PinRole | "car-ground";
  /** Where it starts: at the module, at a fuse, at a ground point, or at another circuit's wire. */
  readonly origin: "module" | "fuse" | "chassis" | "engine" | "battery";
  /** Places a lead can touch, from there outwards; the part's terminal is not among them. */
  readonly places: readonly string[];
  readonly contacts: readonly string[];
  /** Circuit whose wire it leaves, where it is a branch of a shared one. */
  readonly joins: { readonly bus: string; readonly at: string } | null;
  readonly reachesPart: boolean;
}

/** A circuit as the drawing needs it. */
export interface CircuitView {
  readonly id: string;
  readonly title: string;
  readonly part: string;
  readonly pins: readonly PinView[];
  readonly quantity: Quantity;
  readonly unit: string;
  /** What stands on the left: the module, or the battery. */
  readonly left: "module" | "battery";
  /** Repair unit of the box on the right; null where there is none of its own. */
  readonly partUnit: string | null;
  readonly stages: readonly string[];
  /** Units shown in the right box besides its own: heater, outside. */
  readonly extras: readonly string[];
  /** The part is grounded by its body. */
  readonly body: boolean;
  /** Circuits that share this one's wires. */
  readonly members: readonly string[];
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

/** Ground straps of the car drawn as conductors of the battery's circuit. */
const CAR_GROUNDS: readonly PinView[] = (["engine", "chassis"] as const).map((name) => ({
  pin: `ground:${name}`,
  colour: null,
  cavity: null,
  role: "car-ground",
  origin: "battery",
  places: [],
  contacts: [],
  joins: null,
  reachesPart: true,
}));

function pinView(circuit: CircuitModel, path: CircuitModel["paths"][number]): PinView {
  const { colours, cavities } = circuit.circuit;
  const cavity = cavities?.[path.pin];
  return {
    pin: path.pin,
    colour: colours?.[path.pin] ?? null,
    cavity: cavity === undefined ? null : String(cavity),
    role: path.role,
    origin: path.origin,
    places: [...path.places.keys()].filter((place) => place !== "part"),
    contacts: path.steps.flatMap((step) => (step.kind === "contact" ? [step.place] : [])),
    joins: path.joins,
    reachesPart: path.places.has("part"),
  };
}

function viewOf(model: Model, circuit: CircuitModel): CircuitView {
  const { id, title, family, paths, built } = circuit;
  const units = [...new Set(built.faults.map(({ unit }) => unit))];
  const battery = model.carId === id;
  const roles = paths.map(({ role }) => role);
  return {
    id,
    title,
    part: battery ? "Engine and body" : family.part,
    pins: battery ? CAR_GROUNDS : paths.map((path) => pinView(circuit, path)),
    quantity: built.world.quantity,
    unit: built.world.unit,
    left: battery ? "battery" : "module",
    partUnit: units.includes("sensor") ? "sensor" : units.includes("coil") ? "coil" : null,
    stages: units.filter((unit) => parseLocalUnit(id, unit)?.kind === "module"),
    extras: units.filter((unit) => unit === "heater" || unit === "outside"),
    body: roles.filter((role) => role === "signal").length === 1 && !roles.some(isGroundRole),
    members: model.circuits.filter(({ shares }) => shares.some(({ bus }) => bus === id)).map((member) => member.title),
  };
}

/** The circuits of a file as the drawing needs them. @throws BadInput for what cannot be */
export function viewsOf(circuits: DiagnosedJob["circuits"]): CircuitView[] {
  const model = buildModel(circuits);
  return model.circuits.map((circuit) => viewOf(model, circuit));
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
export function windowsOf(circuits: DiagnosedJob["circuits"], measurements: readonly Measurement[]): (Expect | null)[] {
  const model = buildModel(circuits);
  return measurements.map((measurement, index) => expectHealthy(model, measurement, `measurements[${index}]`));
}

/** What the drawing and the gauge show for one test: healthy volts in its setup, the window in the sensor's own unit. */
export function sceneOf(circuits: DiagnosedJob["circuits"], test: NextTest): { readonly volts: SceneVolts; readonly engineering: Expect | null } {
  const model = buildModel(circuits);
  const owner = model.circuits.find(({ id }) => id === test.circuit);
  return { volts: owner === undefined ? {} : sceneVolts(model, owner, test.setup), engineering: engineeringWindow(model, test) };
}

function engineeringWindow(model: Model, test: NextTest): Expect | null {
  const unit = engineeringUnit(model, test);
  return unit === null ? null : expectHealthy(model, { circuit: test.circuit, meter: "scan", red: test.red, setup: test.setup, unit }, test.test);
}

/** Analyses a job; engines are kept in `cache` between calls. @throws BadInput for what cannot be */
export function analyse(job: DiagnosedJob, cache: Session, progress?: OnProgress): Analysis {
  const diagnosis = diagnoseJob(job, cache, progress);
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
      const expect = engineeringWindow(model, test);
      return expect ? [[test.test, expect]] : [];
    }),
  );
  return { diagnosis, circuits: model.circuits.map((circuit) => viewOf(model, circuit)), windows, engineering, volts };
}
