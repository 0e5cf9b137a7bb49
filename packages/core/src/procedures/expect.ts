import { BadInput, type Expect, type Measurement } from "@fox-lamp/language";
import {
  alternativesOf,
  applySetup,
  buildModel,
  type CircuitModel,
  type Drive,
  editsOf,
  fixedWorld,
  isHeld,
  type Model,
  movesSensed,
  seenApart,
  shiftAt,
  situationOf,
  stretchAt,
  touchedDrive,
  worldSource,
} from "../circuit";
import type { Motion, MovingCircuit, Prediction } from "../instruments";
import {
  asConverted,
  type Columns,
  columnsOf,
  type ElectricalProbe,
  emptyPrediction,
  isFollowed,
  OVERLOAD_OHMS,
  type Probe,
  predictClick,
  predictionSigma,
  predictProbe,
  probeOf,
  scaleOf,
  wordsOf,
} from "../instruments";
import { DATUM, type Edit, solveNetwork } from "../network";

/** A window holds this many standard deviations on each side (99 % of healthy circuits). */
const WINDOW_SIGMAS = 2.6;
/** Below these a window is not narrowed further: what a person can read and a lead can spoil. */
const LEAST_VOLTS = 0.02;
const LEAST_SHARE = LEAST_VOLTS / 5;
const LEAST_AMPS = 0.005;

function change(edit: Edit, before: number): number {
  return edit.field === "ohms" ? Math.log(edit.value / before) : edit.value - before;
}

/** A healthy circuit in a setup at a value of its sensed quantity, with its motions. */
export function healthyCircuit(model: Model, circuit: CircuitModel, setup: Measurement["setup"], world: number, spread: number): MovingCircuit {
  const given = setup ?? {};
  const { built } = circuit;
  const prepared = applySetup(model, given, circuit.id, "setup", new Map([[circuit.id, world]]));
  const step = 0.001 * Math.max(1, built.world.high - built.world.low);
  const at = (value: number): Drive => touchedDrive(given, built.drive(situationOf(built.world, given, value)));
  const [below, above] = [at(world - step), at(world + step)];
  const moments = prepared.moments.map(({ share, values }, moment) => {
    const lower = editsOf(prepared.net, values, circuit.id, below.moments[moment]?.assignments ?? []);
    const upper = editsOf(prepared.net, values, circuit.id, above.moments[moment]?.assignments ?? []);
    const motions = upper.map((edit, index): Motion => {
      const before = lower[index]?.value ?? edit.value;
      return { element: edit.element, field: edit.field, perWorld: (spread * change(edit, before)) / (2 * step), perSeverity: 0, perOther: 0 };
    });
    return { share, solution: solveNetwork(prepared.net, values), motions };
  });
  const { swing, shape, hertz, hertzSpread } = prepared.drive;
  const hertzPerWorld = below.hertz > 0 && above.hertz > 0 ? (spread * Math.log(above.hertz / below.hertz)) / (2 * step) : 0;
  return {
    moments,
    swing,
    shape,
    hertz,
    hertzSpread,
    hertzPerWorld,
    hertzPerSeverity: 0,
    held: isHeld(built.world, given),
    source: worldSource(built.world, given),
    stretch: stretchAt(built, world, spread),
    shift: shiftAt(built, spread),
    unsure: prepared.drive.unsure ?? null,
    blind: null,
  };
}

/** Predicts a probe on the healthy circuit at a world value known to `spread`. */
export function predictHealthy(model: Model, probe: ElectricalProbe, columns: Columns, world: number, spread: number): Prediction {
  return predictOn(healthyCircuit(model, probe.circuit, probe.setup, world, spread), probe, columns);
}

/** Predicts a probe on a circuit that is solved already. */
function predictOn(circuit: MovingCircuit, probe: ElectricalProbe, columns: Columns): Prediction {
  const out = emptyPrediction(columns, probe);
  predictProbe(circuit, probe, columns, out);
  return out;
}

/**
 * What a healthy circuit shows for a measurement: the window of 99 in 100 healthy circuits, in the reading's unit, or its
 * word. Without a stated truth the window covers every normal value of the sensed quantity.
 *
 * @returns null for a meter that says nothing here
 * @throws BadInput for bad leads
 */
export function expectHealthy(model: Model, measurement: Measurement, where: string): Expect | null {
  const probe = probeOf(model, measurement, where);
  if (probe === null) return null;
  const usual = expectOf(model, probe, columnsOf(model));
  if (probe.kind !== "electrical") return usual;
  const circuits = model.circuits.map(({ circuit }) => circuit);
  const only = circuits.length === 1 ? (circuits[0]?.id ?? "") : "";
  const rest = seenApart([measurement], alternativesOf(probe.circuit.circuit), only).slice(1);
  if (rest.length === 0) return usual;
  const others = rest.map(({ circuit }) => {
    const meant = buildModel(
      circuits.map((one) => (one.id === circuit.id ? circuit : one)),
      "circuits",
      model,
    );
    const other = probeIn(meant, measurement, where);
    return other === null ? usual : expectOf(meant, other, columnsOf(meant));
  });
  return others.reduce(widened, usual);
}

