import type { Drive, WorldSource } from "../circuit";
import { adjointOf, CURRENT_LIMIT, type EditField, KIND, portSensitivity, type Regulator, type Solution, voltsBetween, voltsSensitivity } from "../network";
import type { Columns, FlatTargets } from "./columns";
import { type Port, portOf } from "./port";
import type { ElectricalProbe } from "./probe";
import type { MomentSolution, Rhythm } from "./waveform-view";

/** How an assignment moves with the world and with the severities, per standard deviation (ln ohms, volts, gain). */
export interface Motion {
  readonly element: number;
  readonly field: EditField;
  readonly perWorld: number;
  readonly perSeverity: number;
  /** With the severity of a second fault. */
  readonly perOther: number;
  /** Whether the severity is what stands there now, whatever the part is otherwise: its own tolerance is gone with it. */
  readonly replaced?: true;
}

/** One solved moment with the motions of what was set in it. */
export interface MovingMoment extends MomentSolution {
  readonly motions: readonly Motion[];
}

/** Spreads of what differs between sound circuits where the sheet is silent: ln of the rate, share of the time in the first extreme. */
export type Unsure = NonNullable<Drive["unsure"]>;

/** A hypothesis' circuit in a setup: solved moments, and how its rate moves. */
export interface MovingCircuit extends Rhythm {
  readonly moments: readonly MovingMoment[];
  /** Slopes of ln hertz per standard deviation of world and severity, and its own relative spread. */
  readonly hertzPerWorld: number;
  readonly hertzPerSeverity: number;
  readonly hertzSpread: number;
  /** Whether the technician states the sensed quantity and holds it by hand, so that it wanders from one reading to the next. */
  readonly held: boolean;
  /** Where the value of the sensed quantity comes from: readings whose values come from elsewhere do not share its error. */
  readonly source: WorldSource;
  /** Slope of a line the sheet does not state, in standard deviations of the sensed quantity: it turns about the middle of its range. */
  readonly stretch: number;
  /** The same of where the line lies along the sensed quantity. */
  readonly shift: number;
  /** What the sheet does not say of rate and duty, where it is silent. */
  readonly unsure: Unsure | null;
  /** What the module reports whatever its pin does, with its slope per standard deviation of severity; null when it reads the pin. */
  readonly blind: { readonly volts: number; readonly perSeverity: number } | null;
}

/**
 * What a probe shows at one working point, linearised. A number on the probe's scale with its sensitivities to the shared
 * variables and its instrument noise (a variance), and the probabilities that a word is shown instead.
 */
export interface Prediction {
  mean: number;
  readonly jacobian: Float64Array;
  noise: number;
  /** Of the noise, the variance that is no noise of a reading: see {@link bentTogether}. */
  bent: number;
  /** Of the noise, the variance that is the same whenever the very same is measured again: what is the circuit's and not the reading's. */
  lasting: number;
  readonly words: Float64Array;
  /** Working storage of whoever fills it. */
  readonly scratch: PredictionScratch;
}

/** Slopes that are added up by place, until their squares are taken. */
class Slopes {
  private sums = new Float64Array(64);
  private readonly touched: number[] = [];

  add(place: number, slope: number): void {
    if (slope === 0) return;
    if (place >= this.sums.length) {
      const larger = new Float64Array(2 * place);
      larger.set(this.sums);
      this.sums = larger;
    }
    if (this.sums[place] === 0) this.touched.push(place);
    this.sums[place] = this.sums[place] + slope;
  }

  takeSquares(): number {
    let squares = 0;
    for (const place of this.touched) {
      squares += this.sums[place] * this.sums[place];
      this.sums[place] = 0;
    }
    this.touched.length = 0;
    return squares;
  }
}

/** Working storage for predictions, allocated once and used over and over; what it holds is gone at the next call. */
export class PredictionScratch {
  private adjoints = new Float64Array(64);
  private slopes = new Float64Array(64);

  /** Storage for the adjoint of a network of `nodes` nodes. */
  adjoint(nodes: number): Float64Array {
    if (this.adjoints.length < nodes) this.adjoints = new Float64Array(2 * nodes);
    return this.adjoints.subarray(0, nodes);
  }

  /** What every element brings by itself, slopes per standard deviation, and what wide columns do; zero again once {@link settleNoise} was called. */
  private readonly owns = new Slopes();
  private readonly wides = new Slopes();
  private readonly drifts = new Slopes();

  /** Adds the slope of a spread that is one element's own. */
  addOwn(element: number, slope: number): void {
    this.owns.add(element, slope);
  }

  /** Adds the slope of what one element does otherwise at every reading. */
  addDrift(element: number, slope: number): void {
    this.drifts.add(element, slope);
  }

