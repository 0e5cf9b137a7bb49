import { circuitRules, type JobState, orderOfWork, type Step } from "@fox-lamp/core";
import type { JobDetail, Shop, Stage } from "@fox-lamp/language";
import { type ReactNode, useMemo } from "react";
import { useParams } from "react-router";
import { useShopQuery } from "../../../app/api";
import { DeadEnd } from "../../../app/DeadEnd";
import { JobHead } from "../../../app/JobHead";
import { useEnter, useJob } from "../../../app/use-job";
import { messages } from "../../../messages";
import { PlainPage } from "../../../ui/states";

/** A job as its pages work on it. */
export interface Work {
  readonly job: JobDetail;
  readonly state: JobState;
  readonly shop: Shop | undefined;
  readonly steps: readonly Step[];
  readonly enter: ReturnType<typeof useEnter>;
}

/** What every page of a job has around it: the stages, and what is shown while the job is not there. */
export function JobFrame({ here, children }: { here: Stage; children: (work: Work) => ReactNode }) {
  const { id = "" } = useParams();
  const { job, state, missing, failed, retry } = useJob(id);
  const { data: shop } = useShopQuery();
  const enter = useEnter(id);
  const settings = shop?.settings ?? null;
  const steps = useMemo(() => orderOfWork(job?.circuits ?? [], state, settings, circuitRules.cleanable), [job?.circuits, state, settings]);
  if (missing) return <DeadEnd>{messages.states.noJob}</DeadEnd>;
  if (failed && !job) return <DeadEnd retry={retry}>{messages.states.failed}</DeadEnd>;
  if (!job) return <PlainPage>{messages.states.loading}</PlainPage>;
  return (
    <>
      <JobHead job={job} stage={state.stage} here={here} />
      <main id="content" className="mx-auto w-full max-w-6xl flex-1 px-4 py-5 lg:px-6">
        {children({ job, state, shop, steps, enter })}
      </main>
    </>
  );
}
