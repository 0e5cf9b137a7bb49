import { type CarBehindJob, foldJob, readVirtualCar, scanVirtualCar } from "@fox-lamp/core";
import type { JobDetail, Measurement, ScanAnswer, Simulated, scanRequestSchema, Value } from "@fox-lamp/language";
import type { z } from "zod";

/** The virtual cars behind jobs, as one server reads them: how often each was read makes its noise. */
export class VirtualCars {
  private readonly calls = new Map<string, number>();

  /** What instruments show, all in the same moment. @throws BadInput for measurements that cannot be */
  read(job: JobDetail, simulated: Simulated, measurements: readonly Measurement[]): Value[] {
    return readVirtualCar(behind(job, simulated), measurements, this.nextCall(job.id));
  }

  /** What a scan adapter says. @throws BadInput for circuits or faults that cannot be */
  scan(job: JobDetail, simulated: Simulated, request: z.output<typeof scanRequestSchema>): ScanAnswer {
    return scanVirtualCar(behind(job, simulated), request, this.nextCall(job.id));
  }

  private nextCall(job: string): number {
    const call = (this.calls.get(job) ?? 0) + 1;
    this.calls.set(job, call);
    return call;
  }
}

function behind(job: JobDetail, simulated: Simulated): CarBehindJob {
  return { circuits: job.circuits, simulated, state: foldJob(job.entries) };
}
