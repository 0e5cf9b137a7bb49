import {
  AMMETER_OHMS,
  acFactor,
  acVoltsSigma,
  ampsSigma,
  averageOf,
  beepProbability,
  CLICK_SHARE,
  coilOf,
  conductorAmps,
  DUTY_SIGMA_PERCENT,
  type ElectricalProbe,
  isFollowed,
  LIVE_VOLTS,
  lampProbabilities,
  lampShare,
  logOhms,
  logOhmsSigma,
  logOhmsSlope,
  METER_OHMS,
  OVERLOAD_OHMS,
  type Port,
  type Probe,
  SCAN_SIGMA_VOLTS,
  scaleOf,
  scopeSigma,
  shareOfFirst,
  shownAmps,
  shownVolts,
  showsEnds,
  substituteFor,
  swingOf,
  TRIGGER_VOLTS,
  voltsSigma,
} from "../instruments";
import { adjointOf, portSensitivity, type Solution, voltsBetween, voltsSensitivity } from "../network";
import { normalCdf } from "../numeric";
import { type Columns, METER_OHMS_GAIN_SIGMA, METER_VOLTS_GAIN_SIGMA } from "./columns";
import {
  addJacobian,
  addVolts,
  type Leads,
  leadsOf,
  type MovingCircuit,
  type MovingMoment,
  type Prediction,
  PredictionScratch,
  unsteadiness,
} from "./sensitivities";

/** The findings a look can show, "ok" first. */
export const LOOK_WORDS = ["ok", "corroded", "pin-out", "chafed", "wet", "not-turning", "gap", "plugged-port", "contaminated", "wrong-part"] as const;

/** The words a probe may show besides a number, in the order of {@link Prediction.words}. */
export function wordsOf(probe: Probe): readonly string[] {
  if (probe.kind === "look") return LOOK_WORDS;
  if (probe.kind === "gauge") return [];
  if (probe.kind === "listen") return ["click", "no-click"];
  switch (probe.meter) {
    case "ohms":
      return ["OL", "live"];
    case "continuity":
      return ["beep", "open"];
    case "lamp":
      return ["lit", "dim", "out"];
    case "hertz":
      return ["none"];
    case "duty":
      return ["OL"];
    case "scan":
      if (probe.unit === null || probe.reads === null) return [];
      return probe.reads.by === "counts" ? ["counts", "none"] : probe.reads.by === "hertz" ? ["none"] : [];
    case "volts-dc":
    case "volts-ac":
    case "amps-dc":
    case "capture":
      return [];
  }
}

/** An empty prediction to be filled by {@link predictProbe}. */
export function emptyPrediction(columns: Columns, probe: Probe, scratch = new PredictionScratch()): Prediction {
  return { mean: 0, jacobian: new Float64Array(columns.count), noise: 1, words: new Float64Array(wordsOf(probe).length), scratch };
}

/** Relative spread of an alternating amplitude from car to car: gap and magnet, or how hard somebody taps. */
const AMPLITUDE_SPREAD = { square: 0.04, sine: 0.2, ring: 0.28 } as const;
/** Softness of "does it see edges", in ln volts. */
const EDGE_SOFTNESS = { square: 0.1, sine: 0.25, ring: 0.4 } as const;

/** Beside its leak a floating line picks up some millivolts. */
const PICKED_UP_VOLTS = 0.01;

/**
 * Variance of what a meter shows on a line that nearly floats: how well a break insulates is anybody's guess, so a broken wire
 * reads anything from nothing to what leaks through.
 */
function floating(circuit: MovingCircuit, ports: readonly Port[]): number {
  const volts = averageOf(circuit, (moment) => shownVolts(ports[moment] as Port));
  const ohms = Math.max(...ports.map((port) => port.ohms));
  return ((ohms / (ohms + METER_OHMS)) ** 4 * (Math.abs(volts) + PICKED_UP_VOLTS)) ** 2;
}

