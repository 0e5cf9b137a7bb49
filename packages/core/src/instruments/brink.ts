import { type Edit, mayStarve, OFF, unaidedShare, voltsBetween } from "../network";
import { normalCdf } from "../numeric";
import type { Columns } from "./columns";
import { portOf } from "./port";
import { addVolts, type MovingCircuit, type MovingMoment, type Prediction, type PredictionScratch, settleNoise } from "./sensitivities";

/** How much the supply a part needs differs between parts, in ln volts. */
export const LEAST_SPREAD = 0.05;
/** A supply further than this from what the part needs leaves no doubt, volts. */
const DOUBTFUL_VOLTS = 4;
/** Less than this is no doubt either. */
const LEAST_SHARE = 0.01;
const NO_WORDS = new Float64Array(0);

/** A circuit whose electronics stand on the brink between working and starved. */
export interface Brink {
  /** Probability that they are in the other state than the one that was solved. */
  readonly share: number;
  /** Puts them there. */
  readonly edit: Edit;
}

/**
 * Whether a part's supply is so near what it needs that tolerances decide if it works. There a reading is one of two values and no
 * linear thing in between: both are predicted.
 *
 * @param circuitId whose quantity the world column belongs to
 * @returns null where there is no doubt
 */
export function brinkOf(circuit: MovingCircuit, circuitId: string, columns: Columns, scratch: PredictionScratch): Brink | null {
  let found: Brink | null = null;
  circuit.moments.forEach(({ solution }: MovingMoment, moment) => {
    const { net, values, volts, regimes } = solution;
    for (const element of net.switching) {
      const part = net.elements[element];
      if (part === undefined || !mayStarve(part)) continue;
      const [plus, minus] = [net.p[element], net.q[element]];
      const least = values.least[element];
      const margin = voltsBetween(volts, plus, minus) - least;
      const near = Math.abs(margin) <= DOUBTFUL_VOLTS;
      const starved = near ? normalCdf(-Math.abs(margin) / supplySigma(circuit, moment, plus, minus, least, circuitId, columns, scratch)) : 0;
      const share = Math.max(starved, regimes[element] === OFF ? unaidedShare(part) : 0);
      if (share < LEAST_SHARE || (found !== null && found.share >= share)) continue;
      found = { share, edit: { element, field: "least", value: regimes[element] === OFF ? -1e6 : 1e6 } };
    }
  });
  return found;
}

/** Standard deviation of a part's supply against what it needs, volts. */
function supplySigma(
  circuit: MovingCircuit,
  moment: number,
  plus: number,
  minus: number,
  least: number,
  circuitId: string,
  columns: Columns,
  scratch: PredictionScratch,
): number {
  const out: Prediction = {
    mean: 0,
    jacobian: scratch.jacobian(columns.count),
    noise: (LEAST_SPREAD * least) ** 2,
    bent: 0,
    lasting: 0,
    words: NO_WORDS,
    scratch,
  };
  const { solution } = circuit.moments[moment];
  const ports = circuit.moments.map(() => portOf(solution, plus, minus));
  const leads = {
    red: plus,
    black: minus,
    ports,
    world: columns.worldOf.get(circuitId) ?? columns.severity,
    form: -1,
    rate: -1,
    hears: -1,
    tolerances: columns.tolerancesFor.get(circuitId) ?? columns.tolerances,
  };
  addVolts(circuit, moment, leads, columns, 1, null, out);
  settleNoise(out);
  let variance = out.noise;
  for (const slope of out.jacobian) variance += slope * slope;
  return Math.sqrt(variance);
}
