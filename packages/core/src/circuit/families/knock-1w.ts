import { z } from "zod";
import { defineFamily } from "../family";
import { limitA, middleOf, ohmsParameter, windowOf, windowSigma } from "../parameters";
import { layPiezo, missedRing, OPEN_PIEZO, piezoDrive, piezoFaults, piezoPeak } from "../piezo";
import { unsaidPull } from "../pull";
import { INPUT_OHMS, inputBlind, ohmsTolerance, readsRing, set, stageFault, supplyTolerance, unsaid } from "../stages";
import { NO_WORLD, situationOf } from "../world";
import { familyName } from "./names";

const parameters = z.strictObject({
  biasV: z.number().min(0.2).max(12).optional().describe("voltage the module holds the wire at, V; left out: none"),
  pullup: ohmsParameter(1e3, 1e8).default(220_000).describe("resistor from the bias to the wire, ohm"),
  pulldown: ohmsParameter(1e3, 1e8).default(470_000).describe("resistor from the wire to ground in the module, ohm"),
  limitA,
  resistance: windowOf(4.2e6, 5.6e6).describe("of the sensor to its body, ohm [lo, hi]"),
});

/** Knock sensor with one wire: a piezo on the engine's body. */
export const knock1w = defineFamily({
  ...familyName("knock-1w"),
  summary: "A piezo grounded by its body makes its own small ring; resistance alone proves nothing.",
  pins: ["sig"],
  traits: { kind: "knock", alternating: true },
  parameters,
  // Some modules hold the line at a bias; some crystals read open. Either is asked of the sheet first.
  alternatives: (silent) => {
    const biased = silent("biasV") ? [{ biasV: 2.5 }] : [];
    const open = silent("resistance") ? [{ resistance: OPEN_PIEZO }] : [];
    return biased.length + open.length === 0
      ? []
      : [
          { with: {}, weight: 1 - 0.25 * biased.length - 0.15 * open.length },
          ...biased.map((given) => ({ with: given, weight: 0.25 })),
          ...open.map((given) => ({ with: given, weight: 0.15 })),
        ];
  },
  wiring: [{ pin: "sig", role: "signal", origin: "module" }],
  build: (builder, given) => {
    const dcOhms = middleOf(given.resistance);
    const { biasV } = given;
    builder.resistor("input", builder.inside("sig"), builder.moduleGround, INPUT_OHMS);
    builder.resistor("hold", builder.inside("sig"), builder.moduleGround, given.pulldown);
    if (biasV !== undefined) {
      const rail = builder.node("rail");
      builder.supply("bias", rail, biasV * (1 + given.pullup / given.pulldown), given.limitA);
      builder.resistor("pull", rail, builder.inside("sig"), given.pullup);
    }
    layPiezo(builder, builder.part("sig"), "engine", dcOhms);
    const tap = { stimulus: { kind: "tap" as const } };
    const ring = 2 * piezoPeak(situationOf(NO_WORLD, tap, 0));
    return {
      world: NO_WORLD,
      drive: (situation) => piezoDrive(situation),
      fullScaleVolts: biasV ?? 1,
      reads: [
        { pin: "sig", minus: null, by: "volts", units: [], toWorld: () => null, toValue: () => biasV ?? 0, leastSwing: 0 },
        readsRing("sig", 0.05 * ring),
      ],
      watched: [
        {
          setup: tap,
          red: builder.inside("sig"),
          black: builder.moduleGround,
          of: "swing",
          volts: missedRing(ring, [INPUT_OHMS, given.pulldown, ...(biasV === undefined ? [] : [given.pullup])]),
        },
        ...(biasV === undefined ? [] : [{ setup: {}, red: builder.inside("sig"), black: builder.moduleGround, of: "mean" as const, volts: 0.2 * biasV }]),
      ],
      partOhms: [],
      tolerances: [
        ...(biasV === undefined ? [] : [supplyTolerance("bias", biasV, builder.spread("biasV")), ohmsTolerance("pull", 0.03)]),
        ohmsTolerance("hold", 0.03),
        ...unsaidPull(builder, ["pulldown", "pullup"], biasV === undefined ? ["hold"] : ["hold", "pull"]),
        ohmsTolerance("leak", windowSigma(given.resistance)),
        ...unsaid(builder, ["resistance"], ohmsTolerance("leak", 1.6)),
      ],
      faults: [
        ...piezoFaults(),
        ...(biasV === undefined ? [] : [stageFault("bias", "missing", "Module bias missing", [...set("bias", "volts", 0), ...set("bias", "ohms", 1e4)])]),
        inputBlind(biasV ?? 1),
      ],
    };
  },
});
