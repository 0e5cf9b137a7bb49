import { isOfCode } from "../inference/code-evidence";
import { offPlugs } from "../inference/found-off";
import type { NamedReading } from "../inference/observe";
import { membersOf } from "../posterior/involved";
import type { CircuitPosterior } from "../posterior/posterior";
import { comesAndGoes, type WeighedJob } from "../posterior/weighed-job";
import { alike, testOf } from "../value-of-information/work-done";
import { type Fit, oddReading } from "./fit";
import type { Standing } from "./standing";

/** A verdict that is less likely than this without one reading hangs on it. */
const HANGS = 0.8;

/**
 * How likely the leading group is if one reading is taken for a slip, by observation. What a cell says of the slip is its share of all it
 * says, so that leaves what the other readings say.
 */
function withoutEach({ inference: { grid }, observations, evidence, weights }: CircuitPosterior, group: readonly string[]): number[] {
  const led = grid.units.map((unit) => membersOf(unit).some((member) => group.includes(member)));
  const total = observations.length;
  const ours = new Float64Array(total);
  const all = new Float64Array(total);
  for (let cell = 0; cell < grid.count; cell += 1) {
    const leads = led[grid.unitOfFault[grid.fault[cell]]] === true;
    for (let index = 0; index < total; index += 1) {
      const mass = weights[cell] * evidence.slipped[cell * total + index];
      all[index] = all[index] + mass;
      if (leads) ours[index] = ours[index] + mass;
    }
  }
  return observations.map((_, index) => (all[index] > 0 ? ours[index] / all[index] : 1));
}

/** A reading a verdict hangs on. */
export interface DecidingReading {
  /** Its place among the observations of its circuits. */
  readonly index: number;
  /** How likely the verdict is if it is taken for a slip. */
  readonly without: number;
  /** Whether it is asked for because it lies far from what the verdict expects. */
  readonly odd: boolean;
}

/**
 * Readings that are better taken once more before anything is replaced: without one of them somebody else, or nobody, might as well be it. A
 * probe that does not touch reads 0 V, and 0 V condemns. So is the one that lies farthest off where all together fit the verdict badly. What was read
 * twice alike is no slip any more.
 */
export function decidingReadings({ job, numbered, onlyCircuit }: WeighedJob, { posterior, group }: Standing, fit: Fit | null): DecidingReading[] {
  if (posterior === null || comesAndGoes(job)) return [];
  const keyOf = ({ reading }: NamedReading): string => testOf(reading, onlyCircuit);
  const readAlike = (named: NamedReading): boolean =>
    numbered.some((other) => other !== named && keyOf(other) === keyOf(named) && alike(other.reading, named.reading));
  const plugs = offPlugs(numbered, onlyCircuit);
  // With the plug home nobody reads again what was read while it hung loose.
  const isGone = (named: NamedReading): boolean =>
    plugs.some(({ circuit, at }) => circuit === (named.reading.circuit ?? onlyCircuit) && numbered.indexOf(named) < at);
  const deciding = new Map<string, DecidingReading>();
  const far = oddReading(fit);
  withoutEach(posterior, group).forEach((without, index) => {
    const observation = posterior.observations[index];
    const named = isOfCode(observation) ? undefined : numbered.find(({ id }) => id === observation.id);
    // Whoever looks again sees the same.
    if (named === undefined || observation.table.probe.kind === "look" || readAlike(named) || isGone(named)) return;
    const odd = without >= HANGS;
    if (odd && observation.id !== far) return;
    if (without < (deciding.get(observation.id)?.without ?? 2)) deciding.set(observation.id, { index, without, odd });
  });
  return [...deciding.values()].sort((one, other) => one.without - other.without);
}
