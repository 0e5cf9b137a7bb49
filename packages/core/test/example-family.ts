import { z } from "zod";
import {
  defineFamily,
  inputBlind,
  moduleGroundFaults,
  ohmsTolerance,
  partFault,
  pullStage,
  readsVolts,
  set,
  steady,
  supplyTolerance,
  type World,
} from "../src/circuit";

/** What the sensor follows, what is normal, what is not, and how well a technician knows it. */
const WORLD: World = {
  quantity: "temperature",
  unit: "degC",
  low: 0,
  high: 900,
  nominal: 250,
  normal: [50, 150, 250, 350, 450].map((value) => ({ value, weight: 1, spread: 50 })),
  abnormal: [{ value: 800, weight: 0.05, spread: 50 }],
  accuracy: 5,
  settable: [],
};

/** The module adds the temperature of its own end; the table is for an end at this. */
const COLD_END_DEGC = 25;
/** The highest level the module's input follows, volts. */
const RANGE_VOLTS = 0.05;

/** A thermocouple: two metals welded together make microvolts for every degree. */
export const thermocouple = defineFamily({
  id: "thermocouple-2w",
  title: "Exhaust temperature, two wires, millivolts",
  summary: "Two metals welded together make some forty microvolts a degree; a weak pull-up in the module shows a break.",
  pins: ["sig", "ret"],
  part: "Thermocouple",
  traits: { kind: "temperature" },
  parameters: z.strictObject({
    microvolts: z.number().min(5).max(80).default(41).describe("what the pair makes, microvolt per kelvin"),
    resistance: z.number().min(0.5).max(200).default(6).describe("the pair end to end, ohm"),
    pullup: z.number().min(1e5).max(1e8).default(1e6).describe("pull-up inside the module, ohm"),
  }),
  wiring: [
    { pin: "sig", role: "signal", origin: "module" },
    { pin: "ret", role: "return", origin: "module" },
  ],
  build: (builder, given) => {
    const voltsAt = (degC: number): number => 1e-6 * given.microvolts * (degC - COLD_END_DEGC);
    const degCAt = (volts: number): number => volts / (1e-6 * given.microvolts) + COLD_END_DEGC;
    const makes = (volts: number) => set("pair", "volts", volts);
    const pull = pullStage(builder, "sig", { pullup: given.pullup, pullupV: 5, pulldown: 1e7, limitA: 0.1 });
    builder.lowReference("ret");
    builder.add({ kind: "source", id: "pair", plus: builder.part("sig"), minus: builder.part("ret"), volts: voltsAt(250), ohms: given.resistance });
    return {
      world: WORLD,
      drive: ({ world }) => steady(makes(voltsAt(world))),
      fullScaleVolts: RANGE_VOLTS,
      rangeVolts: RANGE_VOLTS,
      reads: [readsVolts("sig", "degC", (volts) => (volts > RANGE_VOLTS ? null : degCAt(volts)), voltsAt)],
      watched: [{ setup: {}, red: builder.inside("sig"), black: builder.moduleGround, of: "mean", volts: 0.001, signed: true }],
      partOhms: [["sig", "ret"]],
      tolerances: [
        supplyTolerance("pull-supply", 5),
        ohmsTolerance("pull", 0.02),
        ohmsTolerance("pair", 0.1),
        { id: "pair-volts", targets: [{ element: "pair", field: "volts", kind: "absolute", sigma: 1e-4 }] },
      ],
      faults: [
        partFault("open", "Weld burnt through", set("pair", "ohms", 1e9)),
        {
          unit: "sensor",
          kind: "weak",
          title: "Insulation burnt: the metals touch where it is cooler",
          severity: { key: "severity", low: 0.1, high: 0.95 },
          assign: ({ severity, situation }) => makes((1 - severity) * voltsAt(situation.world)),
        },
        {
          unit: "sensor",
          kind: "wrong-variant",
          title: "Pair of other metals fitted",
          severity: { key: "severity", low: 0.1, high: 1 },
          twoWay: true,
          assign: ({ severity, situation, direction }) => makes(voltsAt(situation.world) * (1 + severity) ** direction),
        },
        ...pull,
        ...moduleGroundFaults(builder, "ret"),
        inputBlind(RANGE_VOLTS),
      ],
    };
  },
});
