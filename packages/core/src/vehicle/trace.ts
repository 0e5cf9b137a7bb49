import type { Setup } from "@fox-lamp/language";
import { applySetup, type CircuitModel, type Drive, editsOf, engineOf, type Model, resolvePoint, situationOf, worldIn } from "../circuit";
import { effectIn, type PlacedFault, showsIn } from "../faults";
import { portOf, shownVolts } from "../instruments";
import { solveNetwork, withEdits } from "../network";
import { type Random, seededRandom } from "../numeric";
import { courseOf, worldCourse } from "./course";

/** A lead pair of the scope: a voltage between two points. */
export interface TraceChannel {
  readonly name: string;
  readonly red: string;
  readonly black: string;
}

/** What a scope is told: where its leads are, for how long, how often, and what it does to the signal. */
export interface TraceRequest {
  readonly channels: readonly TraceChannel[];
  readonly seconds: number;
  /** Samples a second. */
  readonly rate: number;
  readonly seed: number;
  /** `ac` takes the average away. */
  readonly coupling?: "dc" | "ac" | undefined;
  /** Steps of the instrument: so many bits over twice the range, which is full scale in volts; left out: as fine as its noise. */
  readonly bits?: number | undefined;
  readonly range?: number | undefined;
  /** When the faults are there, seconds; left out: always, and those that come and go as they please. */
  readonly during?: readonly { readonly from: number; readonly to: number }[] | undefined;
  /** Teeth of the wheel that have broken out, from 0. */
  readonly brokenTeeth?: readonly number[] | undefined;
}

/** Sampled voltages; `volts[k]` was taken at k / rate seconds. */
export interface Trace {
  readonly rate: number;
  readonly channels: readonly { readonly name: string; readonly volts: Float64Array }[];
}

/** Noise of leads and scope, volts (one standard deviation). */
const NOISE_VOLTS = 0.004;
/** A moving world is solved at this many values and read between them. */
const WORLD_STEPS = 25;
/** Compressions a second of a four-cylinder engine while the starter turns it, and their share of the starter's current. */
const COMPRESSION_SHARE = 0.22;
const INRUSH_SHARE = 0.9;
const INRUSH_SECONDS = 0.07;
const MOST_SAMPLES = 2e7;
/** Ranges of a scope, volts. */
const RANGES = [0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50, 100, 200];

/** Volts of every channel in every moment of a state. */
type Extremes = readonly Float64Array[];

interface State {
  readonly drive: Drive;
  readonly volts: Extremes;
}

function solveState(
  model: Model,
  circuit: CircuitModel,
  setup: Setup,
  faults: readonly PlacedFault[],
  leads: readonly (readonly [string, string])[],
  world: number,
  starterFactor: number,
): State {
  const prepared = applySetup(model, setup, circuit.id, "setup", new Map([[circuit.id, world]]));
  const { net, drive } = prepared;
  const own = situationOf(circuit.built.world, setup, world);
  const situations = new Map(model.circuits.map((other) => [other.id, situationOf(other.built.world, setup, worldIn(model, other, setup, circuit.id))]));
  const starter = net.elementIndex.get("car/starter") ?? -1;
  const volts = prepared.moments.map(({ values }, moment) => {
    const edits = faults.flatMap((placed) => {
      const mine = placed.fault.circuit === circuit.id;
      return editsOf(net, values, placed.fault.circuit, effectIn(placed, mine ? own : (situations.get(placed.fault.circuit) ?? own), mine ? moment : 0));
    });
    const all = withEdits(values, edits);
    all.ohms[starter] = all.ohms[starter] / starterFactor;
    const solution = solveNetwork(net, all);
    const row = (node: string): number => net.nodeIndex.get(node) ?? -1;
    return Float64Array.from(leads, ([red, black]) => shownVolts(portOf(solution, row(red), row(black))));
  });
  const factor = faults
    .filter(({ fault }) => fault.circuit === circuit.id && showsIn(fault, setup))
    .reduce((rate, { fault, severity, variant }) => rate * (fault.hertzFactor?.(severity, variant.direction) ?? 1), 1);
  return { drive: { ...drive, hertz: drive.hertz * factor }, volts };
}

/** Volts of a channel between a state's extremes at a place of its course. */
function voltsAt({ drive, volts }: State, channel: number, course: number): number {
  const at = (moment: number): number => volts[moment][channel];
  if (drive.swing === null) return at(0);
  const [first, second] = drive.swing;
  if (drive.shape === "ring") return at(0) + 0.5 * (at(first) - at(second)) * course;
  return at(second) + (at(first) - at(second)) * course;
}

