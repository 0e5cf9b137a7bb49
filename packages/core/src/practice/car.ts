import {
  BadInput,
  type Circuit,
  type FaultRef,
  findingsAt,
  localUnitOf,
  type Measurement,
  parseUnit,
  placeIn,
  type Setup,
  unitKindOf,
  type Value,
} from "@fox-lamp/language";
import {
  type Assignment,
  buildModel,
  type CircuitModel,
  carAssignments,
  type Drive,
  engineOf,
  fixedWorld,
  isContact,
  isLowSide,
  isWire,
  type Model,
} from "../circuit";
import { findingProbabilities } from "../diagnosis";
import { BEYOND_SHARE, type Fault, faultsOf, PLAIN_VARIANT, type PlacedFault, placeFault, QUIET_SHARE, showsIn } from "../faults";
import {
  CLICK_SHARE,
  coilShare,
  DISPLAY_COUNTS,
  type ElectricalProbe,
  type InstrumentNoise,
  LEAST_SPREAD,
  probeOf,
  scaleOf,
  shownMoving,
  solveSetup,
} from "../instruments";
import { copyValues, unaidedShare } from "../network";
import type { Random } from "../numeric";
import { asItArrived } from "./arrived";

/** The fault hidden in a practice car; null when nothing is wrong. */
export type HiddenFault = PlacedFault;

/** A car that nobody has drawn on a grid: odd tolerances, its own battery, a meter slightly off. */
export interface HiddenCar {
  readonly circuits: readonly Circuit[];
  /** What its makers' papers say, where the sheet leaves something out; left out where the sheet says everything. */
  readonly actual?: readonly Circuit[];
  readonly hidden: HiddenFault | null;
  /** A second fault at the same time; null for most cars. */
  readonly second: HiddenFault | null;
  /** What the technician's thermometer or gauge says of a circuit's sensed quantity, by quantity. */
  readonly stated: Readonly<{ temperature?: number; pressure?: number }>;
  /** Whether the car has the places the leads go to: a sheet may show pins another maker's car does not have. */
  reaches(measurement: Measurement): boolean;
  /** What an instrument shows; draws noise, so it differs from call to call. */
  read(measurement: Measurement): Value;
  /** What several instruments show in the same moment: a fault that comes and goes is there for all of them or for none. */
  readTogether(measurements: readonly Measurement[]): Value[];
}

/** What makes a car harder than one steady fault. */
export interface CarLife {
  /** Share of readings during which the fault is not there; 0 for a fault that stays. */
  readonly misses: number;
  /** Nothing is wrong with it. */
  readonly sound?: boolean;
  /** Two faults at once. */
  readonly double: boolean;
  /** The local unit in which its model usually fails; any when left out. */
  readonly pattern?: string | undefined;
  /** Chance that the first unplugging of a connector cures a bad contact in it. */
  readonly cures: number;
  /** Another model of the car: parts differ twice as much, supplies and grounds are anywhere in their ordinary ranges. */
  readonly foreign?: boolean;
}

export const STEADY: CarLife = { misses: 0, double: false, cures: 0 };

/** Tolerances of real cars are a little worse than the engine believes. */
const WORSE = 1.15;
const FOREIGN_WORSE = 2;

/** The supply needed by a part that works without any, volts. */
const ALWAYS_SUPPLIED = -1e6;

/** Share of cars whose bad connection is so slight, perhaps, that nobody would have noticed it. */
const SLIGHT = 0.15;

/** Draws a severity between the grid's points: uniform in ln ohms or in severity. */
export function drawSeverity(fault: Fault, random: Random): number {
  const scale = fault.severity;
  if (scale === null) return 1;
  // Most cars come for what the module or the driver noticed; some for less.
  const slight = fault.noticedFrom === null || random.uniform() < SLIGHT;
  const low = slight ? scale.low : Math.max(scale.low, fault.noticedFrom ?? 0);
  if (scale.key === "severity") return low + (scale.high - low) * random.uniform();
  const [from, to] = [Math.max(low, fault.usualFrom ?? low), fault.usualTo ?? scale.high];
  const [below, usual, beyond] = [BEYOND_SHARE * Math.log(from / low), Math.log(to / from), BEYOND_SHARE * Math.log(scale.high / to)];
  const share = random.uniform() * (below + usual + beyond);
  if (share < below) return low * Math.exp(share / BEYOND_SHARE);
  return share <= below + usual ? from * Math.exp(share - below) : to * Math.exp((share - below - usual) / BEYOND_SHARE);
}

