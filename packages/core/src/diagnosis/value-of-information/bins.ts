import { AC_OFFSET_VOLTS, scaleOf } from "../../instruments";
import type { PredictionTable } from "../predictions/table";

// Taken out of Math once: these run millions of times.
const { asinh, ceil, floor, log, max, min, sinh } = Math;

/** Volts are binned on a scale that is fine near zero and proportional above (asinh of volts over 20 mV). */
const VOLTS_KNEE = 0.02;
const VOLTS_STEP = 0.07;
const OHMS_STEP = 0.16;
const OHMS_FIRST = log(0.2);
const OHMS_BINS = ceil((log(1e10) - OHMS_FIRST) / OHMS_STEP);

/** How the axis of a numeric probe is cut into bins. */
export interface BinAxis {
  readonly bins: number;
  readonly binOf: (value: number) => number;
  readonly edge: (bin: number) => number;
  /** Where the bins begin, and where the last one ends. */
  readonly edges: Float64Array;
}

function withEdges(axis: Omit<BinAxis, "edges">): BinAxis {
  return { ...axis, edges: Float64Array.from({ length: axis.bins + 1 }, (_, bin) => axis.edge(bin)) };
}

/** An axis over every voltage of a car, in steps of `knee` times {@link VOLTS_STEP} near zero. */
function voltsAxis(knee: number): BinAxis {
  const first = asinh(-16 / knee);
  const bins = ceil((asinh(17 / knee) - first) / VOLTS_STEP);
  return withEdges({
    bins,
    binOf: (volts) => min(bins - 1, max(0, floor((asinh(volts / knee) - first) / VOLTS_STEP))),
    edge: (bin) => knee * sinh(first + bin * VOLTS_STEP),
  });
}

const VOLTS_AXIS = voltsAxis(VOLTS_KNEE);
/** On a small range the knee is the same share of full scale as it is of a reference of 5 V. */
const KNEE_SHARE = VOLTS_KNEE / 5;
const OHMS_AXIS = withEdges({
  bins: OHMS_BINS,
  binOf: (logOhms) => min(OHMS_BINS - 1, max(0, floor((logOhms - OHMS_FIRST) / OHMS_STEP))),
  edge: (bin) => OHMS_FIRST + bin * OHMS_STEP,
});
const NO_AXIS = withEdges({ bins: 0, binOf: () => 0, edge: () => 0 });
/** Amperes on the scale of volts, a tenth as coarse near zero. */
const AMPS_AXIS = withEdges({ bins: VOLTS_AXIS.bins, binOf: (amps) => VOLTS_AXIS.binOf(amps * 2), edge: (bin) => VOLTS_AXIS.edge(bin) / 2 });
/** A straight axis in equal steps. */
function straightAxis(low: number, high: number, step: number): BinAxis {
  const bins = ceil((high - low) / step);
  return withEdges({ bins, binOf: (value) => min(bins - 1, max(0, floor((value - low) / step))), edge: (bin) => low + bin * step });
}
/** Alternating volts, in steps finer than they repeat from blow to blow. */
const AC_AXIS = straightAxis(log(AC_OFFSET_VOLTS), log(100), 0.12);
const HERTZ_AXIS = straightAxis(log(0.05), log(3e4), 0.035);
/** The range of a circuit's own quantity is cut into so many steps. */
const WORLD_STEPS = 40;
const PERCENT_AXIS = straightAxis(0, 100, 2);

/** The axis of a table's scale; one without bins for words. */
export function binAxisOf(table: PredictionTable): BinAxis {
  if (!table.numeric) return NO_AXIS;
  const { axis, smallVolts } = scaleOf(table.probe);
  switch (axis) {
    case "volts":
      return smallVolts === undefined ? VOLTS_AXIS : voltsAxis(KNEE_SHARE * smallVolts);
    case "log-volts":
      return AC_AXIS;
    case "log-ohms":
      return OHMS_AXIS;
    case "amps":
      return AMPS_AXIS;
    case "log-hertz":
      return HERTZ_AXIS;
    case "percent":
      return PERCENT_AXIS;
    case "world": {
      const { low, high } = table.probe.circuit.built.world;
      return straightAxis(low, high, (high - low) / WORLD_STEPS);
    }
    case "none":
      return NO_AXIS;
  }
}
