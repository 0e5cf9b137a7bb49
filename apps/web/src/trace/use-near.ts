import { useEffect, useRef, useState } from "react";
import { needsSamples } from "./draw";
import { answered, captureService } from "./service";
import type { View } from "./view";

/** Samples of one channel around a view. */
export interface Near {
  readonly from: number;
  readonly samples: Float32Array;
}

/** The view is fetched with so much of itself to each side, so that moving along does not ask again at every step. */
const AROUND = 1;
const ASK_AFTER_MS = 40;

/** Samples around the view, of every channel, once it is closer than the overview; the last ones stay until the next are there. */
export function useNear(id: string, channels: number, view: View, width: number, length: number, windows = ""): readonly (Near | null)[] {
  // Another smoothing is another set of samples.
  const own = `${id} ${windows}`;
  const [near, setNear] = useState<{ id: string; of: readonly (Near | null)[] }>({ id: own, of: [] });
  const asked = useRef<View & { readonly id: string }>({ id: "", from: 0, to: 0 });
  useEffect(() => {
    if (!needsSamples(view, width)) return;
    const { current } = asked;
    if (current.id === own && current.from <= view.from && current.to >= view.to) return;
    const room = AROUND * (view.to - view.from);
    const wanted = { id: own, from: Math.max(0, Math.floor(view.from - room)), to: Math.min(length, Math.ceil(view.to + room)) };
    const timer = setTimeout(() => {
      asked.current = wanted;
      void Promise.all(
        Array.from({ length: channels }, async (_, channel): Promise<Near | null> => {
          const samples = await answered(captureService().samples(id, channel, wanted.from, wanted.to, Number(windows.split(" ")[channel] ?? 1) || 1)).catch(
            () => null,
          );
          return samples === null ? null : { from: wanted.from, samples };
        }),
      ).then((of) => {
        if (asked.current === wanted) setNear({ id: own, of });
      });
    }, ASK_AFTER_MS);
    return () => clearTimeout(timer);
  }, [id, own, windows, channels, view, width, length]);
  return near.id === own ? near.of : [];
}
