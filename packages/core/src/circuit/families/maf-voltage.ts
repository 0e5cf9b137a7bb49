import { z } from "zod";
import { interpolate, inverseCurve } from "../curve";
import { defineFamily, steady } from "../family";
import { FLOW_WORLD } from "../flow";
import { ohmsParameter, range, transferSchema } from "../parameters";
import { pullAlternatives, pullNames, unsaidPull } from "../pull";
import { inputBlind, lineShare, moduleGroundFaults, ohmsTolerance, partFault, pullStage, readsVolts, set, unsaid, voltsTolerance } from "../stages";
import { familyName } from "./names";

const parameters = z.strictObject({
  feedV: z.number().min(8).max(16).default(12).describe("feed, V: the switched battery supply"),
  transfer: transferSchema
    .default([
      [0, 0.2],
      [4, 1.1],
      [15, 1.9],
      [40, 2.7],
      [100, 3.7],
      [250, 4.8],
    ])
    .describe("its line: flow and output, g/s and V, point by point"),
  pulldown: ohmsParameter(1e3, 1e8).default(220_000).describe("pull-down inside the module, ohm"),
  pullup: ohmsParameter(1e3, 1e8).optional().describe("pull-up inside the module, ohm; left out: a pull-down"),
  resistance: range,
});

/** What the heated wire draws, ohms; the output's resistance; what its electronics draw, and their link between the two grounds; the supply it needs. */
const HEATER_OHMS = 28;
const OUTPUT_OHMS = 100;
const ELECTRONICS_OHMS = 2400;
const LINK_OHMS = 1000;
const LEAST_VOLTS = 7.5;
const FULL_SCALE_VOLTS = 5;

/** Hot-wire air flow with a voltage output: fed from the battery, its signal has a return of its own. */
export const mafVoltage = defineFamily({
  ...familyName("maf-voltage"),
  summary: "A heated wire fed from the battery; its output rises with the air that cools it.",
  pins: ["feed", "sig", "ret", "pgnd"],
  traits: { kind: "air-flow", cleanable: true },
  parameters,
  alternatives: pullAlternatives,
  wiring: [
    { pin: "feed", role: "feed", origin: "fuse" },
    { pin: "sig", role: "signal", origin: "module" },
    { pin: "ret", role: "return", origin: "module" },
    { pin: "pgnd", role: "power-ground", origin: "engine" },
  ],
  build: (builder, given) => {
    const inverse = inverseCurve(given.transfer);
    const voltsAt = (flow: number): number => Math.min(FULL_SCALE_VOLTS, Math.max(0, interpolate(given.transfer, flow)));
    const pull = pullStage(builder, "sig", { pullup: given.pullup, pullupV: FULL_SCALE_VOLTS, pulldown: given.pulldown, limitA: 0.1 });
    builder.lowReference("ret");
    builder.electronics("heater", builder.part("feed"), builder.part("pgnd"), HEATER_OHMS);
    builder.electronics("electronics", builder.part("feed"), builder.part("ret"), ELECTRONICS_OHMS);
    builder.resistor("link", builder.part("ret"), builder.part("pgnd"), LINK_OHMS);
    builder.add({
      kind: "amplifier",
      id: "output",
      out: builder.part("sig"),
      com: builder.part("ret"),
      plus: builder.part("feed"),
      minus: builder.part("pgnd"),
      gain: 0,
      volts: voltsAt(0),
      ohms: OUTPUT_OHMS,
      leastVolts: LEAST_VOLTS,
    });
    const output = (volts: number) => set("output", "volts", Math.min(4.95, Math.max(0, volts)));
    return {
      world: FLOW_WORLD,
      drive: ({ world }) => steady(output(voltsAt(world))),
      fullScaleVolts: FULL_SCALE_VOLTS,
      ...(builder.origin("transfer") === "family" ? { stretch: 0.08 } : {}),
      reads: [readsVolts("sig", "g/s", (volts) => interpolate(inverse, volts), voltsAt)],
      watched: [
        { setup: { key: "idle" }, red: builder.inside("sig"), black: builder.moduleGround, of: "mean", volts: 0.25 },
        { setup: { key: "rev" }, red: builder.inside("sig"), black: builder.moduleGround, of: "mean", volts: 0.3 },
      ],
      partOhms: [],
      tolerances: [
        {
          id: "sensor",
          targets: [{ element: "output", field: "volts", kind: "absolute", sigma: Math.max(0.04, lineShare(builder) * 0.5 * FULL_SCALE_VOLTS) }],
        },
        ...unsaid(builder, ["transfer"], voltsTolerance("output", 0.28)),
        // What it draws follows the flow and the maker.
        ohmsTolerance("heater", 0.35),
        // Where a return that has lost its ground floats to is up to the maker.
        ohmsTolerance("electronics", 0.7),
        ohmsTolerance("link", 1.4),
        ohmsTolerance("pull", 0.05),
        ...unsaidPull(builder, pullNames(given)),
      ],
      faults: [
        partFault("dead", "Sensor output dead at ground", output(0)),
        partFault("open", "Sensor output open inside", set("output", "ohms", 1e9)),
        {
          unit: "sensor",
          kind: "stuck-high",
          title: "Sensor stuck high",
          severity: { key: "severity", low: 0, high: 1 },
          assign: ({ severity }) => output(3.6 + 1.35 * severity),
        },
        {
          unit: "sensor",
          kind: "skewed",
          title: "Sensor dirty or off its line",
          severity: { key: "severity", low: 0.15, high: 1 },
          twoWay: true,
          assign: ({ severity, situation, direction }) => output(voltsAt(situation.world) * (1 + direction * 0.55 * severity)),
        },
        ...pull,
        ...moduleGroundFaults(builder, "ret"),
        inputBlind(FULL_SCALE_VOLTS),
      ],
    };
  },
});
