import { findingsAt } from "@fox-lamp/language";
import type { Solution } from "../network";
import { normalCdf } from "../numeric";
import type { Columns } from "./columns";
import { coilOf, type ElectricalProbe, type Probe } from "./probe";
import { electricalRecord } from "./records";
import { isAlternating } from "./records/capture";
import { leastSwingOf, predictSwing } from "./records/edges";
import { quantityScale, type Scale, WORDS } from "./scale";
import { addSlope, leadsOf, type MovingCircuit, type Prediction, PredictionScratch, settleNoise, shareWithEngine } from "./sensitivities";
import { CLICK_SHARE } from "./simulate";
import { conductorAmps } from "./waveform-view";

/** The words a probe may show besides a number, in the order of {@link Prediction.words}. */
export function wordsOf(probe: Probe): readonly string[] {
  switch (probe.kind) {
    case "look":
      return findingsAt(probe.place);
    case "gauge":
      return [];
    case "listen":
      return ["click", "no-click"];
    case "electrical":
      return electricalRecord(probe.meter).words(probe);
  }
}

/** The scale of a probe. */
export function scaleOf(probe: Probe): Scale {
  switch (probe.kind) {
    case "gauge":
      return quantityScale(probe.circuit.built.world);
    case "look":
    case "listen":
      return WORDS;
    case "electrical":
      return electricalRecord(probe.meter).scale(probe);
  }
}

/** An empty prediction to be filled by {@link predictProbe}. @param scratch shared by predictions that are made one after the other */
export function emptyPrediction(columns: Columns, probe: Probe, scratch = new PredictionScratch()): Prediction {
  return { mean: 0, jacobian: new Float64Array(columns.count), noise: 1, bent: 0, lasting: 0, words: new Float64Array(wordsOf(probe).length), scratch };
}

/**
 * Predicts what an electrical probe shows on a solved circuit.
 *
 * @param out overwritten; `mean` on the probe's scale, `noise` a variance in the same unit squared
 */
export function predictProbe(circuit: MovingCircuit, probe: ElectricalProbe, columns: Columns, out: Prediction): void {
  out.jacobian.fill(0);
  out.bent = 0;
  out.lasting = 0;
  const leads = leadsOf(circuit, probe, columns);
  electricalRecord(probe.meter).predict(circuit, probe, leads, columns, out);
  settleNoise(out);
  // A module knows its own line: its values do not depend on what the sheet says of it.
  const known = probe.unit !== null && probe.reads?.shows === undefined;
  if (circuit.stretch !== 0 && !known) addSlope(out, leads.form, circuit.stretch * (out.jacobian[leads.world] ?? 0));
  if (circuit.shift !== 0 && !known) addSlope(out, leads.rate, circuit.shift * (out.jacobian[leads.world] ?? 0));
  shareWithEngine(out, columns, probe.circuit.id, circuit.source);
  if (probe.statistic === "mean" && probe.meter !== "volts-ac" && scaleOf(probe).axis === "volts") keepWithinRails(out);
}

/**
 * Where a part is about to starve or to switch, a straight line leaves both rails behind. Nothing in a car does: a level of which nothing is known but
 * that it lies between ground and battery has this standard deviation, volts (12 V / sqrt 12).
 */
const MOST_SPREAD_VOLTS = 3.5;

/** Keeps what is drawn in a straight line within the rails. */
function keepWithinRails(out: Prediction): void {
  const sigma = predictionSigma(out);
  if (sigma <= MOST_SPREAD_VOLTS) return;
  const share = MOST_SPREAD_VOLTS / sigma;
  for (const [column, slope] of out.jacobian.entries()) out.jacobian[column] = share * slope;
  out.noise *= share ** 2;
  out.bent *= share ** 2;
  out.lasting *= share ** 2;
}

/** Whether a probe asks if the module counts a signal whose size differs from part to part: what is read elsewhere of its size then says what it counts. */
export function hangsOnSwing(probe: Probe): boolean {
  return probe.kind === "electrical" && probe.meter === "scan" && probe.unit !== null && probe.reads?.by === "counts" && isAlternating(probe.circuit);
}

/** Predicts by how much the signal is larger than the module wants: see {@link predictSwing}. @param out overwritten */
export function predictCounted(circuit: MovingCircuit, probe: ElectricalProbe, columns: Columns, out: Prediction): void {
  out.jacobian.fill(0);
  out.bent = 0;
  out.lasting = 0;
  predictSwing(circuit, leadsOf(circuit, probe, columns), columns, leastSwingOf(probe), out);
  settleNoise(out);
}

/** Probabilities of click and no click for what a coil carries in its strongest moment. */
export function predictClick(circuit: Pick<MovingCircuit, "moments">, probe: Probe, out: Prediction): void {
  const coil = coilOf(probe.circuit);
  if (coil === null) {
    out.words.fill(0.5);
    return;
  }
  const { net } = circuit.moments[0].solution;
  const usual = probe.circuit.built.fullScaleVolts / (net.values.ohms[net.elementIndex.get(coil) ?? -1] ?? 1);
  const share = Math.max(...circuit.moments.map(({ solution }: { solution: Solution }) => Math.abs(conductorAmps(solution, coil)))) / usual;
  const click = 0.96 * normalCdf((share - CLICK_SHARE) / 0.07) + 0.02;
  out.words[0] = click;
  out.words[1] = 1 - click;
}

/** Standard deviation of what a person would read: tolerances and instrument together. */
export function predictionSigma(prediction: Prediction): number {
  let variance = prediction.noise;
  for (const slope of prediction.jacobian) variance += slope * slope;
  return Math.sqrt(variance);
}
