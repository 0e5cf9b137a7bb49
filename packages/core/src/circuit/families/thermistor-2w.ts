import { z } from "zod";
import { OPEN_OHMS } from "../../network";
import { thermistorCelsius, thermistorOhms } from "../curve";
import { defineFamily, steady, type World } from "../family";
import { aboveFeed, high, limitA, low, ohmsParameter, range, substitute, thermistorCurveSchema, vref } from "../parameters";
import {
  INPUT_OHMS,
  inputBlind,
  moduleGroundFaults,
  ohmsTolerance,
  partFault,
  readsVolts,
  set,
  stageFault,
  substituted,
  supplyTolerance,
  unsaid,
  WARM_OPEN,
} from "../stages";
import { familyName } from "./names";

const parameters = z
  .strictObject({
    vref,
    pullup: ohmsParameter(50, 1e6).default(2200).describe("pull-up inside the module, ohm"),
    pullupV: z.number().min(1).max(16).optional().describe("voltage behind the pull-up, V; the reference unless given"),
    limitA,
    curve: thermistorCurveSchema
      .default([
        [-40, 64_000],
        [-20, 18_900],
        [0, 6_700],
        [20, 2_700],
        [40, 1_210],
        [60, 592],
        [80, 313],
        [100, 177],
        [120, 106],
        [140, 67],
      ])
      .describe("its curve: degC and ohm, point by point"),
    resistance: range,
    low,
    high,
    substitute,
  })
  .superRefine(aboveFeed);

const WORLD: World = {
  quantity: "temperature",
  unit: "degC",
  low: -40,
  high: 150,
  nominal: 20,
  normal: [-15, 2, 17, 32, 49, 66, 83, 98].map((value) => ({ value, spread: 9, weight: value > 0 && value < 40 ? 2 : 1 })),
  abnormal: [118, 128, 138].map((value) => ({ value, spread: 6, weight: 1 })),
  accuracy: 1.5,
  settable: [],
};

/** Coolant, intake air, oil temperature: the module's pull-up and the sensor make a divider. */
export const thermistor2w = defineFamily({
  ...familyName("thermistor-2w"),
  summary: "The module's pull-up and the sensor make a divider; the signal falls as it warms.",
  pins: ["sig", "gnd"],
  traits: { kind: "temperature" },
  parameters,
  // A straight line holds only near the resistor it was drawn for: they lie a factor of thirty apart.
  alternatives: (silent) =>
    silent("pullup")
      ? [
          { with: { pullup: 2200 }, weight: 0.5 },
          { with: { pullup: 1000 }, weight: 0.22 },
          { with: { pullup: 400 }, weight: 0.13 },
          { with: { pullup: 6000 }, weight: 0.15 },
        ]
      : [],
  wiring: [
    { pin: "sig", role: "signal", origin: "module" },
    { pin: "gnd", role: "ground", origin: "module" },
  ],
  build: (builder, given) => {
    const rail = builder.node("rail");
    const supplyVolts = given.pullupV ?? given.vref;
    builder.supply("supply", rail, supplyVolts, given.limitA);
    builder.resistor("pull", rail, builder.inside("sig"), given.pullup);
    builder.resistor("input", builder.inside("sig"), builder.moduleGround, INPUT_OHMS);
    builder.lowReference("gnd");
    builder.resistor("sensor", builder.part("sig"), builder.part("gnd"), thermistorOhms(given.curve, WORLD.nominal));
    const ohmsAt = (degC: number): number => thermistorOhms(given.curve, degC);
    const curveSpread = builder.spread("curve");
    const sensorOhms = (ohms: number) => set("sensor", "ohms", ohms);
    return {
      world: WORLD,
      drive: ({ world }) => steady(sensorOhms(ohmsAt(world))),
      fullScaleVolts: supplyVolts,
      reads: [
        {
          ...readsVolts(
            "sig",
            "degC",
            (volts) => (volts <= 0 || volts >= supplyVolts ? null : thermistorCelsius(given.curve, (given.pullup * volts) / (supplyVolts - volts))),
            (degC) => (supplyVolts * ohmsAt(degC)) / (ohmsAt(degC) + given.pullup),
          ),
          ...substituted(given, supplyVolts),
        },
      ],
      watched: [{ setup: {}, red: builder.inside("sig"), black: builder.moduleGround, of: "mean", volts: 0.05 * supplyVolts }],
      partOhms: [["sig", "gnd"]],
      tolerances: [
        supplyTolerance("supply", supplyVolts, builder.spread(given.pullupV === undefined ? "vref" : "pullupV")),
        ohmsTolerance("pull", 0.02),
        ohmsTolerance("sensor", curveSpread === null ? 0.04 : 0.5 * curveSpread),
        ...unsaid(builder, ["pullup"], ohmsTolerance("pull", 0.4)),
        ...unsaid(builder, ["curve", "resistance"], ohmsTolerance("sensor", 0.18)),
      ],
      faults: [
        partFault("open", "Sensor open inside", sensorOhms(OPEN_OHMS)),
        {
          unit: "sensor",
          kind: "short",
          title: "Sensor shorted inside",
          severity: { key: "ohms", low: 0.5, high: 600 },
          assign: ({ severity }) => sensorOhms(severity),
        },
        {
          unit: "sensor",
          kind: "skewed",
          title: "Sensor off its curve",
          severity: { key: "severity", low: 0.05, high: 1 },
          twoWay: true,
          assign: ({ severity, situation, direction }) => sensorOhms(ohmsAt(situation.world) * (1 + 4 * severity) ** direction),
        },
        {
          unit: "sensor",
          kind: "wrong-variant",
          title: "Sensor of another variant fitted",
          severity: { key: "severity", low: 0.3, high: 1 },
          twoWay: true,
          assign: ({ severity, situation, direction }) => sensorOhms(ohmsAt(situation.world) * (1 + 9 * severity) ** direction),
        },
        {
          unit: "sensor",
          kind: "hot",
          title: "Sensor opens when warmed",
          ...WARM_OPEN,
          assign: ({ severity }) => sensorOhms(severity),
        },
        stageFault("pull", "missing", "Module pull-up missing", set("pull", "ohms", OPEN_OHMS)),
        {
          unit: "module:pull",
          kind: "low",
          title: "Module pull-up supply low",
          severity: { key: "severity", low: 0.1, high: 0.9 },
          assign: ({ severity }) => set("supply", "volts", supplyVolts * (1 - severity)),
        },
        ...moduleGroundFaults(builder, "gnd"),
        inputBlind(supplyVolts),
      ],
    };
  },
});