/** A contact that opens now and then: closed three quarters of the time, open for some milliseconds to a tenth of a second. */
function telegraph(random: Random, seconds: number): (at: number) => boolean {
  const changes: number[] = [];
  let at = 0;
  while (at < seconds) {
    at += 0.05 - 0.3 * Math.log(1 - random.uniform());
    changes.push(at);
    at += 0.004 + 0.09 * random.uniform();
    changes.push(at);
  }
  let near = 0;
  return (time) => {
    while (near < changes.length && changes[near] <= time) near += 1;
    return near % 2 === 1;
  };
}

/** Volts of some leads of one circuit at a moment. */
type Sampler = (seconds: number, channel: number, out: boolean) => number;

/** How one circuit's leads move: every state solved once, the course between them read off the solutions. */
function samplerOf(
  model: Model,
  circuit: CircuitModel,
  setup: Setup,
  faults: readonly PlacedFault[],
  leads: readonly (readonly [string, string])[],
  request: TraceRequest,
): Sampler {
  const { seconds, seed, during, brokenTeeth } = request;
  const { world } = circuit.built;
  const now = worldIn(model, circuit, setup, circuit.id);
  const moving = worldCourse(setup.stimulus?.kind, world.quantity, world.low, world.high, now);
  const solve = (active: readonly PlacedFault[], value: number, starterFactor = 1): State =>
    solveState(model, circuit, setup, active, leads, value, starterFactor);
  const fleeting = during === undefined ? faults.filter(({ fault }) => fault.during !== null && showsIn(fault, setup)) : faults;
  const lasting = faults.filter((placed) => !fleeting.includes(placed));
  const still = solve(lasting, now);
  const broken = fleeting.length === 0 ? null : solve(faults, now);
  const grid = moving === null ? null : worldGrid(moving, seconds);
  const swept =
    grid === null
      ? null
      : { grid, clean: grid.map((value) => solve(lasting, value)), broken: broken === null ? null : grid.map((value) => solve(faults, value)) };
  const surge = (setup.key ?? "on") === "crank" ? { more: solve(lasting, now, 1 + INRUSH_SHARE), ripple: solve(lasting, now, 1 + COMPRESSION_SHARE) } : null;
  const course = courseOf(still.drive, setup.stimulus?.kind === "tap", seededRandom(seed), brokenTeeth);
  const compressions = engineOf(setup).rpm / 30;
  let [time, place] = [Number.NaN, 0];
  return (at, channel, out) => {
    if (at !== time) [time, place] = [at, course(at)];
    const open = broken !== null && out;
    let volts: number;
    if (swept !== null && moving !== null) {
      const states = open && swept.broken !== null ? swept.broken : swept.clean;
      volts = between(swept.grid, states, moving(at), channel, place);
    } else volts = voltsAt(open && broken !== null ? broken : still, channel, place);
    if (surge !== null) {
      const base = voltsAt(still, channel, place);
      volts += (voltsAt(surge.more, channel, place) - base) * Math.exp(-at / INRUSH_SECONDS);
      volts += (voltsAt(surge.ripple, channel, place) - base) * Math.sin(2 * Math.PI * compressions * at);
    }
    return volts;
  };
}

/** The circuit a lead belongs to: its point's prefix, else the one the capture is of. */
function ownerOf(model: Model, circuit: CircuitModel, red: string): CircuitModel {
  const prefix = red.includes(":") ? red.split(":")[0] : undefined;
  return model.circuits.find(({ id }) => id === prefix) ?? circuit;
}

/**
 * Samples what a scope would see: every state a circuit can be in is solved once, and the course in between is read off the
 * solutions, so that a fault changes the trace as it does a reading. Faults that show only at times come and go. Leads on several circuits
 * see the same turn of the engine.
 *
 * @throws BadInput for leads that do not exist; RangeError for a length or rate that cannot be
 */