/** How grounds, supply lines and what bodies draw differ, ln ohms. */
const CAR_SPREADS = [
  ["car/body-load", 0.3],
  ["car/ignition", 0.4],
  ["car/ground:chassis", 0.5],
  ["car/ground:engine", 0.4],
] as const;

/** What a car does to a number that sound cars differ in. */
interface Oddity {
  readonly factor: number;
  readonly offset: number;
}

/** Numbers a car has its own factor and offset on, by element and field. */
type Oddities = ReadonlyMap<string, Oddity>;

function disturb(assignment: Assignment, oddities: Oddities): Assignment {
  const odd = oddities.get(`${assignment.element}.${assignment.field}`);
  return odd === undefined ? assignment : { ...assignment, value: assignment.value * odd.factor + odd.offset };
}

function disturbedDrive(drive: Drive, oddities: Oddities, hertzFactor: number): Drive {
  return {
    ...drive,
    hertz: drive.hertz * hertzFactor,
    moments: drive.moments.map(({ share, assignments }) => ({ share, assignments: assignments.map((assignment) => disturb(assignment, oddities)) })),
  };
}

/** A sound ground, contact or part lies in its ordinary range (field guide, section 14): what lies far outside it is a fault, and hidden as one. */
const ORDINARY_SPREADS = 2;

/** A standard normal number that stays within the ordinary. */
function ordinary(random: Random): number {
  return Math.min(ORDINARY_SPREADS, Math.max(-ORDINARY_SPREADS, random.normal()));
}

/** A spread that is meant to hold every maker's part already is not doubled, ln ohms: a driver of 2 ohm is no sound driver anywhere. */
const MAKERS_SPREAD = 0.4;

/** A tolerance as it is on real cars. */
function widened(sigma: number, worse: number): number {
  return Math.max(WORSE * sigma, Math.min(worse * sigma, MAKERS_SPREAD));
}

/** No module watches a line with more than half a battery, nor biases one by more: so many times the usual at most. */
const MOST_TIMES_VOLTS = 2.6;

/** What makes its own alternating volts, and how far those differ, ln volts. */
const ALTERNATING = [
  ["winding", 0.45],
  ["piezo", 0.8],
] as const;

function disturbedModel(base: Model, random: Random, worse: number): Model {
  const { network } = base;
  const values = copyValues(network.values);
  const shared = 0.5 * ordinary(random);
  const ground = network.elementIndex.get("car/module-ground") ?? -1;
  values.gain[ground] = values.gain[ground] + 0.3 * random.normal();
  for (const [name, sigma] of CAR_SPREADS) {
    const index = network.elementIndex.get(name) ?? -1;
    values.ohms[index] = values.ohms[index] * Math.exp(sigma * ordinary(random));
  }
  network.elements.forEach((element, index) => {
    const unaided = unaidedShare(element);
    if (unaided > 0 && random.uniform() < unaided) values.least[index] = ALWAYS_SUPPLIED;
    if (values.least[index] > 0) values.least[index] = values.least[index] * Math.exp(worse * LEAST_SPREAD * random.normal());
    const contact = isContact(element.id) || isWire(element.id) || isLowSide(element.id);
    if (contact) values.ohms[index] = values.ohms[index] * Math.exp(shared + 0.5 * ordinary(random));
  });
  const circuits = base.circuits.map((circuit): CircuitModel => {
    const oddities = new Map<string, Oddity>();
    for (const tolerance of circuit.built.tolerances) {
      const z = ordinary(random);
      for (const target of tolerance.targets) {
        const times = Math.exp(z * widened(target.sigma, worse));
        const own = target.kind !== "relative" ? z * worse * target.sigma : target.field === "volts" ? Math.min(times, MOST_TIMES_VOLTS) : times;
        const index = network.elementIndex.get(`${circuit.id}/${target.element}`);
        if (index === undefined) continue;
        const array = values[target.field];
        array[index] = target.kind === "relative" ? array[index] * own : array[index] + own;
        const name = `${target.element}.${target.field}`;
        const { factor, offset } = oddities.get(name) ?? { factor: 1, offset: 0 };
        oddities.set(name, target.kind === "relative" ? { factor: factor * own, offset: offset * own } : { factor, offset: offset + own });
      }
    }
    for (const [element, sigma] of ALTERNATING) oddities.set(`${element}.volts`, { factor: Math.exp(sigma * ordinary(random)), offset: 0 });
    const hertzFactor = Math.exp(0.7 * ordinary(random) * 0.02);
    const { built } = circuit;
    return { ...circuit, built: { ...built, drive: (situation) => disturbedDrive(built.drive(situation), oddities, hertzFactor) } };
  });
  return { ...base, circuits, network: { ...network, values } };
}