/** Fills the average between the leads; a signal slow enough to be followed may be caught anywhere in its swing. */
function fillLevel(
  circuit: MovingCircuit,
  probe: ElectricalProbe,
  leads: Leads,
  columns: Columns,
  load: number | null,
  sigma: (volts: number) => number,
  out: Prediction,
): void {
  const volts = leads.ports.map((port) => (load === null ? port.openVolts : shownVolts(port)));
  const { statistic } = probe;
  const ends = circuit.swing;
  if (ends !== null && statistic !== "mean" && showsEnds(circuit, probe.meter)) {
    const [first, second] = ends;
    const firstIsHigh = (volts[first] as number) >= (volts[second] as number);
    const [high, low] = firstIsHigh ? [first, second] : [second, first];
    const weights = { min: [0, 1], max: [1, 0], swing: [1, -1] }[statistic] as [number, number];
    const rides = probe.coupling === "ac" && statistic !== "swing" ? 1 : 0;
    out.mean = weights[0] * (volts[high] as number) + weights[1] * (volts[low] as number) - rides * averageOf(circuit, (moment) => volts[moment] as number);
    const part = statistic === "swing" ? 1 : 0.7;
    const own = circuit.shape === "square" ? 0 : part * AMPLITUDE_SPREAD[circuit.shape] * ((volts[high] as number) - (volts[low] as number));
    out.noise = 2 * sigma(out.mean) ** 2 + 0.03 ** 2 + own ** 2;
    addVolts(circuit, high, leads, columns, weights[0], load, out);
    addVolts(circuit, low, leads, columns, weights[1], load, out);
    if (rides > 0)
      circuit.moments.forEach(({ share }, moment) => {
        addVolts(circuit, moment, leads, columns, -share, load, out);
      });
    return;
  }
  if (statistic === "swing") {
    out.mean = 0;
    out.noise = 0.02 ** 2;
    return;
  }
  if (probe.coupling === "ac") {
    out.mean = 0;
    out.noise = sigma(0) ** 2 + 0.002 ** 2;
    return;
  }
  out.mean = averageOf(circuit, (moment) => volts[moment] as number);
  out.noise = sigma(out.mean) ** 2;
  circuit.moments.forEach(({ share }, moment) => {
    addVolts(circuit, moment, leads, columns, share, load, out);
  });
  if (isFollowed(circuit)) out.noise += (0.55 * swingOf(circuit, (moment) => volts[moment] as number)) ** 2;
  else if (circuit.swing !== null) out.noise += (0.04 * swingOf(circuit, (moment) => volts[moment] as number)) ** 2;
}

/** Probability that edges of this swing are seen. */
function edgesSeen(circuit: MovingCircuit, leads: Leads, least: number): number {
  if (circuit.swing === null || circuit.hertz === 0) return 0;
  const swing = Math.abs(swingOf(circuit, (moment) => (leads.ports[moment] as Port).openVolts));
  return normalCdf(Math.log(Math.max(1e-9, swing) / least) / EDGE_SOFTNESS[circuit.shape]);
}

function fillRate(circuit: MovingCircuit, leads: Leads, columns: Columns, seen: number, sigma: number, out: Prediction): void {
  out.words[0] = 1 - seen;
  out.mean = Math.log(Math.max(0.05, circuit.hertz));
  out.noise = sigma ** 2 + circuit.hertzSpread ** 2;
  out.jacobian[leads.world] = circuit.hertzPerWorld;
  out.jacobian[columns.severity] = circuit.hertzPerSeverity;
  out.noise += unsteadiness(leads, out.jacobian);
}

/** Volts at which the module no longer believes a level, and reports its substitute: nothing at the pin moves it then. */
function substituteScan(probe: ElectricalProbe, prediction: Prediction): boolean {
  const { reads, unit } = probe;
  const held = unit === null || reads === null ? null : substituteFor(reads, prediction.mean);
  if (held === null) return false;
  prediction.mean = scaleOf(probe).toScale(held);
  prediction.jacobian.fill(0);
  return true;
}

/** Holds a scan value in engineering units inside what the module can show; then nothing moves it. */
function clampScan(probe: ElectricalProbe, prediction: Prediction): void {
  if (probe.unit === null || substituteScan(probe, prediction)) return;
  const { world } = probe.circuit.built;
  const { toScale } = scaleOf(probe);
  const ends = [toScale(world.low), toScale(world.high)] as const;
  const held = Math.min(Math.max(...ends), Math.max(Math.min(...ends), prediction.mean));
  if (held === prediction.mean) return;
  prediction.mean = held;
  prediction.jacobian.fill(0);
}

