import { engineOf, type ModuleReading } from "../../circuit";
import type { Columns } from "../columns";
import type { ElectricalProbe, Probe } from "../probe";
import { HERTZ, logHertz, type Scale, smallRange, VOLTS, voltsScale, WORDS } from "../scale";
import { addSlope, forgetUnsaid, type Leads, type MovingCircuit, type Prediction, unsteadiness } from "../sensitivities";
import { PROVES } from "../wording";
import { countsShare, edgesSeen, leastSwingOf, predictRate, seesEdges } from "./edges";
import { levelOf, predictLevel } from "./level";
import type { ConverterEnds, ElectricalRecord } from "./record";

/** One standard deviation of a value the module reports: its converter's steps and its filter, volts. */
const SCAN_SIGMA_VOLTS = 0.015;
const SMALL_SCAN_SHARE = 0.003;
/** So far beyond its ends a level is still taken as it is, volts: supplies differ by as much. */
const CONVERTER_MARGIN = 0.15;
/** A level that is predicted so many standard deviations beyond an end is at that end. */
const SURELY_SIGMAS = 2.5;
/** A value this near to an end of the converter's range, volts, is that end: what lies beyond shows the same. */
const AT_END_VOLTS = 0.02;
/** Supply of the module's converter. */
const CONVERTER_VOLTS = 5;

/** One standard deviation of the module's converter, volts; a share of the range of an input made for a small signal. */
function scanSigma({ fullScale }: ElectricalProbe): number {
  const small = smallRange(fullScale);
  return small === null ? SCAN_SIGMA_VOLTS : SMALL_SCAN_SHARE * small;
}

/** A slipped scan value lies somewhere in the converter's range. */
const SCAN_VOLTS: Scale = { ...VOLTS, broad: 1 / 5.5 };

/** What the module reports instead of a level it does not believe; null where it believes it. */
function substituteFor({ substitute }: ModuleReading, volts: number): number | null {
  if (substitute === undefined) return null;
  return volts < substitute.belowVolts || volts > substitute.aboveVolts ? substitute.value : null;
}

/** The value a module reports for volts or hertz at its pin, held inside its range. */
function engineeringValue(probe: ElectricalProbe, value: number): number {
  const { reads, circuit } = probe;
  const { world } = circuit.built;
  if (reads === null) return value;
  const held = substituteFor(reads, value);
  if (held !== null) return held;
  if (reads.shows !== undefined) return reads.shows.toShown(value);
  const shown = reads.toWorld(value);
  if (shown !== null && Number.isFinite(shown)) return Math.min(world.high, Math.max(world.low, shown));
  const rising = reads.toValue(world.high) > reads.toValue(world.low);
  return value > 0 === rising ? world.high : world.low;
}

function scaleOfScan(probe: ElectricalProbe): Scale {
  const { reads, unit } = probe;
  const volts = voltsScale(SCAN_VOLTS, probe.fullScale);
  if (unit === null || reads === null) return volts;
  switch (reads.by) {
    case "volts":
      return { ...volts, unit, toScale: reads.shows?.toVolts ?? reads.toValue, fromScale: (level) => engineeringValue(probe, level) };
    case "hertz":
      if (unit === "Hz") return HERTZ;
      return { ...HERTZ, unit, toScale: (value) => logHertz(reads.toValue(value)), fromScale: (value) => engineeringValue(probe, Math.exp(value)) };
    case "counts":
      return { ...WORDS, unit };
  }
}

/** The most a converter shows, volts: its own supply, or what its input is made for where that is more. */
function fullScaleOf({ circuit, reads }: ElectricalProbe): number {
  return reads?.by === "volts" ? Math.max(CONVERTER_VOLTS, circuit.built.fullScaleVolts) : Number.POSITIVE_INFINITY;
}

/** What a converter can show at all, lowest and highest, volts; null for anything but a module's volts. */
function converterRange(probe: Probe): readonly [number, number] | null {
  return probe.kind === "electrical" && probe.meter === "scan" && probe.unit === null && probe.reads?.by === "volts" ? [0, fullScaleOf(probe)] : null;
}

/** A level as a probe would show it: a module's volts end where its converter does. */
export function asConverted(probe: Probe, level: number): number {
  const [low, high] = converterRange(probe) ?? [level, level];
  return Math.min(high, Math.max(low, level));
}

/** The ends of the converter a probe reads through: at or beyond them all levels show alike. Null for anything but a module's volts. */
export function converterEnds(probe: ElectricalProbe): ConverterEnds | null {
  if (converterRange(probe) === null) return null;
  return { low: AT_END_VOLTS, high: fullScaleOf(probe) - AT_END_VOLTS, sigma: scanSigma(probe) };
}

/** Whether a value in volts is an end of the converter's range: the level at the pin may lie anywhere beyond it. What no converter shows is none. */
export function isAtEnd(probe: ElectricalProbe, volts: number): boolean {
  const ends = converterEnds(probe);
  return ends !== null && (volts <= ends.low || volts >= ends.high) && volts > -CONVERTER_MARGIN && volts < fullScaleOf(probe) + CONVERTER_MARGIN;
}

