import { z } from "zod";
import { defineFamily } from "../family";
import { limitA, middleOf, ohmsParameter, windowOf, windowSigma } from "../parameters";
import { layPiezo, missedRing, OPEN_PIEZO, piezoDrive, piezoFaults, piezoPeak } from "../piezo";
import { unsaidPull } from "../pull";
import { INPUT_OHMS, inputBlind, moduleGroundFaults, ohmsTolerance, readsRing, set, stageFault, supplyTolerance, unsaid, voltsTolerance } from "../stages";
import { NO_WORLD, situationOf } from "../world";
import { familyName } from "./names";

const parameters = z.strictObject({
  biasV: z.number().min(0.2).max(12).default(2.5).describe("voltage the module holds the signal at, V"),
  pullup: ohmsParameter(1e3, 1e8).default(100_000).describe("resistor from the bias to the signal, ohm"),
  limitA,
  resistance: windowOf(4.2e6, 5.6e6).describe("of the sensor, ohm [lo, hi]"),
});

/** Knock sensor with a return: its ring rides on the module's bias. */
export const knock2w = defineFamily({
  ...familyName("knock-2w"),
  summary: "A piezo with a return wire; its small ring rides on the module's bias.",
  pins: ["sig", "gnd"],
  traits: { kind: "knock", alternating: true },
  parameters,
  // Beside the bias resistor a built-in resistor of a tenth of a megohm and a bare crystal stand at levels far apart; some crystals read open.
  alternatives: (silent) =>
    silent("resistance")
      ? [
          { with: {}, weight: 0.3 },
          { with: { resistance: [1e6, 1.8e6] }, weight: 0.15 },
          { with: { resistance: [3.3e5, 6.8e5] }, weight: 0.2 },
          { with: { resistance: [1.1e5, 2.4e5] }, weight: 0.2 },
          { with: { resistance: OPEN_PIEZO }, weight: 0.15 },
        ]
      : [],
  wiring: [
    { pin: "sig", role: "signal", origin: "module" },
    { pin: "gnd", role: "ground", origin: "module" },
  ],
  build: (builder, given) => {
    const dcOhms = middleOf(given.resistance);
    const rail = builder.node("rail");
    builder.supply("bias", rail, given.biasV, given.limitA);
    builder.resistor("pull", rail, builder.inside("sig"), given.pullup);
    builder.resistor("input", builder.inside("sig"), builder.moduleGround, INPUT_OHMS);
    builder.lowReference("gnd");
    layPiezo(builder, builder.part("sig"), builder.part("gnd"), dcOhms);
    const tap = { stimulus: { kind: "tap" as const } };
    const ring = 2 * piezoPeak(situationOf(NO_WORLD, tap, 0));
    return {
      world: NO_WORLD,
      drive: (situation) => piezoDrive(situation),
      fullScaleVolts: given.biasV,
      reads: [
        { pin: "sig", minus: null, by: "volts", units: [], toWorld: () => null, toValue: () => given.biasV, leastSwing: 0 },
        readsRing("sig", 0.05 * ring),
      ],
      watched: [
        { setup: tap, red: builder.inside("sig"), black: builder.moduleGround, of: "swing", volts: missedRing(ring, [INPUT_OHMS, given.pullup]) },
        { setup: {}, red: builder.inside("sig"), black: builder.moduleGround, of: "mean", volts: 0.2 * given.biasV },
      ],
      partOhms: [],
      tolerances: [
        supplyTolerance("bias", given.biasV, builder.spread("biasV")),
        ...unsaid(builder, ["biasV"], voltsTolerance("bias", 0.35)),
        ohmsTolerance("pull", 0.03),
        ...unsaidPull(builder, ["pullup"]),
        ohmsTolerance("leak", windowSigma(given.resistance)),
        ...unsaid(builder, ["resistance"], ohmsTolerance("leak", 1.6)),
      ],
      faults: [
        ...piezoFaults(),
        stageFault("bias", "missing", "Module bias missing", [...set("bias", "volts", 0), ...set("bias", "ohms", 1e4)]),
        ...moduleGroundFaults(builder, "gnd"),
        inputBlind(given.biasV),
      ],
    };
  },
});