function fillScan(circuit: MovingCircuit, probe: ElectricalProbe, leads: Leads, columns: Columns, out: Prediction): void {
  const { reads, unit } = probe;
  const least = reads?.leastSwing ?? TRIGGER_VOLTS;
  if (unit !== null && reads?.by === "counts") {
    const seen = circuit.blind === null ? edgesSeen(circuit, leads, least) : 0;
    out.words[0] = 0.995 * seen + 0.0025;
    out.words[1] = 1 - (out.words[0] as number);
    return;
  }
  if (unit !== null && reads?.by === "hertz") {
    fillRate(circuit, leads, columns, circuit.blind === null ? edgesSeen(circuit, leads, least) : 0, 0.01, out);
    if (unit !== "Hz") clampScan(probe, out);
    return;
  }
  if (circuit.blind === null) fillLevel(circuit, probe, leads, columns, null, () => SCAN_SIGMA_VOLTS, out);
  else {
    out.mean = circuit.blind.volts;
    out.noise = SCAN_SIGMA_VOLTS ** 2;
    out.jacobian[columns.severity] = circuit.blind.perSeverity;
  }
  clampScan(probe, out);
  out.noise += unsteadiness(leads, out.jacobian);
}

function fillOhms(circuit: MovingCircuit, leads: Leads, columns: Columns, out: Prediction): void {
  const { solution, motions } = circuit.moments[0] as MovingMoment;
  const port = leads.ports[0] as Port;
  const live = normalCdf((Math.abs(shownVolts(port)) - LIVE_VOLTS) / 0.02);
  const overload = normalCdf(Math.log(port.ohms / OVERLOAD_OHMS) / 0.3);
  out.mean = logOhms(port.ohms);
  out.noise = logOhmsSigma(port.ohms) ** 2;
  const adjoint = out.scratch.adjoint(solution.net.nodes.length);
  adjointOf(solution, leads.red, leads.black, adjoint);
  const scale = logOhmsSlope(port.ohms) / port.ohms;
  addJacobian(solution, columns, leads, motions, scale, (element, field) => (field === "ohms" ? portSensitivity(solution, adjoint, element) : 0), out);
  out.noise += unsteadiness(leads, out.jacobian);
  out.jacobian[columns.ohmsGain] = METER_OHMS_GAIN_SIGMA;
  out.words[0] = (1 - live) * overload;
  out.words[1] = live;
}

function fillAmps(circuit: MovingCircuit, probe: ElectricalProbe, leads: Leads, columns: Columns, out: Prediction): void {
  const { clamp } = probe;
  const { net } = (circuit.moments[0] as MovingMoment).solution;
  const element = clamp === null ? -1 : (net.elementIndex.get(clamp) ?? -1);
  const amps = circuit.moments.map(({ solution }, moment) => (clamp === null ? shownAmps(leads.ports[moment] as Port) : conductorAmps(solution, clamp)));
  out.mean = averageOf(circuit, (moment) => amps[moment] as number);
  out.noise = ampsSigma(out.mean) ** 2;
  circuit.moments.forEach(({ share, solution, motions }, moment) => {
    if (share === 0) return;
    const adjoint = out.scratch.adjoint(solution.net.nodes.length);
    if (clamp === null) {
      const port = leads.ports[moment] as Port;
      const total = port.ohms + AMMETER_OHMS;
      adjointOf(solution, leads.red, leads.black, adjoint);
      const through = amps[moment] as number;
      addJacobian(
        solution,
        columns,
        leads,
        motions,
        share / total,
        (at, field) => voltsSensitivity(solution, adjoint, at, field) - (field === "ohms" ? through * portSensitivity(solution, adjoint, at) : 0),
        out,
      );
    } else {
      adjointOf(solution, net.a[element] ?? -1, net.b[element] ?? -1, adjoint);
      const ohms = solution.values.ohms[element] ?? 1;
      const across = voltsBetween(solution.volts, net.a[element] ?? -1, net.b[element] ?? -1);
      addJacobian(
        solution,
        columns,
        leads,
        motions,
        share / ohms,
        (at, field) => voltsSensitivity(solution, adjoint, at, field) - (at === element && field === "ohms" ? across : 0),
        out,
      );
    }
  });
  out.jacobian[columns.voltsGain] = out.mean * METER_VOLTS_GAIN_SIGMA;
}

