import { isBrought } from "../../circuit";
import { CAR_SPREADS, type CarSpread } from "../car-spreads";
import { type Columns, carColumn } from "../columns";
import type { ElectricalMeter, ElectricalProbe } from "../probe";
import { addVolts, type Leads, type MovingCircuit, type Prediction, settleNoise } from "../sensitivities";
import { type Rhythm, showsEnds } from "../waveform-view";

/** What a recording of a still line wanders by itself, volts. */
const STILL_VOLTS = 0.02;

/** The column of one of the car's spreads, with its standard deviation. */
function ofCar(wanted: (spread: CarSpread) => boolean): { readonly column: number; readonly sigma: number } {
  const index = CAR_SPREADS.findIndex(wanted);
  if (index < 0) throw new Error("no such spread of the car");
  return { column: carColumn(index), sigma: CAR_SPREADS[index]?.sigma ?? 1 };
}

const ALTERNATOR = ofCar(({ element, field }) => element === "car/alternator" && field === "volts");

/**
 * Of what a car's supply and its loads are unsure by, so much is seen within one recording: the supply sags with the key on and pumps while it
 * charges, fans and lamps come and go.
 */
const MOVING_SHARES: readonly { readonly column: number; readonly share: number }[] = [
  { column: ofCar(({ element, field }) => element === "car/battery" && field === "volts").column, share: 0.2 },
  { column: ALTERNATOR.column, share: 0.9 },
  { column: ofCar(({ element }) => element === "car/body-load").column, share: 0.6 },
  { column: ofCar(({ element }) => element === "car/body-running").column, share: 1 },
  { column: ofCar(({ element }) => element === "car/module-running").column, share: 0.6 },
];
/** The same of what a running engine brings about: a manifold pulses, an idle hunts. */
const BROUGHT_SHARE = 0.25;

const STARTER = ofCar(({ element }) => element === "car/starter");
/**
 * What a line moves by when the starter is off, for each unit of ln ohms of it (a divider of battery and starter: the starter has some five
 * sixths of it).
 */
const PER_STARTER = 1.2;
/**
 * A recording over the start begins and ends without the starter, and the first moment, while it still stands, draws half as much again. Shares
 * of what the starter moves: of the end towards rest, of the other, and of the whole.
 */
const TO_REST = { mean: 0.5, sigma: 0.4 };
const INRUSH = { mean: 0.25, sigma: 0.25 };
const OVER_START = { mean: 0.75, sigma: 0.45 };

/** Of what the charging voltage is unsure by, so much is ripple on it, rms. */
const RIPPLE_SHARE = 0.15;

/** Variance of what a charging system's ripple makes on a still line, volts squared; nothing while the engine stands. */
export function rippleVariance(circuit: MovingCircuit, leads: Leads, columns: Columns, load: number, out: Prediction): number {
  circuit.moments.forEach(({ share }, moment) => {
    addVolts(circuit, moment, leads, columns, share, load, out);
  });
  const ripple = RIPPLE_SHARE * (out.jacobian[ALTERNATOR.column] ?? 0);
  out.scratch.takeSquares();
  out.jacobian.fill(0);
  return ripple * ripple;
}

/** Adds to a recording while cranking what the moments before and at the start bring; nothing for any other reading. */
function addStart({ statistic, setup }: Pick<ElectricalProbe, "statistic" | "setup">, out: Prediction): void {
  if (setup.key !== "crank" || statistic === "mean") return;
  const moved = (PER_STARTER / STARTER.sigma) * (out.jacobian[STARTER.column] ?? 0);
  if (statistic === "swing") {
    out.mean += OVER_START.mean * Math.abs(moved);
    out.noise += (OVER_START.sigma * moved) ** 2;
    // How far a line lies from rest while cranking differs from car to car as its level does.
    for (const slope of out.jacobian) out.noise += slope * slope;
    return;
  }
  const towardsRest = moved > 0 === (statistic === "max");
  const share = towardsRest ? TO_REST : INRUSH;
  out.mean += (towardsRest ? 1 : -1) * share.mean * moved;
  out.noise += (share.sigma * moved) ** 2;
}

/**
 * How much of the way from a signal's average to its ends an instrument's lowest and highest are, and how far that differs. A scope shows the
 * ends, a meter those of a signal that it can follow; of a faster one what it catches hangs on whether it holds peaks, which nobody says.
 */
export function caughtOf(rhythm: Pick<Rhythm, "swing" | "hertz">, meter: ElectricalMeter): { readonly share: number; readonly sigma: number } {
  return showsEnds(rhythm, meter) ? { share: 1, sigma: 0 } : { share: 0.5, sigma: 0.35 };
}

/** Variance of how far a line goes up and down within a recording, with its supply and with what the engine does, volts squared. */
function wanderVariance({ source }: Pick<MovingCircuit, "source">, { world }: Leads, { jacobian }: Prediction): number {
  let variance = 0;
  for (const { column, share } of MOVING_SHARES) variance += (share * (jacobian[column] ?? 0)) ** 2;
  if (isBrought(source)) variance += (BROUGHT_SHARE * (jacobian[world] ?? 0)) ** 2;
  return variance;
}

/** Of how far a line wanders, the part by which its lowest lies below what it is on average, and its highest above. */
const TO_AN_END = 0.5;

/** Adds to the lowest or highest of a recording that the line wandered meanwhile, and what a start brings; nothing for any other reading. */
export function addRecording(circuit: MovingCircuit, probe: Pick<ElectricalProbe, "statistic" | "setup">, leads: Leads, out: Prediction): void {
  if (probe.statistic !== "min" && probe.statistic !== "max") return;
  const variance = wanderVariance(circuit, leads, out);
  out.mean += (probe.statistic === "max" ? TO_AN_END : -TO_AN_END) * Math.sqrt(variance);
  out.noise += variance + 0.5 * STILL_VOLTS ** 2;
  addStart(probe, out);
}

/** How far a line that stands still goes up and down within a recording: with its supply, with what the engine does, and over a start. */
export function predictWander(
  circuit: MovingCircuit,
  probe: Pick<ElectricalProbe, "statistic" | "setup">,
  leads: Leads,
  columns: Columns,
  load: number | null,
  out: Prediction,
): void {
  circuit.moments.forEach(({ share }, moment) => {
    addVolts(circuit, moment, leads, columns, share, load, out);
  });
  settleNoise(out);
  out.noise = STILL_VOLTS ** 2 + 2 * wanderVariance(circuit, leads, out);
  out.bent = 0;
  out.lasting = 0;
  out.mean = 0;
  addStart(probe, out);
  out.jacobian.fill(0);
}