  /** Adds the slope of a column so wide that volts do not follow it in a straight line. */
  addWide(column: number, slope: number): void {
    this.wides.add(column, slope);
  }

  /** Squares of what was added, summed: of the elements, of the wide columns, and of what drifts. */
  takeSquares(): { readonly owns: number; readonly wides: number; readonly drifts: number } {
    return { owns: this.owns.takeSquares(), wides: this.wides.takeSquares(), drifts: this.drifts.takeSquares() };
  }

  /** Storage for one slope of each of `columns` shared variables, all zero. */
  jacobian(columns: number): Float64Array {
    if (this.slopes.length < columns) this.slopes = new Float64Array(2 * columns);
    return this.slopes.subarray(0, columns).fill(0);
  }
}

/** Where a probe touches, with the ports between its leads in every moment. */
export interface Leads {
  readonly red: number;
  readonly black: number;
  readonly ports: readonly Port[];
  /** Column of the probed circuit's sensed quantity. */
  readonly world: number;
  /** Columns of what belongs to the form and to the rate of its signal; -1 where it stands still in every state. */
  readonly form: number;
  readonly rate: number;
  /** Column of how large its module wants that signal; -1 where it is switched. */
  readonly hears: number;
  /** Tolerances a reading here depends on. */
  readonly tolerances: FlatTargets;
}

/** Resolves a probe's leads in a solved circuit. */
export function leadsOf(circuit: MovingCircuit, probe: ElectricalProbe, columns: Columns): Leads {
  const { nodeIndex } = circuit.moments[0].solution.net;
  const trace = columns.traceOf.get(probe.circuit.id);
  const red = nodeIndex.get(probe.red) ?? -1;
  const black = nodeIndex.get(probe.black) ?? -1;
  return {
    red,
    black,
    ports: circuit.moments.map(({ solution }) => portOf(solution, red, black)),
    world: columns.sourcesOf.get(probe.circuit.id)?.bySource.get(circuit.source) ?? columns.worldOf.get(probe.circuit.id) ?? columns.severity,
    form: trace?.form ?? -1,
    rate: trace?.rate ?? -1,
    hears: trace?.hears ?? -1,
    tolerances: columns.tolerancesFor.get(probe.circuit.id) ?? columns.tolerances,
  };
}

/** A wire or contact with more than this is not sound, ohms. */
const SOUND_OHMS = 0.2;
/**
 * Amperes that drop more than this across one sound wire or contact, volts, flow only into a short. There its spread is taken as a part of
 * what it is: in a straight line it would reach down to no drop at all, and a short would explain any voltage.
 */
const HEAVY_VOLTS = 0.15;
const HEAVY_SHARE = 0.4;

/** Adds to the slope of one shared variable; nothing where the circuit has no such variable. */
export function addSlope({ jacobian }: Pick<Prediction, "jacobian">, column: number, amount: number): void {
  if (column >= 0) jacobian[column] = jacobian[column] + amount;
}

/**
 * What the form of a signal leaves open of its average, as a share of its swing: pulses have flanks and ripples. What a winding or a piezo makes goes as
 * far one way as the other: its average is nothing, whatever its form.
 */
const FORM_SHARE = { square: 0.04, sine: 0.01, ring: 0.005 } as const;

/** Adds what is open of the share of the time a pulsed quantity has each of its levels. @param swing between them, in what is predicted */
export function addPulsed({ unsure, shape }: Pick<MovingCircuit, "unsure" | "shape">, { form }: Leads, swing: number, into: Prediction): void {
  if (unsure !== null) addSlope(into, form, unsure.share * swing);
  addLasting(into, (FORM_SHARE[shape] * swing) ** 2);
}

/** Adds variance that no reading takes anew. */
function addLasting(into: Pick<Prediction, "noise" | "lasting">, variance: number): void {
  into.noise += variance;
  into.lasting += variance;
}

/** Adds what is open of the form of a signal: every blow is another one, what else makes a form is there each time. */
export function addForm({ shape }: Pick<MovingCircuit, "shape">, variance: number, into: Pick<Prediction, "noise" | "lasting">): void {
  if (shape === "ring") into.noise += variance;
  else addLasting(into, variance);
}

/** Takes out what the sheet does not say: the module knows its own resistors and lines, so its own values do not depend on it. */
export function forgetUnsaid({ jacobian }: Pick<Prediction, "jacobian">, { unsaid }: Columns): void {
  for (const { column } of unsaid) jacobian[column] = 0;
}

/**
 * A quantity between two leads by its slopes: that of the voltage across them, of the port's resistance, and one element's own. A class, since
 * a job makes tens of thousands: literals whose numbers are whole at times and fractions at others change their shape under the code that reads them.
 */
