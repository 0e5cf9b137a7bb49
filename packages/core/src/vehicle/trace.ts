import type { Setup } from "@fox-lamp/language";
import { applySetup, type CircuitModel, type Drive, editsOf, engineOf, type Model, resolvePoint, situationOf, worldIn } from "../circuit";
import { effectIn, type PlacedFault, showsIn } from "../faults";
import { clampAt, conductorAmps, portOf, shownVolts } from "../instruments";
import { solveNetwork, withEdits } from "../network";
import { type Random, seededRandom } from "../numeric";
import { type CoilCurrent, coilCurrent } from "./coil";
import { courseOf, worldCourse } from "./course";

/** A channel of the scope: a voltage between two points, or, without a black lead, a clamp around the wire at a point. */
export interface TraceChannel {
  readonly name: string;
  readonly red: string;
  readonly black: string | null;
}

/** Where a channel is on the net: between two nodes, or around a conductor. */
type Lead = { readonly red: string; readonly black: string } | { readonly clamp: string };

/** What a scope is told: where its leads are, for how long, how often, and what it does to the signal. */
export interface TraceRequest {
  readonly channels: readonly TraceChannel[];
  readonly seconds: number;
  /** Samples a second. */
  readonly rate: number;
  readonly seed: number;
  /** `ac` takes the average away. */
  readonly coupling?: "dc" | "ac" | undefined;
  /** Steps of the instrument: so many bits over twice the range, which is full scale in volts; left out: as fine as its noise. A clamp has the usual range that fits. */
  readonly bits?: number | undefined;
  readonly range?: number | undefined;
  /** When the faults are there, seconds; left out: always, and those that come and go as they please. */
  readonly during?: readonly { readonly from: number; readonly to: number }[] | undefined;
  /** Teeth of the wheel that have broken out, from 0. */
  readonly brokenTeeth?: readonly number[] | undefined;
  /** Circuits whose valve does not move though its winding pulls. */
  readonly seized?: readonly string[] | undefined;
}

/** Sampled volts, or amperes of a clamp; `samples[k]` was taken at k / rate seconds. */
export interface Trace {
  readonly rate: number;
  readonly channels: readonly { readonly name: string; readonly unit: "V" | "A"; readonly samples: Float64Array }[];
}

/** Noise of leads and scope, volts, and of a clamp, amperes (one standard deviation). */
const NOISE_VOLTS = 0.004;
const NOISE_AMPS = 0.006;
/** A moving world is solved at this many values and read between them. */
const WORLD_STEPS = 25;
/** Compressions a second of a four-cylinder engine while the starter turns it, and their share of the starter's current. */
const COMPRESSION_SHARE = 0.22;
const INRUSH_SHARE = 0.9;
const INRUSH_SECONDS = 0.07;
const MOST_SAMPLES = 2e7;
/** Full scales of a scope's ranges, volts. */
export const SCOPE_RANGES = [0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50, 100, 200];

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
  leads: readonly Lead[],
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
    return Float64Array.from(leads, (lead) =>
      "clamp" in lead ? conductorAmps(solution, lead.clamp) : shownVolts(portOf(solution, row(lead.red), row(lead.black))),
    );
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
function samplerOf(model: Model, circuit: CircuitModel, setup: Setup, faults: readonly PlacedFault[], leads: readonly Lead[], request: TraceRequest): Sampler {
  const { seconds, seed, during, brokenTeeth } = request;
  const { world } = circuit.built;
  const now = worldIn(model, circuit, setup, circuit.id);
  const moving = worldCourse(setup.stimulus?.kind, world.quantity, world.low, world.high, now);
  const solve = (active: readonly PlacedFault[], value: number, starterFactor = 1): State =>
    solveState(model, circuit, setup, active, leads, value, starterFactor);
  const fleeting = during === undefined ? faults.filter(({ fault }) => fault.during !== null && showsIn(fault, setup)) : faults;
  const lasting = faults.filter((placed) => !fleeting.includes(placed));
  const still = solve(lasting, now);
  const sound = leads.some((lead) => "clamp" in lead) ? solve([], now) : null;
  const clamps = leads.map((lead, channel) => (sound === null || !("clamp" in lead) ? null : clampOf(circuit, sound, channel, request)));
  const broken = fleeting.length === 0 ? null : solve(faults, now);
  const grid = moving === null ? null : worldGrid(moving, seconds);
  const swept =
    grid === null
      ? null
      : { grid, clean: grid.map((value) => solve(lasting, value)), broken: broken === null ? null : grid.map((value) => solve(faults, value)) };
  const surge = (setup.key ?? "on") === "crank" ? { more: solve(lasting, now, 1 + INRUSH_SHARE), ripple: solve(lasting, now, 1 + COMPRESSION_SHARE) } : null;
  const course = courseOf(still.drive, setup.stimulus?.kind === "tap", seededRandom(seed), brokenTeeth);
  const compressions = engineOf(setup).rpm / 30;
  let [time, place, step] = [Number.NaN, 0, 0];
  return (at, channel, out) => {
    if (at !== time) [time, place, step] = [at, course(at), Number.isNaN(time) ? 0 : at - time];
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
    const clamp = clamps[channel] ?? null;
    return clamp === null ? volts : (clamp.coil?.next(clamp.way * volts, step) ?? clamp.way * volts);
  };
}