/** Both ends of a window, without end above where OL is sound as well; null for a word, and where nothing can be said. */
export function windowEnds({ low, high }: Expect): { readonly low: number; readonly high: number } | null {
  return low === null ? null : { low, high: high ?? Number.POSITIVE_INFINITY };
}

/** The probe of a measurement; null where a circuit meant otherwise has no such place, as a feed from the fuse has none at the module. */
function probeIn(model: Model, measurement: Measurement, where: string): Probe | null {
  try {
    return probeOf(model, measurement, where);
  } catch (error) {
    if (error instanceof BadInput) return null;
    throw error;
  }
}

/** A window that holds two; a word where either of them is one stays as it is usual. */
function widened(one: Expect, other: Expect): Expect {
  if (one.low === null || other.low === null || one.unit !== other.unit) return one;
  const high = one.high === null || other.high === null ? null : Math.max(one.high, other.high);
  return { ...one, low: Math.min(one.low, other.low), high };
}

/** Instruments that show a nought where they count nothing. */
const COUNTING: readonly string[] = ["hertz", "count", "scan"];

/** {@link expectHealthy} for a probe whose leads are resolved. */
export function expectOf(model: Model, probe: Probe, columns: Columns): Expect {
  if (probe.kind === "look") return { low: null, high: null, unit: "", word: "ok" };
  if (probe.kind === "gauge") {
    const { normal, unit } = probe.circuit.built.world;
    const ends = normal.flatMap(({ value, spread }) => [value - spread, value + spread]);
    return { low: round(Math.min(...ends)), high: round(Math.max(...ends)), unit };
  }
  if (probe.kind === "listen") return expectClick(model, probe, columns);
  const { world } = probe.circuit.built;
  const scale = scaleOf(probe);
  const swept = probe.meter === "ohms" && world.quantity === "position" && movesSensed(world, probe.setup);
  if (!swept && probe.statistic === "swing" && movesSensed(world, probe.setup) && followsWorld(model, probe, columns)) {
    const way = probe.setup.stimulus?.kind === "sweep" && world.quantity === "position" ? sweptSwing(model, probe, columns) : null;
    return { low: way?.low ?? null, high: way?.high ?? null, unit: scale.unit };
  }
  const fixed = fixedWorld(world, probe.setup);
  // What a track reads while it is swept lies between its ohms at either stop.
  const cases = swept ? [world.low, world.high].map((value) => ({ value, spread: world.accuracy })) : fixed === null ? world.normal : [fixed];
  const names = wordsOf(probe);
  let low = Number.POSITIVE_INFINITY;
  let high = Number.NEGATIVE_INFINITY;
  let word: string | undefined;
  for (const { value, spread } of cases) {
    const circuit = healthyCircuit(model, probe.circuit, probe.setup, value, spread);
    const prediction = predictOn(circuit, probe, columns);
    const likeliest = prediction.words.indexOf(Math.max(0.5, ...prediction.words));
    if (likeliest >= 0) {
      word = names[likeliest];
      continue;
    }
    if (scale.axis === "none") continue;
    const leastVolts = scale.smallVolts === undefined ? LEAST_VOLTS : LEAST_SHARE * scale.smallVolts;
    const least = scale.axis === "volts" ? leastVolts : scale.axis === "amps" ? LEAST_AMPS : 0;
    const reach = scale.axis === "volts" ? reachOf(probe) : null;
    const followed = isFollowing(circuit, probe) ? endsOf(circuit, probe, columns) : null;
    const [from, to] = followed ?? within(prediction, columns, WINDOW_SIGMAS, least, reach);
    const ends = [scale.fromScale(from), scale.fromScale(to)];
    low = Math.min(low, ...ends);
    high = Math.max(high, ...ends);
  }
  if (low <= high) {
    if (probe.meter === "volts-ac") low = Math.max(0, low);
    // A module shows no volts its converter does not have.
    [low, high] = [asConverted(probe, low), asConverted(probe, high)];
    if (probe.meter === "duty") [low, high] = [Math.max(0, low), Math.min(100, high)];
    if (isOnBody(probe)) high = Math.max(high, ACCEPTED_BODY_VOLTS);
    // What reaches past the end of an ohmmeter's display may be OL.
    const open = scale.axis === "log-ohms" && high > OVERLOAD_OHMS;
    return { low: round(low), high: open ? null : round(high), unit: scale.unit };
  }
  // A counter that counts nothing shows a nought.
  const shown = word === "none" && COUNTING.includes(probe.meter) ? 0 : null;
  return { low: shown, high: shown, unit: scale.unit, ...(word === undefined ? {} : { word }) };
}

/** What every shop accepts on the body, key on or running, volts: straps differ by more than a straight line about the usual one shows. */
export const ACCEPTED_BODY_VOLTS = 0.1;

