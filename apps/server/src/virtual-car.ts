import { foldJob } from "@fox-lamp/core/job";
import { seededRandom } from "@fox-lamp/core/numeric";
import { placedCar } from "@fox-lamp/core/practice";
import type { JobDetail, Measurement, Simulated, Value } from "@fox-lamp/language";

/** Every call draws noise of its own; the car itself stays what it is. */
let calls = 0;

/**
 * What instruments show on a job's virtual car, all in the same moment.
 * @throws BadInput for measurements that cannot be
 */
export function readVirtualCar(job: JobDetail, { faults, seed, misses }: Simulated, measurements: readonly Measurement[]): Value[] {
  calls += 1;
  const { conditions } = foldJob(job.entries);
  const car = placedCar(
    { circuits: job.circuits, faults, known: conditions, ...(misses === undefined ? {} : { life: { misses } }) },
    seededRandom(seed),
    seededRandom(seed + 7919 * calls + measurements.length),
  );
  return car.readTogether(measurements);
}