export class Quantity {
  constructor(
    /** Of the voltage. */
    readonly adjoint: Float64Array,
    /** How much of the voltage's slope it has: one, or nothing. */
    readonly perVolt: 0 | 1,
    /** How much it moves with the port's resistance, per ohm. */
    readonly perOhm: number,
    /** The element whose own resistance moves it besides, per ln ohms; -1 where there is none. */
    readonly own = -1,
    readonly perOwn = 0,
  ) {}
}

/** The voltage between two leads. @param perOhm how much the meter's load makes of the port's resistance, volts per ohm */
export function voltsBetweenLeads(adjoint: Float64Array, perOhm = 0): Quantity {
  return new Quantity(adjoint, 1, perOhm);
}

/**
 * Below this an element's own change is not seen between the leads, ohms: at a hundred amperes it would be a ten-millionth of a volt. What is left of
 * it is the rounding of the solver.
 */
const UNSEEN_OHMS = 1e-9;

/** Slope of a quantity per unit of one number of one element (per ln ohms). */
function slopeOf(solution: Solution, { adjoint, perVolt, perOhm, own, perOwn }: Quantity, element: number, field: EditField): number {
  let slope = perVolt === 0 ? 0 : voltsSensitivity(solution, adjoint, element, field);
  if (field !== "ohms") return slope;
  if (perOhm !== 0) slope += perOhm * portSensitivity(solution, adjoint, element);
  return element === own ? slope + perOwn : slope;
}

/**
 * From this spread on, ln ohms, volts do not follow a resistance in a straight line: so much of what it moves them by is left over, and differs
 * from one reading to another. (The second term of the exponential at one standard deviation, beside the first.)
 */
const WIDE_SIGMA = 0.5;
const BENT_SHARE = 0.35;

/** What two readings of one and the same quantity leave over is the same: how far their levels, volts, and its sizes, ln, may lie apart for that. */
const BENT_APART_VOLTS = 0.3;
const BENT_APART_LOG = 0.3;

/**
 * Covariance of what is left over of two readings that a wide spread moves: alike where both stand at the same level and are moved as much by the
 * same things, so that a reading taken again says nothing new of it; opposite where what lifts one lowers the other, as a swing's lowest and highest.
 * (A product of bells over the two and of that likeness, so that any set of readings has a covariance that can be.)
 *
 * @param one variance of what is left over, volts squared, with the level; `other` the same of the other reading
 * @param likeness cosine of what moves the two, -1 to 1
 */
export function bentTogether(one: number, level: number, other: number, otherLevel: number, likeness: number): number {
  if (one === 0 || other === 0) return 0;
  const apart = (level - otherLevel) / BENT_APART_VOLTS;
  const size = (0.5 * Math.log(one / other)) / BENT_APART_LOG;
  return likeness * Math.sqrt(one * other) * Math.exp(-0.5 * (apart * apart + size * size));
}

/**
 * Takes what elements and wide columns bring by themselves into a row's noise, once all of its moments are added: what lifts a swing's lowest and its
 * highest alike does not move the swing.
 */
export function settleNoise(into: Prediction): void {
  const { owns, wides, drifts } = into.scratch.takeSquares();
  const bent = BENT_SHARE ** 2 * wides;
  into.noise += bent + drifts;
  into.bent += bent;
  addLasting(into, owns);
}

/** Adds the sensitivities of a quantity in one moment to a row; its noise is complete after {@link settleNoise}. */
export function addJacobian(
  solution: Solution,
  columns: Columns,
  leads: Leads,
  motions: readonly Motion[],
  scale: number,
  quantity: Quantity,
  into: Prediction,
): void {
  const { net, values, volts } = solution;
  const out = into.jacobian;
  const { tolerances, world: worldColumn } = leads;
  const { column: columnOf, element: elementOf, field: fieldOf, sigma: sigmaOf, ofVolts } = tolerances;
  const { adjoint, own } = quantity;
  const { connections } = columns;
  const volty = quantity.perVolt === 1;
  const replaced = motions.find((motion) => motion.replaced === true)?.element ?? -1;
  for (let at = 0; at < columnOf.length; at += 1) {
    const element = elementOf[at];
    const a = net.a[element];
    const b = net.b[element];
    if (Math.abs(voltsBetween(adjoint, a, b)) < UNSEEN_OHMS && element !== own) continue;
    const column = columnOf[at];
    const field = fieldOf[at];
    const contact = column === connections;
    // A contact or wire that is the fault itself has its severity instead of a tolerance.
    if (contact && values.ohms[element] > SOUND_OHMS) continue;
    if (element === replaced && field === "ohms") continue;
    // A supply that is dead makes nothing, whatever the sheet says or leaves out.
    if (field === "volts" && values.volts[element] === 0 && net.kinds[element] === KIND.regulator) continue;
    const heavy = contact && Math.abs(voltsBetween(volts, a, b)) > HEAVY_VOLTS;
    const share = ofVolts[at] === 1 ? values.volts[element] : heavy ? HEAVY_SHARE : 1;
    const slope = scale * share * sigmaOf[at] * slopeOf(solution, quantity, element, field);
    out[column] = out[column] + slope;
    if (contact) into.scratch.addOwn(element, slope);
    else if (volty && sigmaOf[at] >= WIDE_SIGMA) into.scratch.addWide(column, slope);
  }
  let world = 0;
  let severity = 0;
  let other = 0;
  for (const motion of motions) {
    const slope = slopeOf(solution, quantity, motion.element, motion.field);
    world += slope * motion.perWorld;
    severity += slope * motion.perSeverity;
    other += slope * motion.perOther;
  }
  if (columns.other !== null) out[columns.other] = out[columns.other] + scale * other;
  out[worldColumn] = out[worldColumn] + scale * world;
  out[columns.severity] = out[columns.severity] + scale * severity;
}

