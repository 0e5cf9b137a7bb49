import { FAMILIES } from "../circuit";
import { inferenceOf } from "../diagnosis";
import { seededRandom } from "../numeric";
import { drawCar } from "./car";
import { trialCircuits } from "./trial";

/** What replacing a part that was not to blame costs: the part, the time, the comeback, in minutes of work. */
const WRONG_PART_MINUTES = 40;
/** Replacing one and seeing whether the complaint is gone. */
const CHECK_MINUTES = 8;

/**
 * The baseline of guessing: units are replaced one after the other, the likeliest first, until the complaint is gone.
 *
 * @returns jobs whose first part was the wrong one, and the mean minutes lost
 */
export function replaceFirst(jobs: number, seed: number): { readonly wrongFirst: number; readonly meanMinutes: number } {
  const random = seededRandom(seed);
  let wrongFirst = 0;
  let minutes = 0;
  for (let index = 0; index < jobs; index += 1) {
    const family = FAMILIES[index % FAMILIES.length]?.id ?? "thermistor-2w";
    const circuits = trialCircuits(family, random);
    const car = drawCar(circuits, random);
    const { grid } = inferenceOf(circuits);
    const sums = new Map<string, number>();
    grid.fault.forEach((fault, cell) => {
      const unit = grid.units[grid.unitOfFault[fault] as number];
      if (unit !== "") sums.set(unit, (sums.get(unit) ?? 0) + grid.prior[cell]);
    });
    const order = [...sums].sort((a, b) => b[1] - a[1]).map(([unit]) => unit);
    const at = car.hidden === null ? order.length : order.indexOf(car.hidden.fault.unit);
    const wrong = at < 0 ? order.length : at;
    if (wrong > 0) wrongFirst += 1;
    minutes += wrong * WRONG_PART_MINUTES + CHECK_MINUTES * (wrong + 1);
  }
  return { wrongFirst, meanMinutes: minutes / jobs };
}
