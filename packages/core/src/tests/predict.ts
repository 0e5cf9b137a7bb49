import {
  beepProbability,
  LIVE_VOLTS,
  lampProbabilities,
  lampShare,
  logOhms,
  logOhmsSigma,
  logOhmsSlope,
  METER_OHMS,
  OVERLOAD_OHMS,
  type Probe,
  portOf,
  SCAN_SIGMA_VOLTS,
  shownVolts,
  voltsSigma,
} from "../instruments";
import { adjointOf, type EditField, portSensitivity, type Solution, voltsBetween, voltsSensitivity } from "../network";
import { normalCdf } from "../numeric";
import { type Columns, METER_OHMS_GAIN_SIGMA, METER_VOLTS_GAIN_SIGMA } from "./columns";

type ElectricalProbe = Extract<Probe, { kind: "electrical" }>;

/** How an assignment moves with the world and with the severity, per standard deviation (ln ohms, volts, gain). */
export interface Motion {
  readonly element: number;
  readonly field: EditField;
  readonly perWorld: number;
  readonly perSeverity: number;
}

/**
 * What a probe shows at one working point, linearised. A number (volts, or log ohms) with its sensitivities to the shared
 * variables and its instrument noise, and the probabilities that a word is shown instead.
 */
export interface Prediction {
  mean: number;
  readonly jacobian: Float64Array;
  noise: number;
  readonly words: Float64Array;
}

/** The words a probe may show besides a number, in the order of {@link Prediction.words}. */
export function wordsOf(probe: Probe): readonly string[] {
  if (probe.kind === "look") return ["ok", "corroded", "pin-out", "chafed", "wet"];
  switch (probe.meter) {
    case "ohms":
      return ["OL", "live"];
    case "continuity":
      return ["beep", "open"];
    case "lamp":
      return ["lit", "dim", "out"];
    case "volts-dc":
    case "scan":
      return [];
  }
}

/** An empty prediction to be filled by {@link predictProbe}. */
export function emptyPrediction(columns: Columns, probe: Probe): Prediction {
  return { mean: 0, jacobian: new Float64Array(columns.count), noise: 1, words: new Float64Array(wordsOf(probe).length) };
}

const adjoints = new Map<number, Float64Array>();
function adjointRoom(n: number): Float64Array {
  let room = adjoints.get(n);
  if (!room) {
    room = new Float64Array(n);
    adjoints.set(n, room);
  }
  return room;
}

/** Fills the sensitivities of the voltage (or of log ohms) between two rows. */
function fillJacobian(
  solution: Solution,
  columns: Columns,
  motions: readonly Motion[],
  adjoint: Float64Array,
  ohms: number | null,
  scale: number,
  out: Float64Array,
): void {
  const sensitivity = (element: number, field: EditField): number => {
    if (ohms === null) return scale * voltsSensitivity(solution, adjoint, element, field);
    return field === "ohms" ? (scale * portSensitivity(solution, adjoint, element)) / ohms : 0;
  };
  columns.tolerances.forEach((targets, column) => {
    let sum = 0;
    for (const target of targets) sum += target.sigma * sensitivity(target.element, target.field);
    out[column] = sum;
  });
  let world = 0;
  let severity = 0;
  for (const motion of motions) {
    const slope = sensitivity(motion.element, motion.field);
    world += slope * motion.perWorld;
    severity += slope * motion.perSeverity;
  }
  out[columns.world] = world;
  out[columns.severity] = severity;
}

/** A stated value is not held exactly from one reading to the next: this share of its variance is drawn anew each time. */
const UNSTEADY_SHARE = 0.35;

function unsteadiness(columns: Columns, jacobian: Float64Array): number {
  return UNSTEADY_SHARE * (jacobian[columns.world] as number) ** 2;
}