/** A clamp, put on so that the sound circuit's current counts upwards, and the course of a winding behind it. */
function clampOf(circuit: CircuitModel, { volts }: State, channel: number, { seized = [] }: TraceRequest): { way: 1 | -1; coil: CoilCurrent | null } {
  const usual = volts.reduce((most, moment) => (Math.abs(moment[channel] ?? 0) > Math.abs(most) ? (moment[channel] ?? 0) : most), 0);
  return { way: usual < 0 ? -1 : 1, coil: coilCurrent(circuit, circuit.built.fullScaleVolts, Math.abs(usual), seized.includes(circuit.id)) };
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
  const leads = request.channels.map(({ red, black }, index): Lead => {
    const own = owners[index]?.id ?? circuit.id;
    const where = `channels[${index}]`;
    if (black === null) return { clamp: clampAt(model, owners[index] ?? circuit, red, `${where}.red`) };
    return { red: resolvePoint(model, red, own, `${where}.red`), black: resolvePoint(model, black, own, `${where}.black`) };
  });
  const samplers = new Map<CircuitModel, { sampler: Sampler; of: number[] }>();
  for (const owner of new Set(owners)) {
    const of = owners.flatMap((one, index) => (one === owner ? [index] : []));
    const own = of.map((index) => leads[index] as Lead);
    samplers.set(owner, { sampler: samplerOf(model, owner, setup, faults, own, request), of });
  }
  const opens = during === undefined ? telegraph(seededRandom(seed + 1), seconds) : inside(during);
  const noise = seededRandom(seed + 2);
  const channels = request.channels.map(({ name, black }) => ({
    name,
    unit: black === null ? ("A" as const) : ("V" as const),
    noise: black === null ? NOISE_AMPS : NOISE_VOLTS,
    samples: new Float64Array(samples),
  }));
  for (let sample = 0; sample < samples; sample += 1) {
    const time = sample / rate;
    const out = opens(time);
    for (const { sampler, of } of samplers.values()) {
      for (let index = 0; index < of.length; index += 1) {
        const own = channels[of[index] as number] as (typeof channels)[number];
        own.samples[sample] = sampler(time, index, out) + own.noise * noise.normal();
      }
    }
  }
  if (coupling === "ac") for (const own of channels) removeMean(own.samples);
  if (request.bits !== undefined) for (const own of channels) quantise(own.samples, request.bits, own.unit === "A" ? undefined : request.range);
  return { rate, channels: channels.map(({ name, unit, samples: own }) => ({ name, unit, samples: own })) };
}

/** Whether a moment lies in one of some stretches. */
function inside(stretches: readonly { readonly from: number; readonly to: number }[]): (at: number) => boolean {
  return (at) => stretches.some(({ from, to }) => at >= from && at < to);
}

/** Rounds to the steps of an instrument and cuts at its range, in place; without a range the next of the usual ones. */
export function quantise(volts: Float64Array | Float32Array, bits: number, range: number | undefined): void {
  let most = 0;
  for (const value of volts) most = Math.max(most, Math.abs(value));
  const full = range ?? SCOPE_RANGES.find((one) => one >= most) ?? most;
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