export function traceOf(model: Model, circuit: CircuitModel, setup: Setup, faults: readonly PlacedFault[], request: TraceRequest): Trace {
  const { seconds, rate, seed, coupling = "dc", during } = request;
  const samples = Math.round(seconds * rate);
  if (!(samples >= 1 && samples <= MOST_SAMPLES))
    throw new RangeError(`${seconds} s at ${rate} samples a second are ${samples} samples; expected 1 to 20 million`);
  const owners = request.channels.map(({ red }) => ownerOf(model, circuit, red));
  const leads = request.channels.map(
    ({ red, black }, index) =>
      [
        resolvePoint(model, red, owners[index]?.id ?? circuit.id, `channels[${index}].red`),
        resolvePoint(model, black, owners[index]?.id ?? circuit.id, `channels[${index}].black`),
      ] as const,
  );
  const samplers = new Map<CircuitModel, { sampler: Sampler; of: number[] }>();
  for (const owner of new Set(owners)) {
    const of = owners.flatMap((one, index) => (one === owner ? [index] : []));
    const own = of.map((index) => leads[index] as readonly [string, string]);
    samplers.set(owner, { sampler: samplerOf(model, owner, setup, faults, own, request), of });
  }
  const opens = during === undefined ? telegraph(seededRandom(seed + 1), seconds) : inside(during);
  const noise = seededRandom(seed + 2);
  const channels = request.channels.map(({ name }) => ({ name, volts: new Float64Array(samples) }));
  for (let sample = 0; sample < samples; sample += 1) {
    const time = sample / rate;
    const out = opens(time);
    for (const { sampler, of } of samplers.values()) {
      for (let index = 0; index < of.length; index += 1) {
        const { volts } = channels[of[index] as number] as { volts: Float64Array };
        volts[sample] = sampler(time, index, out) + NOISE_VOLTS * noise.normal();
      }
    }
  }
  if (coupling === "ac") for (const { volts } of channels) removeMean(volts);
  if (request.bits !== undefined) for (const { volts } of channels) quantise(volts, request.bits, request.range);
  return { rate, channels };
}

/** Whether a moment lies in one of some stretches. */
function inside(stretches: readonly { readonly from: number; readonly to: number }[]): (at: number) => boolean {
  return (at) => stretches.some(({ from, to }) => at >= from && at < to);
}

/** Rounds to the steps of an instrument and cuts at its range; without a range the next of the usual ones. */
function quantise(volts: Float64Array, bits: number, range: number | undefined): void {
  const most = volts.reduce((peak, value) => Math.max(peak, Math.abs(value)), 0);
  const full = range ?? RANGES.find((one) => one >= most) ?? most;
  const steps = 2 ** (bits - 1);
  for (let sample = 0; sample < volts.length; sample += 1) {
    const step = Math.max(-steps, Math.min(steps - 1, Math.round(((volts[sample] as number) * steps) / full)));
    volts[sample] = (step * full) / steps;
  }
}

function worldGrid(moving: (seconds: number) => number, seconds: number): number[] {
  let low = Number.POSITIVE_INFINITY;
  let high = Number.NEGATIVE_INFINITY;
  for (let step = 0; step <= 400; step += 1) {
    const value = moving((seconds * step) / 400);
    low = Math.min(low, value);
    high = Math.max(high, value);
  }
  return Array.from({ length: WORLD_STEPS }, (_, index) => low + ((high - low) * index) / (WORLD_STEPS - 1));
}

function between(grid: readonly number[], states: readonly State[], value: number, channel: number, course: number): number {
  const [first, last] = [grid[0], grid.at(-1) as number];
  const at = last === first ? 0 : Math.min(WORLD_STEPS - 1.000001, Math.max(0, ((value - first) / (last - first)) * (WORLD_STEPS - 1)));
  const index = Math.floor(at);
  const low = voltsAt(states[index], channel, course);
  const high = voltsAt(states[Math.min(index + 1, states.length - 1)], channel, course);
  return low + (high - low) * (at - index);
}

function removeMean(volts: Float64Array): void {
  const mean = volts.reduce((sum, value) => sum + value, 0) / volts.length;
  for (let sample = 0; sample < volts.length; sample += 1) volts[sample] = volts[sample] - mean;
}

/**
 * Current of a driven winding while it is switched, amperes: it rises towards V / R and falls through the free-wheeling path with
 * the winding's own time constant, i' = (V - i R) / L (series R-L circuit).
 *
 * @param drivenVolts volts across the winding while it is on
 */
export function windingCurrent(
  drivenVolts: number,
  ohms: number,
  henries: number,
  hertz: number,
  onShare: number,
  seconds: number,
  rate: number,
): Float64Array {
  if (ohms <= 0 || henries <= 0 || rate <= 0) throw new RangeError("a winding needs resistance, inductance and a sampling rate over zero");
  const out = new Float64Array(Math.round(seconds * rate));
  const decay = Math.exp(-ohms / henries / rate);
  let amps = 0;
  for (let sample = 0; sample < out.length; sample += 1) {
    const phase = (sample * hertz) / rate;
    const on = hertz === 0 || phase - Math.floor(phase) < onShare;
    const target = on ? drivenVolts / ohms : 0;
    amps = target + (amps - target) * decay;
    out[sample] = amps;
  }
  return out;
}
