import type { Setup } from "@fox-lamp/language";
import type { EngineState } from "./engine";
import type { World, WorldValue } from "./family";

function spread(from: number, to: number, count: number): WorldValue[] {
  const step = (to - from) / count;
  return Array.from({ length: count }, (_, index) => ({ value: from + (index + 0.5) * step, spread: 0.55 * step, weight: 1 }));
}

/** Manifold pressure once the engine turns, kPa. */
const MANIFOLD: Readonly<Record<"crank" | "idle" | "rev", { value: number; spread: number }>> = {
  crank: { value: 92, spread: 5 },
  idle: { value: 36, spread: 7 },
  rev: { value: 32, spread: 8 },
};

/** At a snap the throttle lets the air outside in, for a moment: of what is read then nobody knows when it was. */
const SNAP = { value: 78, spread: 13 };

/** A manifold sensor sees the weather with the key on; any other pressure may be anywhere on its line. */
export function pressureWorld(transfer: readonly (readonly [number, number])[]): World {
  const first = transfer[0]?.[0] ?? 0;
  const last = transfer.at(-1)?.[0] ?? 100;
  const manifold = first < 60 && last > 95 && last < 400;
  const width = last - first;
  return {
    quantity: "pressure",
    unit: "kPa",
    low: first,
    high: last,
    nominal: manifold ? 100 : first + 0.5 * width,
    normal: manifold
      ? [
          ...spread(76, 94, 2).map((value) => ({ ...value, weight: 0.5 })),
          { value: 99, spread: 3, weight: 4 },
          ...spread(first + 0.05 * width, 70, 3).map((value) => ({ ...value, weight: 0.4 })),
        ]
      : spread(first + 0.06 * width, last - 0.1 * width, 8),
    abnormal: manifold ? [] : [{ value: first, spread: 0.02 * width, weight: 1 }, ...spread(last - 0.1 * width, last + 0.05 * width, 2)],
    ...(manifold ? {} : { atRest: { value: first, spread: 0.02 * width, weight: 4 } }),
    accuracy: 0.015 * width,
    outsideAir: manifold,
    settable: manifold ? [{ value: 50, how: "hand vacuum pump on its port, held at the gauge value", stimulus: { kind: "vacuum" }, minutes: 3 }] : [],
    ...(manifold
      ? {
          forced: ({ key, running }: EngineState, { stimulus }: Setup) =>
            running && stimulus?.kind === "snap" ? SNAP : key === "crank" || key === "idle" || key === "rev" ? MANIFOLD[key] : null,
        }
      : {}),
  };
}
