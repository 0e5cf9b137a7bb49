import { z } from "zod";
import {
  defineFamily,
  inputBlind,
  moduleGroundOpen,
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
  quantity: "position",
  unit: "%",
  low: 0,
  high: 100,
  nominal: 50,
  normal: [10, 30, 50, 70, 90].map((value) => ({ value, weight: 1, spread: 10 })),
  abnormal: [],
  accuracy: 2,
  settable: [],
};

/** A tank float: a variable resistor to the module's low reference. */
export const tankFloat = defineFamily({
  id: "tank-float",
  title: "Tank level, two wires",
  summary: "The module's pull-up and the float's resistor make a divider.",
  pins: ["sig", "gnd"],
  part: "Tank float",
  traits: { kind: "temperature" },
  parameters: z.strictObject({ pullup: z.number().min(50).max(1e5).default(330).describe("pull-up inside the module, ohm") }),
  wiring: [
    { pin: "sig", role: "signal", origin: "module" },
    { pin: "gnd", role: "ground", origin: "module" },
  ],
  build: (builder, given) => {
    const ohmsAt = (percent: number): number => 20 + 3 * percent;
    const float = (ohms: number) => set("float", "ohms", ohms);
    const pull = pullStage(builder, "sig", { pullup: given.pullup, pullupV: 5, pulldown: 1e6, limitA: 0.1 });
    builder.lowReference("gnd");
    builder.resistor("float", builder.part("sig"), builder.part("gnd"), ohmsAt(50));
    return {
      world: WORLD,
      drive: ({ world }) => steady(float(ohmsAt(world))),
      fullScaleVolts: 5,
      reads: [
        readsVolts(
          "sig",
          "%",
          (volts) => (volts >= 5 ? null : ((given.pullup * volts) / (5 - volts) - 20) / 3),
          (percent) => (5 * ohmsAt(percent)) / (ohmsAt(percent) + given.pullup),
        ),
      ],
      watched: [{ setup: {}, red: builder.inside("sig"), black: builder.moduleGround, of: "mean", volts: 0.25 }],
      partOhms: [["sig", "gnd"]],
      tolerances: [supplyTolerance("pull-supply", 5), ohmsTolerance("pull", 0.02), ohmsTolerance("float", 0.04)],
      faults: [partFault("open", "Float open inside", float(1e9)), ...pull, ...moduleGroundOpen(builder, "gnd"), inputBlind(5)],
    };
  },
});
