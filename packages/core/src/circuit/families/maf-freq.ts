import { z } from "zod";
import { OPEN_OHMS } from "../../network";
import { interpolate, inverseCurve } from "../curve";
import { defineFamily, switching } from "../family";
import { FLOW_WORLD } from "../flow";
import { duty, limitA, pullup, pullupV, range, rateSchema } from "../parameters";
import { unsaidPull } from "../pull";
import {
  inputDeaf,
  lineShare,
  moduleGroundFaults,
  ohmsTolerance,
  partFault,
  pullStage,
  set,
  supplyTolerance,
  unsaid,
  unsureOf,
  voltsTolerance,
} from "../stages";
import { conductingOhms, conductingTolerances } from "../transistor";
import { familyName } from "./names";

const parameters = z.strictObject({
  feedV: z.number().min(8).max(16).default(12).describe("feed, V: the switched battery supply"),
  pullup: pullup(2200),
  pullupV: pullupV(5),
  limitA,
  transfer: rateSchema
    .default([
      [0, 1400],
      [4, 2500],
      [15, 3700],
      [40, 5400],
      [100, 7800],
      [250, 11_000],
    ])
    .describe("its line: flow and rate, g/s and Hz, point by point"),
  duty: duty(50),
  resistance: range,
});

const HEATER_OHMS = 28;
const LEAST_VOLTS = 7.5;

/** Hot-wire air flow with a frequency output, some kilohertz. */
export const mafFreq = defineFamily({
  ...familyName("maf-freq"),
  summary: "A heated wire fed from the battery pulls the module's signal down at a rate that follows the air flow.",
  pins: ["feed", "sig", "gnd"],
  traits: { kind: "air-flow", cleanable: true },
  parameters,
  wiring: [
    { pin: "feed", role: "feed", origin: "fuse" },
    { pin: "sig", role: "signal", origin: "module" },
    { pin: "gnd", role: "ground", origin: "module" },
  ],
  build: (builder, given) => {
    const inverse = inverseCurve(given.transfer);
    const toHertz = (flow: number): number => Math.max(1, interpolate(given.transfer, flow));
    const pull = pullStage(builder, "sig", { pullup: given.pullup, pullupV: given.pullupV, pulldown: 1e6, limitA: given.limitA });
    builder.lowReference("gnd");
    builder.electronics("heater", builder.part("feed"), builder.part("gnd"), HEATER_OHMS);
    builder.resistor("output", builder.part("sig"), builder.part("gnd"), OPEN_OHMS, {
      plus: builder.part("feed"),
      minus: builder.part("gnd"),
      leastVolts: LEAST_VOLTS,
    });
    // Where the sheet has no line its shape is not known either.
    const lineSpread = builder.origin("transfer") === "family" ? 0.1 : Math.max(0.015, lineShare(builder));
    const output = (ohms: number) => set("output", "ohms", ohms);
    const conducting = conductingOhms(given.pullup, given.pullupV);
    return {
      world: FLOW_WORLD,
      drive: ({ world }) => ({ ...switching(output(OPEN_OHMS), output(conducting), given.duty / 100, toHertz(world), lineSpread), ...unsureOf(builder, 0.3) }),
      fullScaleVolts: given.pullupV,
      reads: [
        {
          pin: "sig",
          minus: null,
          by: "hertz",
          units: ["Hz", "g/s"],
          toWorld: (hertz) => interpolate(inverse, hertz),
          toValue: toHertz,
          leastSwing: 0.5 * given.pullupV,
        },
      ],
      watched: [{ setup: { key: "idle" }, red: builder.inside("sig"), black: builder.moduleGround, of: "swing", volts: 0.4 * given.pullupV }],
      partOhms: [],
      tolerances: [
        supplyTolerance("pull-supply", given.pullupV, builder.spread("pullupV")),
        ohmsTolerance("pull", 0.03),
        ...unsaidPull(builder, ["pullup"]),
        ...conductingTolerances(builder, ["pullup"]),
        ...unsaid(builder, ["pullupV"], voltsTolerance("pull-supply", 0.12)),
        ohmsTolerance("heater", 0.35),
      ],
      faults: [
        partFault("dead", "Sensor output stands at ground", output(conducting)),
        partFault("open", "Sensor output open inside", output(OPEN_OHMS)),
        {
          unit: "sensor",
          kind: "skewed",
          title: "Sensor dirty or off its line",
          severity: { key: "severity", low: 0.15, high: 1 },
          twoWay: true,
          assign: () => [],
          hertzFactor: (severity, direction) => (1 + 0.6 * severity) ** direction,
        },
        ...pull,
        ...moduleGroundFaults(builder, "gnd"),
        inputDeaf(),
      ],
    };
  },
});
