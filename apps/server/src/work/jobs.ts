import {
  assertCircuits,
  type CarBehindJob,
  circuitRules,
  foldJob,
  type JudgedRecord,
  judgeRecords,
  readVirtualCar,
  scanVirtualCar,
  scopeVirtualCar,
} from "@fox-lamp/core";
import type {
  Circuit,
  JobDetail,
  Measurement,
  Problem,
  Reading,
  ScanAnswer,
  ScopeRequest,
  ShelfRecord,
  Simulated,
  scanRequestSchema,
  Value,
} from "@fox-lamp/language";
import type { z } from "zod";

/** A job on a virtual car, and how often the car was read before: that makes its noise. */
interface OnCar {
  readonly job: Pick<JobDetail, "circuits" | "entries">;
  readonly simulated: Simulated;
  readonly call: number;
}

function behind({ job, simulated }: OnCar): CarBehindJob {
  return { circuits: job.circuits, simulated, state: foldJob(job.entries) };
}

/** What is computed beside the thread that answers. Every one takes and gives plain data. */
export const JOBS = {
  /** What instruments show on a virtual car, all in the same moment. @throws BadInput for measurements that cannot be */
  measure: ({ measurements, ...car }: OnCar & { readonly measurements: readonly Measurement[] }): Value[] =>
    readVirtualCar(behind(car), measurements, car.call),
  /** What a scan adapter says of it. @throws BadInput for circuits or faults that cannot be */
  scan: ({ request, ...car }: OnCar & { readonly request: z.output<typeof scanRequestSchema> }): ScanAnswer => scanVirtualCar(behind(car), request, car.call),
  /** What a scope stores on it, one array a channel. @throws BadInput for circuits or leads that cannot be */
  scope: ({ request, ...car }: OnCar & { readonly request: ScopeRequest }): Float32Array[] => scopeVirtualCar(behind(car), request, car.call),
  /** Whether a file's circuits can be opened and its readings belong to them. @throws BadInput for circuits that cannot be */
  fits: ({ circuits, readings }: { readonly circuits: readonly Circuit[]; readonly readings: readonly Reading[] }): Problem | null => {
    assertCircuits(circuits);
    return circuitRules.misplaced(
      circuits,
      readings.map((reading, index) => ({ reading, where: `readings[${index}]` })),
    );
  },
  /** What physics says of records for the shelf. @throws BadInput for families nobody knows */
  judge: ({ items }: { readonly items: readonly ShelfRecord[] }): JudgedRecord[] => judgeRecords(items),
};
export type Job = typeof JOBS;
export type JobName = keyof Job;
