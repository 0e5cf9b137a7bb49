import { z } from "zod";
import { OPEN_OHMS } from "../../network";
import { defineFamily, steady } from "../family";
import { limitA, vref } from "../parameters";
import { set, stageFault, supplyFaults, supplyTolerance } from "../stages";
import { NO_WORLD } from "../world";
import { familyName } from "./names";

const parameters = z.strictObject({ vref, limitA });

/** A reference (and low reference) that several sensors share, joined inside the module or at splices outside. */
export const referenceBus = defineFamily({
  ...familyName("reference-bus"),
  summary: "One current-limited regulator feeds several sensors; one branch to ground takes all down.",
  pins: ["ref", "gnd"],
  traits: { kind: "reference" },
  parameters,
  wiring: [
    { pin: "ref", role: "reference", origin: "module" },
    { pin: "gnd", role: "ground", origin: "module" },
  ],
  build: (builder, given) => {
    builder.supply("supply", builder.inside("ref"), given.vref, given.limitA);
    builder.resistor("low-side", builder.inside("gnd"), builder.moduleGround, 0.05);
    return {
      world: NO_WORLD,
      drive: () => steady([]),
      fullScaleVolts: given.vref,
      reads: [],
      watched: [
        { setup: {}, red: builder.inside("ref"), black: builder.moduleGround, of: "mean", volts: 0.05 * given.vref },
        ...[...(builder.sharesPin("ref") ? (["ref"] as const) : []), ...(builder.sharesPin("gnd") ? (["gnd"] as const) : [])].map((pin) => ({
          setup: {},
          red: builder.part(pin),
          black: builder.moduleGround,
          of: "mean" as const,
          volts: 0.05 * given.vref,
        })),
      ],
      partOhms: [],
      tolerances: [supplyTolerance("supply", given.vref, builder.spread("vref"))],
      faults: [
        ...supplyFaults(given.vref),
        ...(builder.sharesPin("gnd") ? [stageFault("gnd", "open", "Shared low reference open inside the module", set("low-side", "ohms", OPEN_OHMS))] : []),
      ],
    };
  },
});