/** Of how an engine state differs from the usual so much is this engine's in all of its states (its size, its wear); the rest is the state's own. */
const ENGINE_SHARE = 0.8;

/**
 * Splits the slope of a quantity that a state of the engine brings about into the engine's part and the state's own. What stood somewhere else for every
 * reading is a noise of each.
 */
export function shareWithEngine(out: Pick<Prediction, "jacobian" | "noise">, { sourcesOf, worldOf }: Columns, circuit: string, source: WorldSource): void {
  const { jacobian } = out;
  if (source === "anywhere") {
    const world = worldOf.get(circuit);
    if (world === undefined) return;
    out.noise += jacobian[world] ** 2;
    jacobian[world] = 0;
    return;
  }
  const sources = sourcesOf.get(circuit);
  const own = source === "known" || source === "moved" || source.startsWith("set") ? undefined : sources?.bySource.get(source);
  if (sources === undefined || own === undefined) return;
  const slope = jacobian[own];
  jacobian[sources.engine] = jacobian[sources.engine] + ENGINE_SHARE * slope;
  jacobian[own] = Math.sqrt(1 - ENGINE_SHARE ** 2) * slope;
}

/** A stated value is not held exactly from one reading to the next: this share of its variance is drawn anew each time. */
const UNSTEADY_SHARE = 0.35;

/**
 * Variance of a stated value that is not held exactly, on the probe's scale. A value nobody states is the same from one reading to the
 * next: that it repeats tells about the meter, not about the part.
 */
export function unsteadiness({ held }: Pick<MovingCircuit, "held">, leads: Leads, jacobian: Float64Array): number {
  return held ? UNSTEADY_SHARE * jacobian[leads.world] ** 2 : 0;
}

/** From this share of the meter's resistance on, its load on the line counts: a pull-up the sheet does not state may be anything, and moves it. */
const LOADED_SHARE = 1e-4;

/** How much a regulator's current limit wanders between readings as the module warms, as a share of it. */
const LIMIT_DRIFT = 0.03;

/** Adds what supplies in current limit bring to a voltage: their limit is no reference. @param adjoint of the voltage; `scale` of what is predicted to it */
function addLimitDrift({ net, regimes }: Solution, adjoint: Float64Array, scale: number, { scratch }: Prediction): void {
  for (const index of net.switching) {
    if (net.kinds[index] !== KIND.regulator || regimes[index] !== CURRENT_LIMIT) continue;
    const { limitAmps } = net.elements[index] as Regulator;
    const seen = voltsBetween(adjoint, net.a[index], net.b[index]);
    scratch.addDrift(index, scale * LIMIT_DRIFT * limitAmps * seen);
  }
}

/** Adds the slopes of the voltage between the leads in one moment; `load` is the meter's resistance. The noise is complete after {@link settleNoise}. */
export function addVolts(circuit: MovingCircuit, moment: number, leads: Leads, columns: Columns, weight: number, load: number | null, out: Prediction): void {
  if (weight === 0) return;
  const { solution, motions } = circuit.moments[moment];
  const adjoint = out.scratch.adjoint(solution.net.nodes.length);
  adjointOf(solution, leads.red, leads.black, adjoint);
  const port = leads.ports[moment];
  const scale = load === null ? weight : (weight * load) / (load + port.ohms);
  addLimitDrift(solution, adjoint, scale, out);
  // Where the line is weak the meter's own load drops more across it, so the line's resistance matters too.
  const drop = load === null || port.ohms < LOADED_SHARE * load ? 0 : port.openVolts / (load + port.ohms);
  addJacobian(solution, columns, leads, motions, scale, voltsBetweenLeads(adjoint, -drop), out);
}