/** What flows over grounds besides while the engine runs, and how far it differs either way, ln. */
const RUNNING = ["car/module-running", "car/body-running"] as const;
const RUNNING_SPREAD = 1;

/** A battery, an alternator, running currents and a module ground of its own, as a fault that is none. */
function ownSupply(base: Model, offsetVolts: number, chargeVolts: number, liftVolts: number, running: ReadonlyMap<string, number>): PlacedFault {
  const fault: Fault = {
    id: "car/battery/level",
    unit: "car/battery",
    circuit: base.carId,
    kind: "level",
    title: "",
    severity: null,
    noticedFrom: null,
    prior: 0,
    matters: false,
    variants: [PLAIN_VARIANT],
    during: null,
    constant: false,
    effect: (_severity, { engine }) =>
      carAssignments(engine.key).map((usual) => {
        if (usual.field !== "volts") return { ...usual, value: usual.value * (running.get(usual.element) ?? 1) };
        const own = usual.element === "car/battery" ? offsetVolts : usual.element === "car/alternator" ? chargeVolts : engine.key === "off" ? 0 : liftVolts;
        return { ...usual, value: usual.value + own };
      }),
    scanVolts: null,
    hertzFactor: null,
  };
  return { fault, severity: 1, variant: PLAIN_VARIANT };
}

/** What one battery in seven is off by, volts: run down to 11.5 V with the key on, or on a charger at up to 13.5 V. Lower ones are the fault "weak". */
function oddBattery(random: Random): number {
  return -0.95 + 2 * random.uniform();
}

function drawHidden(faults: readonly Fault[], random: Random, healthy = 0.05): HiddenFault | null {
  if (random.uniform() < healthy) return null;
  const fault = faults[random.weighted(faults.map((candidate) => (candidate.unnoticed === true ? 0 : candidate.prior)))];
  const variant = fault.variants[random.below(fault.variants.length)];
  return { fault, severity: drawSeverity(fault, random), variant };
}

/** The sensed quantity of one circuit of a hidden car. */
interface HiddenWorld {
  readonly circuit: CircuitModel;
  readonly actual: number;
  readonly stated: number;
  /** How far this engine lies from the usual where its state brings the value, in standard deviations. */
  readonly deviation: number;
}

function drawWorld(circuit: CircuitModel, hidden: HiddenFault | null, random: Random, known?: number): HiddenWorld {
  const { world } = circuit.built;
  const outside = hidden?.fault.kind === "true-value" && hidden.fault.circuit === circuit.id && world.abnormal.length > 0;
  const cases = outside ? world.abnormal : world.normal;
  const drawn = cases[random.weighted(cases.map((value) => value.weight))] ?? { value: world.nominal, spread: 0 };
  const usual = outside || known === undefined ? drawn.value + 0.6 * drawn.spread * random.normal() : known;
  const actual = Math.min(world.high, Math.max(world.low, usual));
  return { circuit, actual, stated: actual + 0.7 * world.accuracy * random.normal(), deviation: 0.7 * random.normal() };
}

/** By how much a part that is warmed or cooled in the hand changes, degC. */
const WARMED: Readonly<Record<string, number>> = { heat: 25, cool: -15 };

/** The value of a circuit's quantity while a setup lasts: set by hand, brought by the engine, or as the car has it. */
function worldNow({ circuit, actual, deviation }: HiddenWorld, setup: Setup, asked: boolean, random: Random): number {
  const { world } = circuit.built;
  const fixed = fixedWorld(world, asked ? setup : { ...setup, truth: undefined });
  if (world.quantity === "level") return fixed?.value ?? actual;
  const settable = asked && world.settable.some(({ value }) => value === fixed?.value);
  if (settable && fixed !== null) return fixed.value + 0.5 * world.accuracy * random.normal();
  const forced = world.forced?.(engineOf(setup), setup) ?? null;
  if (forced !== null) return forced.value + deviation * forced.spread;
  const warmed = world.quantity === "temperature" && asked ? (WARMED[setup.stimulus?.kind ?? "none"] ?? 0) : 0;
  return Math.min(world.high, Math.max(world.low, actual + warmed));
}