/** Whether a probe is on the body against the battery's post, with no starter turning. */
function isOnBody({ meter, red, black, setup: { key, stimulus, add = [] } }: ElectricalProbe): boolean {
  return meter === "volts-dc" && red === "chassis" && black === DATUM && key !== "crank" && key !== "off" && stimulus === undefined && add.length === 0;
}

/** Whether a probe of levels follows a signal that changes so slowly that it may be caught anywhere between its two levels. */
function isFollowing(circuit: MovingCircuit, probe: ElectricalProbe): boolean {
  return probe.statistic === "mean" && probe.meter === "volts-dc" && circuit.swing !== null && isFollowed(circuit);
}

/** From the lowest a healthy circuit's lower level may be to the highest of its upper one. */
function endsOf(circuit: MovingCircuit, probe: ElectricalProbe, columns: Columns): [number, number] {
  const at = (statistic: "min" | "max"): [number, number] =>
    within(predictOn(circuit, { ...probe, statistic }, columns), columns, WINDOW_SIGMAS, LEAST_VOLTS, reachOf(probe));
  return [at("min")[0], at("max")[1]];
}

/** A sweep cut short at this share of its way is still one. */
const SWEPT_SHARE = 0.5;

/** How far a healthy circuit's value goes while what it senses is swept: from half of the way to all of it. */
function sweptSwing(model: Model, probe: ElectricalProbe, columns: Columns): { low: number; high: number } {
  const { low, high } = probe.circuit.built.world;
  const at = (value: number): Prediction => predictHealthy(model, { ...probe, statistic: "mean" }, columns, value, 1e-3 * (high - low));
  const [from, to] = [at(low), at(high)];
  const span = to.mean - from.mean;
  const own = columns.worldOf.get(probe.circuit.id);
  let variance = from.noise + to.noise;
  to.jacobian.forEach((slope, column) => {
    if (column !== own) variance += (slope - (from.jacobian[column] ?? 0)) ** 2;
  });
  const reach = WINDOW_SIGMAS * Math.sqrt(variance);
  return { low: round(SWEPT_SHARE * Math.max(0, Math.abs(span) - reach)), high: round(Math.abs(span) + reach) };
}

/** Changes below this are no movement, in the unit of a probe's scale. */
const LEAST_MOVE = 3 * LEAST_VOLTS;

/** Whether what a probe shows depends on what the circuit senses, from one end of its range to the other. */
function followsWorld(model: Model, probe: ElectricalProbe, columns: Columns): boolean {
  const { low, high } = probe.circuit.built.world;
  const at = (value: number): number => predictHealthy(model, { ...probe, statistic: "mean" }, columns, value, 0).mean;
  return Math.abs(at(high) - at(low)) > LEAST_MOVE;
}

/** How much higher than usual a circuit's own supply may be where the sheet does not say it, volts. */
function unsaidVolts({ built, supplies }: CircuitModel): number {
  const targets = built.tolerances.flatMap(({ unsaid, targets: own }) => (unsaid === undefined ? [] : own));
  return Math.max(0, ...targets.flatMap(({ element, field, sigma }) => (field === "volts" && supplies.includes(element) ? [WINDOW_SIGMAS * sigma] : [])));
}

/** The lowest and highest voltage of a circuit's own supplies; null where the leads are on the car itself. */
function reachOf({ circuit, red, black }: ElectricalProbe): readonly [number, number] | null {
  const own = circuit.paths.some(({ inside, part, places }) => [inside, part, ...places.values()].some((node) => node === red || node === black));
  return own && circuit.built.fullScaleVolts > 1 ? [0, circuit.built.fullScaleVolts + unsaidVolts(circuit)] : null;
}

/**
 * The stretch a prediction holds on its scale. What sheets do not say is wide, and its straight line leaves what supplies can make: there it
 * ends at their reach, but never inside what is known to be sound.
 */
function within(prediction: Prediction, columns: Columns, sigmas: number, least: number, reach: readonly [number, number] | null): [number, number] {
  const wide = Math.max(sigmas * predictionSigma(prediction), least);
  const { mean, noise, jacobian } = prediction;
  const unsaid = new Set(columns.unsaid.map(({ column }) => column));
  let variance = noise;
  jacobian.forEach((slope, column) => {
    if (!unsaid.has(column)) variance += slope * slope;
  });
  const narrow = Math.max(sigmas * Math.sqrt(variance), least);
  const [bottom, top] = reach ?? [Number.NEGATIVE_INFINITY, Number.POSITIVE_INFINITY];
  return [Math.max(mean - wide, Math.min(bottom, mean - narrow)), Math.min(mean + wide, Math.max(top, mean + narrow))];
}

function expectClick(model: Model, probe: Probe, columns: Columns): Expect {
  const out = emptyPrediction(columns, probe);
  predictClick(healthyCircuit(model, probe.circuit, probe.setup, probe.circuit.built.world.nominal, 0), probe, out);
  return { low: null, high: null, unit: "", word: (out.words[0] as number) > 0.5 ? "click" : "no-click" };
}

function round(value: number): number {
  return Number(value.toPrecision(5));
}
