import type { World } from "./family";

/** How much engines differ in size and idle, as a share of the flow. */
const ENGINES = 0.3;

/** Air flow of an engine of about two litres: none while it stands, and what idle and a raised speed draw. */
export const FLOW_WORLD: World = {
  quantity: "flow",
  unit: "g/s",
  low: 0,
  high: 250,
  nominal: 0,
  normal: [{ value: 0, weight: 1, spread: 0.05 }],
  abnormal: [],
  accuracy: 0.5,
  settable: [],
  forced: ({ rpm, running }, setup) => {
    if (!running) return { value: rpm > 0 ? 1.2 : 0, spread: rpm > 0 ? 0.4 : 0.02 };
    const value = (setup.stimulus?.kind === "snap" ? 0.018 : 0.0044) * rpm;
    return { value, spread: ENGINES * value };
  },
};