/** A fault in another unit than the first, as one that was drawn by itself; both are there always. */
function drawSecond(faults: readonly Fault[], first: HiddenFault, random: Random): HiddenFault | null {
  const others = faults.filter(({ unit, kind, during }) => unit !== first.fault.unit && kind !== "true-value" && during === null);
  return drawHidden(others, random, 0);
}

/** The connector whose unplugging can cure a fault; null for faults that are no bad contact. */
function curedBy({ fault }: HiddenFault): string | null {
  const unit = parseUnit(fault.unit);
  return unit?.kind !== "contact" || fault.kind.startsWith("swapped") ? null : placeIn(fault.circuit, unit.place);
}

/** Puts a car together with a hidden fault drawn by the priors, outside the engine's own grid. */
export function drawCar(circuits: readonly Circuit[], random: Random, life: CarLife = STEADY): HiddenCar {
  const base = buildModel(circuits);
  const all = faultsOf(base);
  // A model may be built without the unit it usually fails in: then it fails like any other.
  const usual = life.pattern === undefined ? [] : all.filter(({ id, prior, unnoticed }) => prior > 0 && unnoticed !== true && localUnitOf(id) === life.pattern);
  const faultList = usual.length > 0 ? usual : all;
  const first = life.double || life.misses > 0 ? faultList.filter(({ during, kind }) => during === null && kind !== "true-value") : faultList;
  const hidden = drawHidden(first, random, life.sound === true ? 2 : life.double || life.misses > 0 || life.pattern !== undefined ? 0 : undefined);
  const second = life.double && hidden !== null ? drawSecond(all, hidden, random) : null;
  return assemble({ circuits, base, hidden, second, life, known: {} }, random, random);
}

/** A car with faults that are known beforehand. */
export interface PlacedCar {
  readonly circuits: readonly Circuit[];
  /** One fault or two; none for a sound car. */
  readonly faults: readonly FaultRef[];
  readonly life?: Partial<CarLife>;
  /** What is known of the day: the quantities that are not brought about by the engine. */
  readonly known?: Readonly<{ temperature?: number | undefined; pressure?: number | undefined }>;
}

/**
 * Puts a car together with given faults: its tolerances are drawn from `random`, the noise of its readings from `noise`.
 * @throws BadInput for circuits or faults that cannot be
 */
export function placedCar({ circuits, faults, life = {}, known = {} }: PlacedCar, random: Random, noise: Random): HiddenCar {
  const base = buildModel(circuits);
  const list = faultsOf(base);
  const [hidden = null, second = null] = faults.map((reference, index) => placeFault(base, list, reference, `faults[${index}]`));
  return assemble({ circuits, base, hidden, second, life: { ...STEADY, ...life }, known }, random, noise);
}

interface Parts {
  readonly circuits: readonly Circuit[];
  readonly base: Model;
  readonly hidden: HiddenFault | null;
  readonly second: HiddenFault | null;
  readonly life: CarLife;
  readonly known: NonNullable<PlacedCar["known"]>;
}