function fillAc(circuit: MovingCircuit, probe: ElectricalProbe, leads: Leads, columns: Columns, out: Prediction): void {
  const factor = acFactor(circuit, probe.ac);
  const swing = swingOf(circuit, (moment) => shownVolts(leads.ports[moment] as Port));
  out.mean = factor * Math.abs(swing);
  out.noise = acVoltsSigma(out.mean) ** 2 + (AMPLITUDE_SPREAD[circuit.shape] * out.mean) ** 2 + (factor === 0 ? 0 : 0.002 ** 2);
  if (circuit.swing === null || factor === 0) return;
  const sign = swing < 0 ? -factor : factor;
  addVolts(circuit, circuit.swing[0], leads, columns, sign, METER_OHMS, out);
  addVolts(circuit, circuit.swing[1], leads, columns, -sign, METER_OHMS, out);
}

/**
 * Predicts what an electrical probe shows on a solved circuit.
 *
 * @param out overwritten; `mean` on the probe's scale, `noise` a variance in the same unit squared
 */
export function predictProbe(circuit: MovingCircuit, probe: ElectricalProbe, columns: Columns, out: Prediction): void {
  const leads = leadsOf(circuit, probe, columns);
  out.jacobian.fill(0);
  switch (probe.meter) {
    case "scan":
      fillScan(circuit, probe, leads, columns, out);
      return;
    case "volts-dc":
      fillLevel(circuit, probe, leads, columns, METER_OHMS, voltsSigma, out);
      out.noise += floating(circuit, leads.ports);
      out.noise += unsteadiness(leads, out.jacobian);
      out.jacobian[columns.voltsGain] = out.mean * METER_VOLTS_GAIN_SIGMA;
      return;
    case "capture":
      fillLevel(circuit, probe, leads, columns, METER_OHMS, (volts) => scopeSigma(volts, probe.coupling), out);
      out.jacobian[columns.voltsGain] = out.mean * METER_VOLTS_GAIN_SIGMA;
      return;
    case "volts-ac":
      fillAc(circuit, probe, leads, columns, out);
      return;
    case "amps-dc":
      fillAmps(circuit, probe, leads, columns, out);
      return;
    case "hertz":
      fillRate(circuit, leads, columns, circuit.shape === "ring" ? 0 : edgesSeen(circuit, leads, TRIGGER_VOLTS), 0.004, out);
      return;
    case "duty": {
      const rising = swingOf(circuit, (moment) => (leads.ports[moment] as Port).openVolts) > 0;
      const share = shareOfFirst(circuit);
      out.mean = 100 * (rising ? share : 1 - share);
      out.noise = (2 * DUTY_SIGMA_PERCENT) ** 2;
      out.words[0] = circuit.shape === "ring" ? 1 : 1 - edgesSeen(circuit, leads, TRIGGER_VOLTS);
      return;
    }
    case "ohms":
      fillOhms(circuit, leads, columns, out);
      return;
    case "continuity": {
      const port = leads.ports[0] as Port;
      const live = normalCdf((Math.abs(shownVolts(port)) - LIVE_VOLTS) / 0.02);
      const beep = (1 - live) * beepProbability(port.ohms);
      out.words[0] = beep;
      out.words[1] = 1 - beep;
      return;
    }
    case "lamp": {
      const [lit, dim, dark] = lampProbabilities(averageOf(circuit, (moment) => lampShare(leads.ports[moment] as Port)));
      out.words[0] = lit;
      out.words[1] = dim;
      out.words[2] = dark;
      return;
    }
  }
}

/** Probabilities of click and no click for what a coil carries in its strongest moment. */
export function predictClick(circuit: Pick<MovingCircuit, "moments">, probe: Probe, out: Prediction): void {
  const coil = coilOf(probe.circuit);
  if (coil === null) {
    out.words.fill(0.5);
    return;
  }
  const { net } = (circuit.moments[0] as MovingMoment).solution;
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
