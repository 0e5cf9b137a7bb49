import type { JobState } from "@fox-lamp/core";
import type { JobDetail } from "@fox-lamp/language";
import type { useEnter } from "../../app/use-job";

/** A job as its traces are worked on. */
export interface TracedJob {
  readonly job: JobDetail;
  readonly state: JobState;
  readonly enter: ReturnType<typeof useEnter>;
}

/** Which capture is looked at and where; nothing said is the latest one. */
export interface TraceAt {
  readonly capture?: string | undefined;
  /** The stretch that is looked at, seconds. */
  readonly stretch?: { readonly from: number; readonly to: number } | undefined;
  /** What it is compared with at first, `job/capture`. */
  readonly beside?: string | undefined;
  /** A capture that is taken again after a repair: its channels and its state are proposed. */
  readonly again?: string | undefined;
}
