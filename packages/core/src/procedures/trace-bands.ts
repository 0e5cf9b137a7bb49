import { BadInput, type Setup } from "@fox-lamp/language";
import { type Model, movesSensed } from "../circuit";
import { columnsOf, type ElectricalProbe, predictionSigma, probeOf, type Statistic, scaleOf } from "../instruments";
import { expectOf, predictHealthy } from "./expect";

/** Volts or amperes between which a sound channel stays, or between which one of its two levels lies. */
export interface TraceBand {
  readonly low: number;
  readonly high: number;
}

/** Where a channel's leads are, as a capture knows them; a clamp has no black one. */
export interface BandLeads {
  readonly circuit: string | null;
  readonly red: string | null;
  readonly black: string | null;
}

/** A window holds this many standard deviations to each side, as that of a reading does. */
const SIGMAS = 2.6;
/** Stimuli under which the sensed quantity goes from end to end. */
const WANDERS: readonly string[] = ["sweep", "snap"];

function windowFor(model: Model, probe: ElectricalProbe, statistic: Statistic): TraceBand | null {
  const columns = columnsOf(model);
  const asked = { ...probe, statistic };
  const { world } = probe.circuit.built;
  if (movesSensed(world, probe.setup) && WANDERS.includes(probe.setup.stimulus?.kind ?? "")) {
    const scale = scaleOf(asked);
    const ends = [world.low, 0.5 * (world.low + world.high), world.high].flatMap((value) => {
      const prediction = predictHealthy(model, asked, columns, value, 0);
      const wide = SIGMAS * predictionSigma(prediction);
      return [scale.fromScale(prediction.mean - wide), scale.fromScale(prediction.mean + wide)];
    });
    return { low: Math.min(...ends), high: Math.max(...ends) };
  }
  const { low, high } = expectOf(model, asked, columns);
  return low === null || high === null ? null : { low, high };
}

function bandsOf(model: Model, probe: ElectricalProbe): TraceBand[] {
  const { family } = probe.circuit;
  const level = windowFor(model, probe, "mean");
  // An ammeter averages: of a winding that is switched, its window says nothing about the current's top.
  if (probe.clamp !== null) return level === null || family.traits.kind === "valve" ? [] : [level];
  if (family.traits.alternating === true) {
    // An alternating voltage: half its size to each side of what it rides on.
    const size = windowFor(model, probe, "swing");
    if (size === null || level === null) return level === null ? [] : [level];
    const rest = 0.5 * (level.low + level.high);
    return [
      { low: rest - 0.5 * size.high, high: rest - 0.5 * size.low },
      { low: rest + 0.5 * size.low, high: rest + 0.5 * size.high },
    ];
  }
  const [least, most] = [windowFor(model, probe, "min"), windowFor(model, probe, "max")];
  if (least === null || most === null) return level === null ? [] : [level];
  return most.low > least.high ? [least, most] : [{ low: Math.min(least.low, most.low), high: Math.max(least.high, most.high) }];
}

/**
 * Where each channel of a capture stays on a sound car: one band for what stands or wanders, two for what goes between two levels. None for a
 * channel that is no measurement of the circuits, or whose leads the circuits do not have.
 */
export function traceBands(model: Model, channels: readonly BandLeads[], setup: Setup): TraceBand[][] {
  return channels.map(({ circuit, red, black }, index) => {
    if (circuit === null || red === null) return [];
    try {
      const where = `channels[${index}]`;
      const probe = probeOf(model, black === null ? { circuit, meter: "amps-dc", red, setup } : { circuit, meter: "capture", red, black, setup }, where);
      return probe?.kind === "electrical" ? bandsOf(model, probe) : [];
    } catch (error) {
      if (error instanceof BadInput) return [];
      throw error;
    }
  });
}
