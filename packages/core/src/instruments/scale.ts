import type { ModuleReading } from "../circuit";
import { logOhms, ohmsFromLog } from "./meters";
import type { ElectricalProbe, Probe } from "./probe";

/** The scale a probe's numbers are weighed on, and how they are shown. */
export interface Scale {
  /** Unit a person reads. */
  readonly unit: string;
  readonly axis: "volts" | "log-ohms" | "amps" | "log-hertz" | "percent" | "world" | "none";
  readonly toScale: (shown: number) => number;
  readonly fromScale: (value: number) => number;
  /** Density of a slipped reading, per unit of the scale: it may be anything the meter can show. */
  readonly broad: number;
}

const same = (value: number): number => value;
const logHertz = (hertz: number): number => Math.log(Math.max(0.05, hertz));

const VOLTS: Scale = { unit: "V", axis: "volts", toScale: same, fromScale: same, broad: 1 / 16 };
const SCAN_VOLTS: Scale = { ...VOLTS, broad: 1 / 5.5 };
const OHMS: Scale = { unit: "ohm", axis: "log-ohms", toScale: logOhms, fromScale: ohmsFromLog, broad: 1 / 20 };
const AMPS: Scale = { unit: "A", axis: "amps", toScale: same, fromScale: same, broad: 1 / 5 };
const HERTZ: Scale = { unit: "Hz", axis: "log-hertz", toScale: logHertz, fromScale: Math.exp, broad: 1 / 9 };
const PERCENT: Scale = { unit: "%", axis: "percent", toScale: same, fromScale: same, broad: 1 / 100 };
const WORDS: Scale = { unit: "", axis: "none", toScale: same, fromScale: same, broad: 1 };

/** What the module reports instead of a level it does not believe; null where it believes it. */
export function substituteFor({ substitute }: ModuleReading, volts: number): number | null {
  if (substitute === undefined) return null;
  return volts < substitute.belowVolts || volts > substitute.aboveVolts ? substitute.value : null;
}

/** The value a module reports for volts or hertz at its pin, held inside its range. */
export function engineeringValue(probe: ElectricalProbe, value: number): number {
  const { reads, circuit } = probe;
  const { world } = circuit.built;
  if (reads === null) return value;
  const held = substituteFor(reads, value);
  if (held !== null) return held;
  const shown = reads.toWorld(value);
  if (shown !== null && Number.isFinite(shown)) return Math.min(world.high, Math.max(world.low, shown));
  const rising = reads.toValue(world.high) > reads.toValue(world.low);
  return value > 0 === rising ? world.high : world.low;
}

function scanScale(probe: ElectricalProbe): Scale {
  const { reads, unit } = probe;
  if (unit === null || reads === null) return SCAN_VOLTS;
  switch (reads.by) {
    case "volts":
      return { unit, axis: "volts", toScale: reads.toValue, fromScale: (volts) => engineeringValue(probe, volts), broad: SCAN_VOLTS.broad };
    case "hertz":
      if (unit === "Hz") return HERTZ;
      return { ...HERTZ, unit, toScale: (value) => logHertz(reads.toValue(value)), fromScale: (value) => engineeringValue(probe, Math.exp(value)) };
    case "counts":
      return { ...WORDS, unit };
  }
}

/** The scale of a probe. */
export function scaleOf(probe: Probe): Scale {
  if (probe.kind === "gauge") {
    const { unit, low, high } = probe.circuit.built.world;
    return { unit, axis: "world", toScale: same, fromScale: same, broad: 1 / (high - low) };
  }
  if (probe.kind !== "electrical") return WORDS;
  switch (probe.meter) {
    case "volts-dc":
    case "volts-ac":
    case "capture":
      return VOLTS;
    case "ohms":
      return OHMS;
    case "amps-dc":
      return AMPS;
    case "hertz":
      return HERTZ;
    case "duty":
      return PERCENT;
    case "scan":
      return scanScale(probe);
    case "continuity":
    case "lamp":
      return WORDS;
  }
}
