import { diagnosedPart } from "@fox-lamp/core";
import { useMemo } from "react";
import { useShopQuery } from "../../app/api";
import { useJob } from "../../app/use-job";

/**
 * A job with what is diagnosed of it. What the shop has decided changes the advice: `diagnosed` is null until that is there, `known` is what can be
 * shown before.
 */
export function useBenchJob(id: string) {
  const found = useJob(id);
  const { job, state } = found;
  const { data: shop, isLoading: shopComing } = useShopQuery();
  const known = useMemo(() => (job ? diagnosedPart(job, state, shop?.settings ?? null, job.found) : null), [job, state, shop]);
  return { ...found, shop, shopComing, known, diagnosed: shopComing ? null : known };
}