function assemble({ circuits, base, hidden: drawn, second, life, known }: Parts, random: Random, chance: Random): HiddenCar {
  const place = drawn === null ? null : curedBy(drawn);
  const curable = place !== null && random.uniform() < life.cures;
  let cured = false;
  const model = disturbedModel(base, random, life.foreign === true ? FOREIGN_WORSE : WORSE);
  const worlds = model.circuits.map((circuit) => {
    const { quantity } = circuit.built.world;
    return drawWorld(circuit, drawn, random, quantity === "temperature" || quantity === "pressure" ? known[quantity] : undefined);
  });
  const restVolts = random.uniform() < 0.15 ? oddBattery(random) : 0.35 * (2 * random.uniform() - 1);
  const ordinary = (low: number, high: number): number => low + (high - low) * random.uniform();
  const levels =
    life.foreign === true
      ? ([ordinary(-0.5, 0.45), ordinary(-0.6, 0.6), ordinary(-0.015, 0.045)] as const)
      : ([restVolts, 0.3 * random.normal(), 0.015 * random.normal()] as const);
  const battery = ownSupply(base, ...levels, new Map(RUNNING.map((name) => [name, Math.exp(ordinary(-RUNNING_SPREAD, RUNNING_SPREAD))])));
  const hidden = drawn === null ? null : asItArrived(model, drawn, [battery]);
  const noise: InstrumentNoise = { gain: 1 + 0.003 * random.normal(), normal: () => chance.normal(), uniform: () => chance.uniform() };
  const stated: { temperature?: number; pressure?: number } = {};
  for (const world of worlds) {
    const { quantity } = world.circuit.built.world;
    if (quantity === "temperature" || quantity === "pressure") stated[quantity] = Number(world.stated.toFixed(1));
  }

  // What is to be seen at a place is there to be seen again.
  const seen = new Map<string, string>();
  const lookAt = (circuit: string, place: string): string => {
    const key = `${circuit} ${place}`;
    const known = seen.get(key);
    if (known !== undefined) return known;
    const draw = (fault: HiddenFault | null): string =>
      findingsAt(place)[chance.weighted([...findingProbabilities(circuit, place, fault?.fault ?? null)])] ?? "ok";
    const first = draw(hidden);
    const word = first === "ok" && second !== null ? draw(second) : first;
    seen.set(key, word);
    return word;
  };
  const present = (): boolean => life.misses === 0 || chance.uniform() >= life.misses;
  const readNow = (measurement: Measurement, here: () => boolean): Value => {
    const probe = probeOf(model, measurement, "measurement");
    if (probe === null) throw new Error(`${measurement.meter} cannot be simulated`);
    if (probe.kind === "look") return lookAt(probe.circuit.id, probe.place);
    if (probe.kind === "gauge") return Number((worlds.find(({ circuit }) => circuit.id === probe.circuit.id)?.stated ?? 0).toFixed(1));
    const now = new Map(worlds.map((world) => [world.circuit.id, worldNow(world, probe.setup, world.circuit.id === probe.circuit.id, chance)]));
    if (curable && (probe.setup.open ?? []).includes(place)) cured = true;
    const there = !cured && here();
    const shows = hidden !== null && there && (hidden.fault.during === null || (showsIn(hidden.fault, probe.setup) && chance.uniform() > QUIET_SHARE));
    const weak = hidden?.fault.kind === "weak" && unitKindOf(hidden.fault.unit) === "battery";
    const faults = weak && hidden !== null ? [hidden] : shows && hidden !== null ? [battery, hidden] : [battery];
    if (second !== null) faults.push(second);
    const solved = solveSetup(model, probe, faults, now);
    if (probe.kind === "listen") {
      const share = coilShare(solved, probe);
      return chance.uniform() < 0.02 === (share ?? 0) > CLICK_SHARE ? "no-click" : "click";
    }
    const shown = shownMoving(probe, now.get(probe.circuit.id) ?? 0, noise, (value) =>
      value === null ? solved : solveSetup(model, probe, faults, new Map([...now, [probe.circuit.id, value]])),
    );
    return rounded(probe, shown);
  };
  const read = (measurement: Measurement): Value => readNow(measurement, present);
  const readTogether = (measurements: readonly Measurement[]): Value[] => {
    const there = present();
    return measurements.map((measurement) => readNow(measurement, () => there));
  };
  const reaches = (measurement: Measurement): boolean => {
    try {
      probeOf(model, measurement, "measurement");
      return true;
    } catch (error) {
      if (error instanceof BadInput) return false;
      throw error;
    }
  };
  return { circuits, hidden, second, stated, reaches, read, readTogether };
}

/** Rounds a value to what a display shows. */
export function rounded(probe: ElectricalProbe, value: Value): Value {
  if (typeof value === "object") {
    const round = (number: number): number => rounded(probe, number) as number;
    return { min: round(value.min), max: round(value.max), ...(value.avg === undefined ? {} : { avg: round(value.avg) }) };
  }
  if (typeof value !== "number") return value;
  if (probe.meter === "ohms" || probe.meter === "hertz") return Number(value.toPrecision(4));
  const { smallVolts } = scaleOf(probe);
  if (smallVolts !== undefined && probe.unit === null) return Number(value.toFixed(Math.ceil(Math.log10(DISPLAY_COUNTS / smallVolts))));
  if (probe.meter === "scan") return Number(value.toFixed(2));
  return Number(value.toFixed(Math.abs(value) < 0.6 ? 4 : 2));
}
