import { z } from "zod";
import { defineFamily, steady } from "../family";
import { NO_WORLD } from "../world";
import { familyName } from "./names";

const parameters = z.strictObject({
  ratedA: z.number().min(50).max(3000).default(600).describe("rated cold-cranking current, A"),
});

/** Battery, starter and grounds: everything else is measured against them. */
export const batteryCrank = defineFamily({
  ...familyName("battery-crank"),
  summary: "Rest and cranking voltage, and the drop over engine and chassis ground while the starter pulls.",
  pins: [],
  traits: { kind: "battery" },
  parameters,
  wiring: [],
  build: () => ({
    world: NO_WORLD,
    drive: () => steady([]),
    fullScaleVolts: 12,
    reads: [],
    watched: [
      { setup: { key: "crank" }, red: "bat+", black: "engine", of: "mean", volts: 0.8 },
      { setup: {}, red: "chassis", black: "bat-", of: "mean", volts: 0.1 },
    ],
    partOhms: [],
    tolerances: [],
    faults: [],
  }),
});
