import type { Measurement, ScanAnswer, ScopeRequest, Simulated, scanRequestSchema, Value } from "@fox-lamp/language";
import { LRUCache } from "lru-cache";
import type { z } from "zod";
import type { StoredJob } from "../database/jobs";
import type { Work } from "./pool";

const MOST_JOBS = 2000;

/** The virtual cars behind jobs, as one server reads them: how often each was read makes its noise. */
export class VirtualCars {
  private readonly calls = new LRUCache<string, number>({ max: MOST_JOBS });

  constructor(private readonly work: Pick<Work, "run">) {}

  /** What instruments show, all in the same moment. @throws BadInput for measurements that cannot be */
  read(job: StoredJob, simulated: Simulated, measurements: readonly Measurement[]): Promise<Value[]> {
    return this.work.run("measure", { ...this.carOf(job, simulated), measurements });
  }

  /** What a scan adapter says. @throws BadInput for circuits or faults that cannot be */
  scan(job: StoredJob, simulated: Simulated, request: z.output<typeof scanRequestSchema>): Promise<ScanAnswer> {
    return this.work.run("scan", { ...this.carOf(job, simulated), request });
  }

  /** What a scope stores, one array a channel. @throws BadInput for circuits or leads that cannot be */
  scope(job: StoredJob, simulated: Simulated, request: ScopeRequest): Promise<Float32Array[]> {
    return this.work.run("scope", { ...this.carOf(job, simulated), request });
  }

  private carOf({ id, circuits, entries }: StoredJob, simulated: Simulated) {
    const call = (this.calls.get(id) ?? 0) + 1;
    this.calls.set(id, call);
    return { job: { circuits, entries }, simulated, call };
  }
}
