import { measurementOf } from "@fox-lamp/core";
import type { Measurement, NextTest } from "@fox-lamp/language";

/** The part of a bench's address that asks for a test. */
export const ASKED_TEST = "test";

/** The address of a job's bench with a test at hand. */
export function benchWith(job: string, measurement: Measurement): string {
  return `/jobs/${job}/bench?${ASKED_TEST}=${encodeURIComponent(JSON.stringify(measurement))}`;
}

/** The address of a job's bench with a test that is offered there. */
export function benchWithTest(job: string, test: NextTest): string {
  return benchWith(job, measurementOf(test));
}