/** Holds a scan value in engineering units inside what the module can show; true when it was clamped. */
function clampScan(probe: ElectricalProbe, prediction: Prediction): boolean {
  if (probe.unit === null) return false;
  const { toVolts, world } = probe.circuit.built;
  const ends = [toVolts(world.low), toVolts(world.high)] as const;
  const held = Math.min(Math.max(...ends), Math.max(Math.min(...ends), prediction.mean));
  const clamped = held !== prediction.mean;
  prediction.mean = held;
  return clamped;
}

/**
 * Predicts what an electrical probe shows on a solved network.
 *
 * @param scan what the module reports instead of its pin with its slope per severity; null when it reads the pin
 * @param out overwritten; `mean` in volts or log ohms, `noise` a variance in the same unit squared
 */
export function predictProbe(
  solution: Solution,
  probe: ElectricalProbe,
  columns: Columns,
  motions: readonly Motion[],
  scan: { volts: number; perSeverity: number } | null,
  out: Prediction,
): void {
  const { nodeIndex } = solution.net;
  const red = nodeIndex.get(probe.red) ?? -1;
  const black = nodeIndex.get(probe.black) ?? -1;
  const adjoint = adjointRoom(solution.net.nodes.length);
  out.jacobian.fill(0);
  if (probe.meter === "scan") {
    out.noise = SCAN_SIGMA_VOLTS ** 2;
    if (scan !== null) {
      out.mean = scan.volts;
      out.jacobian[columns.severity] = scan.perSeverity;
    } else {
      out.mean = voltsBetween(solution.volts, red, black);
      adjointOf(solution, red, black, adjoint);
      fillJacobian(solution, columns, motions, adjoint, null, 1, out.jacobian);
    }
    if (clampScan(probe, out)) out.jacobian.fill(0);
    out.noise += unsteadiness(columns, out.jacobian);
    return;
  }
  const port = portOf(solution, red, black);
  switch (probe.meter) {
    case "volts-dc": {
      out.mean = shownVolts(port);
      out.noise = voltsSigma(out.mean) ** 2;
      adjointOf(solution, red, black, adjoint);
      fillJacobian(solution, columns, motions, adjoint, null, METER_OHMS / (METER_OHMS + port.ohms), out.jacobian);
      out.noise += unsteadiness(columns, out.jacobian);
      out.jacobian[columns.voltsGain] = out.mean * METER_VOLTS_GAIN_SIGMA;
      return;
    }
    case "ohms": {
      const live = normalCdf((Math.abs(shownVolts(port)) - LIVE_VOLTS) / 0.02);
      const overload = normalCdf(Math.log(port.ohms / OVERLOAD_OHMS) / 0.3);
      out.mean = logOhms(port.ohms);
      out.noise = logOhmsSigma(port.ohms) ** 2;
      adjointOf(solution, red, black, adjoint);
      fillJacobian(solution, columns, motions, adjoint, port.ohms, logOhmsSlope(port.ohms), out.jacobian);
      out.noise += unsteadiness(columns, out.jacobian);
      out.jacobian[columns.ohmsGain] = METER_OHMS_GAIN_SIGMA;
      out.words[0] = (1 - live) * overload;
      out.words[1] = live;
      return;
    }
    case "continuity": {
      const live = normalCdf((Math.abs(shownVolts(port)) - LIVE_VOLTS) / 0.02);
      const beep = (1 - live) * beepProbability(port.ohms);
      out.words[0] = beep;
      out.words[1] = 1 - beep;
      return;
    }
    case "lamp": {
      const [lit, dim, dark] = lampProbabilities(lampShare(port));
      out.words[0] = lit;
      out.words[1] = dim;
      out.words[2] = dark;
      return;
    }
  }
}

/** Standard deviation of what a person would read: tolerances and instrument together. */
export function predictionSigma(prediction: Prediction): number {
  let variance = prediction.noise;
  for (const slope of prediction.jacobian) variance += slope * slope;
  return Math.sqrt(variance);
}
