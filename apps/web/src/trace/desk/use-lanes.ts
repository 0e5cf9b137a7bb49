import type { TraceBand } from "@fox-lamp/core";
import type { Circuit, StoredCapture } from "@fox-lamp/language";
import { useEffect, useMemo, useState } from "react";
import { type Lane, scaleOf } from "../draw";
import { type LaneSettings, lessOf, shownLanes, windowOf } from "../lanes";
import { answered, captureService } from "../service";
import { useNear } from "../use-near";
import { useOverview } from "../use-overview";
import type { View } from "../view";

/** Another capture, and how much later things happen here than there, seconds. */
export interface Other {
  readonly id: string;
  readonly stored: StoredCapture;
  readonly later: number;
}

/** Where each channel would stay on a sound car, as the job's circuits are; empty until it is computed. */
export function useBands(circuits: readonly Circuit[], { channels, setup }: Pick<StoredCapture, "channels" | "setup">): readonly (readonly TraceBand[])[] {
  const [bands, setBands] = useState<readonly (readonly TraceBand[])[]>([]);
  useEffect(() => {
    let current = true;
    answered(captureService().bands({ circuits, channels, setup }))
      .then((found) => current && setBands(found))
      .catch(() => current && setBands([]));
    return () => {
      current = false;
    };
  }, [circuits, channels, setup]);
  return bands;
}

interface Asked {
  readonly id: string;
  readonly stored: StoredCapture;
  readonly circuits: readonly Circuit[];
  readonly nameOf: (channel: string) => string;
  readonly settings: LaneSettings;
  readonly view: View;
  readonly width: number;
  readonly chosen: number;
  readonly other: Other | undefined;
}

/** The lanes of a capture as they are shown, from the top, each with the channel it is of. */
export function useLanes({ id, stored, circuits, nameOf, settings, view, width, chosen, other }: Asked) {
  const { channels, rate, start, length, analysis } = stored;
  const windows = settings.of.map((setting) => windowOf(setting, rate)).join(" ");
  const { pyramids, problem } = useOverview(id, channels.length, windows);
  const near = useNear(id, channels.length, view, width, length, windows);
  const { pyramids: behind } = useOverview(other?.id ?? id, other?.stored.channels.length ?? 0);
  const bands = useBands(circuits, stored);
  const shown = useMemo(() => shownLanes(settings), [settings]);
  const lanes = useMemo(
    () =>
      shown.map((index): Lane => {
        const { name = "", unit = "" } = channels[index] ?? {};
        const setting = settings.of[index];
        const pyramid = pyramids[index] ?? [];
        const less = setting === undefined ? 0 : lessOf(setting, analysis.channels[index]?.mean);
        const fit = scaleOf(pyramid, name);
        const scale = setting?.scale ?? { low: fit.low - less, high: fit.high - less };
        const lane = { name: nameOf(name), unit, pyramid, near: near[index] ?? null, ...scale, bands: bands[index] ?? [], less, chosen: index === chosen };
        const twin = other?.stored.channels.findIndex((channel) => channel.name === name) ?? -1;
        const twinPyramid = behind[twin];
        if (other === undefined || !twinPyramid) return lane;
        const each = other.stored.rate / rate;
        const at = (start - other.later - other.stored.start) * other.stored.rate;
        return { ...lane, other: { pyramid: twinPyramid, length: other.stored.length, at, each } };
      }),
    [channels, settings, shown, analysis, pyramids, behind, other, near, bands, chosen, nameOf, rate, start],
  );
  return { lanes, shown, problem, banded: bands.some((own) => own.length > 0) };
}