/** Whether a prediction lies beyond the end it would be held at for sure; one that may as well lie inside is left as it is. */
function surelyBeyond({ mean, noise, jacobian }: Prediction, end: number): boolean {
  const variance = jacobian.reduce((sum, slope) => sum + slope * slope, noise);
  return (mean - end) ** 2 > SURELY_SIGMAS ** 2 * variance;
}

/** A level beyond the converter's range shows as its end; then nothing moves it. Where an end was read the level itself is predicted. */
function holdInConverter(probe: ElectricalProbe, prediction: Prediction): void {
  const { mean } = prediction;
  if (probe.reads?.by !== "volts" || probe.atEnd === true) return;
  if (mean > -CONVERTER_MARGIN && mean < fullScaleOf(probe) + CONVERTER_MARGIN) return;
  const end = Math.min(fullScaleOf(probe), Math.max(0, mean));
  if (!surelyBeyond(prediction, end)) return;
  prediction.mean = end;
  prediction.jacobian.fill(0);
}

/** Volts at which the module no longer believes a level, and reports its substitute: nothing at the pin moves it then. */
function substituted(probe: ElectricalProbe, prediction: Prediction): boolean {
  const { reads, unit } = probe;
  const held = unit === null || reads === null ? null : substituteFor(reads, prediction.mean);
  if (held === null) return false;
  prediction.mean = scaleOfScan(probe).toScale(held);
  prediction.jacobian.fill(0);
  return true;
}

/** Holds a scan value in engineering units inside what the module can show; then nothing moves it. */
function clampToRange(probe: ElectricalProbe, prediction: Prediction): void {
  if (probe.unit === null || substituted(probe, prediction)) return;
  const { world } = probe.circuit.built;
  const { toScale } = scaleOfScan(probe);
  const ends = [toScale(world.low), toScale(world.high)] as const;
  const held = Math.min(Math.max(...ends), Math.max(Math.min(...ends), prediction.mean));
  if (held === prediction.mean || !surelyBeyond(prediction, held)) return;
  prediction.mean = held;
  prediction.jacobian.fill(0);
}

function predictScan(circuit: MovingCircuit, probe: ElectricalProbe, leads: Leads, columns: Columns, out: Prediction): void {
  const { reads, unit } = probe;
  const least = leastSwingOf(probe);
  if (unit !== null && reads?.by === "counts") {
    out.words[0] = countsShare(circuit.blind === null ? edgesSeen(circuit, leads, least) : 0);
    out.words[1] = 1 - out.words[0];
    return;
  }
  if (unit !== null && reads?.by === "hertz") {
    predictRate(circuit, leads, columns, circuit.blind === null ? edgesSeen(circuit, leads, least) : 0, 0.01, out);
    if (unit === "Hz") return;
    forgetUnsaid(out, columns);
    addSlope(out, leads.rate, -(circuit.unsure?.hertz ?? 0));
    clampToRange(probe, out);
    return;
  }
  if (circuit.blind === null) predictLevel(circuit, probe, leads, columns, null, () => scanSigma(probe), out);
  else {
    out.mean = circuit.blind.volts;
    out.noise = scanSigma(probe) ** 2;
    out.jacobian[columns.severity] = circuit.blind.perSeverity;
  }
  if (unit === null) holdInConverter(probe, out);
  else {
    if (reads?.shows === undefined) forgetUnsaid(out, columns);
    clampToRange(probe, out);
  }
  out.noise += unsteadiness(circuit, leads, out.jacobian);
}

/** What the module reports of a pin: volts, the sensed quantity, a rate, or whether something turns. */
export const scan: ElectricalRecord = {
  choosing: { word: "module's own value", needs: ["scan"], minutes: 0.5, technique: "T1", proves: PROVES.scan },
  scale: scaleOfScan,
  words: ({ unit, reads }) => {
    if (unit === null || reads === null) return [];
    return reads.by === "counts" ? ["counts", "none"] : reads.by === "hertz" ? ["none"] : [];
  },
  show: (seen, probe, noise) => {
    const { reads, unit } = probe;
    if (unit !== null && reads?.by === "counts") {
      if (!seesEdges(seen, probe)) return 0;
      const { turning, rpm } = engineOf(probe.setup);
      // Pulses made by hand on a standing engine show as some speed or other.
      return unit === "rpm" ? Math.round((turning ? rpm : 60 * seen.hertz) * (1 + 0.03 * (noise?.normal() ?? 0))) : 1;
    }
    if (unit !== null && reads?.by === "hertz") {
      const hertz = seesEdges(seen, probe) ? seen.hertz * (1 + 0.01 * (noise?.normal() ?? 0)) : 0;
      return unit === "Hz" ? hertz : engineeringValue(probe, hertz);
    }
    const volts = levelOf(seen, probe, (port) => port.openVolts, noise);
    const shown = (seen.scanVolts ?? volts) + 0.8 * scanSigma(probe) * (noise?.normal() ?? 0);
    const held = probe.reads?.by === "volts" ? Math.min(fullScaleOf(probe), Math.max(0, shown)) : shown;
    return scaleOfScan(probe).fromScale(held);
  },
  predict: predictScan,
  deck: () => ({ elements: [], lines: ["* scan: what the module's converter sees"] }),
};
