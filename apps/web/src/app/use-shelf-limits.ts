import { betweenLimits, knownFor, limitsFor, splitBy, windowWords } from "@fox-lamp/core";
import type { Circuit, JobDetail, Limits, Measurement, Reading, SpecLimit } from "@fox-lamp/language";
import { skipToken } from "@reduxjs/toolkit/query";
import { useCallback, useMemo } from "react";
import { messages } from "../messages";
import { unitsAsWritten } from "../ui/display";
import { sourceName } from "../ui/source";
import { useShelfQuery } from "./api";

const t = messages.shelfLimits;

/** What the shelf says of one measurement: the limit that is used, the others, and what it means that they differ. */
export interface ShelfLimits {
  readonly used: { readonly words: string; readonly limits: Limits };
  readonly others: readonly string[];
  readonly consequences: readonly string[];
}

/** What the shelf says of a measurement: its limits, and what sound cars read there. */
export interface OnShelf {
  readonly limits: ShelfLimits | null;
  readonly known: readonly string[];
}

type Named = { readonly name: string; readonly limit: SpecLimit };

function finite(value: number): number | undefined {
  return Number.isFinite(value) ? Number(value.toPrecision(10)) : undefined;
}

/** What the shelf says of a measurement; null where it says nothing. @param named limits that can be */
export function shelfLimitsOf(
  named: readonly Named[],
  family: string,
  vehicle: JobDetail["vehicle"],
  measurement: Measurement,
  altitudeMetres = 0,
): ShelfLimits | null {
  const [used, ...others] = limitsFor(named, family, vehicle, measurement, altitudeMetres);
  if (used === undefined) return null;
  const words = (one: typeof used): string => t.says(unitsAsWritten(windowWords(one.window)), one.name);
  const [low, high] = [finite(used.window.low), finite(used.window.high)];
  const limits = { ...(low === undefined ? {} : { low }), ...(high === undefined ? {} : { high }), source: used.name };
  const consequences = others.flatMap((other) => {
    const sentence = betweenLimits(used, other);
    return sentence === null ? [] : [t.differ(used.name, other.name, unitsAsWritten(sentence))];
  });
  return { used: { words: words(used), limits }, others: others.map(words), consequences };
}

/** Where the shelf's limits disagree about a reading that was taken; null where they do not. */
export function shelfSplit(named: readonly Named[], family: string, vehicle: JobDetail["vehicle"], reading: Reading, altitudeMetres = 0): string | null {
  const limits = limitsFor(named, family, vehicle, reading, altitudeMetres);
  const split = splitBy(reading.value, limits);
  return split === null ? null : t.split(split.passes.join(t.and), split.fails.join(t.and), limits[0]?.name ?? "");
}

/** More known readings than these tell nothing new. */
const MOST_KNOWN = 3;

type ShelfJob = Pick<JobDetail, "vehicle" | "vehicleId">;

/** The shelf's limits for a job's vehicle, asked by measurement and by reading. @param altitudeMetres where the car stands */
export function useShelfLimits(job: ShelfJob | undefined, circuits: readonly Circuit[] = [], altitudeMetres = 0) {
  const { data } = useShelfQuery(job === undefined ? skipToken : { vehicle: job.vehicleId, kind: "limit" });
  // What cannot be is never measured against.
  const named = useMemo(
    () =>
      (data?.items ?? []).flatMap(({ item, problems }): Named[] =>
        item.kind === "limit" && problems.length === 0 ? [{ name: sourceName(item.record.source), limit: item.record }] : [],
      ),
    [data],
  );
  const { data: good } = useShelfQuery(job === undefined ? skipToken : { vehicle: job.vehicleId, kind: "known" });
  const known = useMemo(() => (good?.items ?? []).flatMap(({ item }) => (item.kind === "known" ? [item.record] : [])), [good]);
  const familyOf = useCallback(
    (circuit: string | undefined) => (circuit === undefined ? circuits[0] : circuits.find(({ id }) => id === circuit))?.family ?? "",
    [circuits],
  );
  const at = useCallback(
    (measurement: Measurement): OnShelf => {
      if (job === undefined) return { limits: null, known: [] };
      const family = familyOf(measurement.circuit);
      const read = knownFor(known, family, job.vehicle, measurement, altitudeMetres);
      return {
        limits: named.length === 0 ? null : shelfLimitsOf(named, family, job.vehicle, measurement, altitudeMetres),
        known: read.slice(0, MOST_KNOWN).map(({ value, unit, source }) => t.known(`${value} ${unitsAsWritten(unit)}`, source.title)),
      };
    },
    [job, named, known, familyOf, altitudeMetres],
  );
  const split = useCallback(
    (reading: Reading): string | null =>
      job === undefined || named.length < 2 ? null : shelfSplit(named, familyOf(reading.circuit), job.vehicle, reading, altitudeMetres),
    [job, named, familyOf, altitudeMetres],
  );
  return { at, split };
}
