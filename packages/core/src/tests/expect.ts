import type { Expect, Measurement } from "@fox-lamp/language";
import { applySetup, type CircuitModel, editsOf, type Model, statedWorld } from "../circuit";
import { ohmsFromLog, type Probe, probeOf, scanValue } from "../instruments";
import { solveNetwork } from "../network";
import { type Columns, columnsOf } from "./columns";
import { emptyPrediction, type Motion, type Prediction, predictionSigma, predictProbe, wordsOf } from "./predict";

/** A window holds this many standard deviations on each side (99 % of healthy circuits). */
const WINDOW_SIGMAS = 2.6;
/** Below these a window is not narrowed further: what a person can read and a lead can spoil. */
const LEAST_VOLTS = 0.02;

/** Slope of the sensor's numbers with the world around a value, per standard deviation. */
export function worldMotions(model: Model, circuit: CircuitModel, world: number, spread: number): Motion[] {
  const net = model.network;
  const step = 0.01 * Math.max(1, Math.abs(circuit.built.world.high - circuit.built.world.low)) * 0.1;
  const below = editsOf(net, net.values, circuit.id, circuit.built.sensor(world - step));
  const above = editsOf(net, net.values, circuit.id, circuit.built.sensor(world + step));
  return above.map((edit, index) => {
    const before = below[index]?.value ?? edit.value;
    const change = edit.field === "ohms" ? Math.log(edit.value / before) : edit.value - before;
    return { element: edit.element, field: edit.field, perWorld: (spread * change) / (2 * step), perSeverity: 0 };
  });
}

/** Predicts a probe on the healthy circuit at a world value known to `spread`. */
export function predictHealthy(model: Model, probe: Extract<Probe, { kind: "electrical" }>, columns: Columns, world: number, spread: number): Prediction {
  const { circuit } = probe;
  const prepared = applySetup(model, probe.setup, circuit.id, "setup", new Map([[circuit.id, world]]));
  const out = emptyPrediction(columns, probe);
  predictProbe(solveNetwork(prepared.net, prepared.values), probe, columns, worldMotions(model, circuit, world, spread), null, out);
  return out;
}

function unitOf(probe: Probe): string {
  if (probe.kind === "look") return "";
  if (probe.meter === "scan") return probe.unit ?? "V";
  return probe.meter === "volts-dc" ? "V" : probe.meter === "ohms" ? "ohm" : "";
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
  if (probe.kind === "look") return { low: null, high: null, unit: "", word: "ok" };
  return expectProbe(model, probe, columnsOf(model, probe.circuit));
}

/** {@link expectHealthy} for a probe whose leads are resolved. */
export function expectProbe(model: Model, probe: Extract<Probe, { kind: "electrical" }>, columns: Columns): Expect {
  const { world } = probe.circuit.built;
  const stated = statedWorld(world, probe.setup.truth);
  const cases = stated === null ? world.normal : [{ value: stated, spread: world.accuracy }];
  const unit = unitOf(probe);
  const names = wordsOf(probe);
  let low = Number.POSITIVE_INFINITY;
  let high = Number.NEGATIVE_INFINITY;
  let word: string | undefined;
  for (const { value, spread } of cases) {
    const prediction = predictHealthy(model, probe, columns, value, spread);
    const likeliest = prediction.words.indexOf(Math.max(0.5, ...prediction.words));
    if (likeliest >= 0) {
      word = names[likeliest];
      continue;
    }
    const margin = WINDOW_SIGMAS * predictionSigma(prediction);
    const ends = probe.meter === "ohms" ? [ohmsFromLog(prediction.mean - margin), ohmsFromLog(prediction.mean + margin)] : windowVolts(prediction.mean, margin);
    const shown = probe.meter === "scan" ? ends.map((end) => scanValue(probe, end)) : ends;
    low = Math.min(low, ...shown);
    high = Math.max(high, ...shown);
  }
  if (low <= high) return { low: round(low), high: round(high), unit };
  if (word === "OL") return { low: null, high: null, unit, word };
  return { low: null, high: null, unit, ...(word === undefined ? {} : { word }) };
}

function windowVolts(mean: number, margin: number): number[] {
  const wide = Math.max(margin, LEAST_VOLTS);
  return [mean - wide, mean + wide];
}

function round(value: number): number {
  return Number(value.toPrecision(5));
}
