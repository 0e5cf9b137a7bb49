import { z } from "zod";
import { OPEN_OHMS } from "../../network";
import { thermistorCelsius, thermistorOhms } from "../curve";
import { defineFamily, type World } from "../family";
import { aboveFeed, high, limitA, low, ohmsParameter, range, thermistorCurveSchema, vref } from "../parameters";
import { inputBlind, moduleGroundOpen, stageFault } from "../stages";

/** Input impedance of the module's converter, ohms. */
const INPUT_OHMS = 1e7;

const parameters = z
  .strictObject({
    vref,
    pullup: ohmsParameter(50, 1e6).default(2200).describe("pull-up inside the module, ohm"),
    pullupV: z.number().min(1).max(16).optional().describe("voltage behind the pull-up, V; the reference unless given"),
    limitA,
    curve: thermistorCurveSchema.default([
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
    ]),
    resistance: range,
    low,
    high,
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
  id: "thermistor-2w",
  title: "Temperature sensor, two wires",
  summary: "The module's pull-up and the sensor make a divider; the signal falls as it warms.",
  pins: ["sig", "gnd"],
  part: "Temperature sensor",
  parameters,
  build: (builder, given) => {
    const rail = builder.node("rail");
    const supplyVolts = given.pullupV ?? given.vref;
    builder.supply("supply", rail, supplyVolts, given.limitA);
    builder.add({ kind: "resistor", id: "pull", a: rail, b: builder.inside("sig"), ohms: given.pullup });
    builder.add({ kind: "resistor", id: "input", a: builder.inside("sig"), b: builder.moduleGround, ohms: INPUT_OHMS });
    builder.add({ kind: "resistor", id: "low-side", a: builder.inside("gnd"), b: builder.moduleGround, ohms: 0.05 });
    builder.add({ kind: "resistor", id: "sensor", a: builder.part("sig"), b: builder.part("gnd"), ohms: thermistorOhms(given.curve, WORLD.nominal) });
    const ohmsAt = (degC: number): number => thermistorOhms(given.curve, degC);
    const sensorOhms = (ohms: number) => [{ element: "sensor", field: "ohms", value: ohms } as const];
    return {
      world: WORLD,
      sensor: (degC) => sensorOhms(ohmsAt(degC)),
      fullScaleVolts: supplyVolts,
      toWorld: (volts) => (volts <= 0 || volts >= supplyVolts ? null : thermistorCelsius(given.curve, (given.pullup * volts) / (supplyVolts - volts))),
      toVolts: (degC) => (supplyVolts * ohmsAt(degC)) / (ohmsAt(degC) + given.pullup),
      partOhms: [["sig", "gnd"]],
      tolerances: [
        { id: "reference", targets: [{ element: "supply", field: "volts", kind: "absolute", sigma: 0.012 * supplyVolts }] },
        { id: "pull-up", targets: [{ element: "pull", field: "ohms", kind: "relative", sigma: 0.02 }] },
        { id: "sensor", targets: [{ element: "sensor", field: "ohms", kind: "relative", sigma: 0.03 }] },
      ],
      faults: [
        { unit: "sensor", kind: "open", title: "Sensor open inside", severity: null, assign: () => sensorOhms(OPEN_OHMS) },
        { unit: "sensor", kind: "short", title: "Sensor shorted inside", severity: { key: "ohms", low: 0.5, high: 30 }, assign: (ohms) => sensorOhms(ohms) },
        {
          unit: "sensor",
          kind: "skewed",
          title: "Sensor off its curve",
          severity: { key: "severity", low: 0.05, high: 1 },
          twoWay: true,
          assign: (severity, degC, direction) => sensorOhms(ohmsAt(degC) * (1 + 4 * severity) ** direction),
        },
        {
          unit: "sensor",
          kind: "wrong-variant",
          title: "Sensor of another variant fitted",
          severity: { key: "severity", low: 0.3, high: 1 },
          twoWay: true,
          assign: (severity, degC, direction) => sensorOhms(ohmsAt(degC) * (1 + 9 * severity) ** direction),
        },
        stageFault("pull", "missing", "Module pull-up missing", [{ element: "pull", field: "ohms", value: OPEN_OHMS }]),
        {
          unit: "module:pull",
          kind: "low",
          title: "Module pull-up supply low",
          severity: { key: "severity", low: 0.1, high: 0.9 },
          assign: (severity) => [{ element: "supply", field: "volts", value: supplyVolts * (1 - severity) }],
        },
        moduleGroundOpen(),
        inputBlind(supplyVolts),
      ],
    };
  },
});
