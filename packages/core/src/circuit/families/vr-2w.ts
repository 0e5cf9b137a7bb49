import { z } from "zod";
import { OPEN_OHMS } from "../../network";
import { HAND_RPM } from "../engine";
import { type Drive, defineFamily, type FaultUse, type Situation, steady } from "../family";
import { limitA, middleOf, ohmsParameter, wheel, wheelCheck, wheelHertz, wheelOf, windowOf, windowSigma } from "../parameters";
import type { PinSpec } from "../pins";
import { unsaidPull } from "../pull";
import { inputDeaf, ohmsTolerance, partFault, readsCounts, set, stageFault, supplyTolerance, unsaid, unsureOf, voltsTolerance, WARM_OPEN } from "../stages";
import { NO_WORLD } from "../world";
import { familyName } from "./names";

const parameters = z
  .strictObject({
    resistance: windowOf(700, 1100).describe("winding, ohm [lo, hi]"),
    biasV: z.number().min(0.2).max(12).optional().describe("voltage the module holds both wires at, V; left out: floating"),
    pullup: ohmsParameter(500, 1e6).default(10_000).describe("resistor from the bias to each wire, ohm"),
    limitA,
    shield: z.boolean().default(false).describe("a screen around the pair, grounded in the module"),
    ...wheel,
  })
  .superRefine(wheelCheck);

/** Peak volts of the winding per rpm at the usual gap; the module's differential input; its hold to ground when floating. */
const PEAK_VOLTS_PER_RPM = 0.006;
const DIFFERENTIAL_OHMS = 51_000;
const FLOATING_OHMS = 1e6;
/** Peak to peak below which the module sees no teeth, volts. */
const LEAST_SWING_VOLTS = 0.5;
const USUAL_TEETH = 58;
/** Interference that reaches the screen, and from an ungrounded screen the pair. */
const NOISE_PEAK_VOLTS = 14;
const NOISE_OHMS = 1e5;
const SCREEN_TO_WIRE_OHMS = 4e5;

/** Crank, cam, wheel speed, inductive: the winding makes its own alternating voltage. */
export const vr2w = defineFamily({
  ...familyName("vr-2w"),
  summary: "A winding over a magnet makes its own alternating voltage; amplitude and rate grow with speed.",
  pins: ["sig+", "sig-", "shield"],
  traits: { kind: "wheel", alternating: true },
  parameters,
  alternatives: (silent) =>
    silent("biasV")
      ? [
          { with: {}, weight: 0.55 },
          { with: { biasV: 1.9 }, weight: 0.4 },
          { with: { biasV: 5 }, weight: 0.05 },
        ]
      : [],
  wiring: (given): readonly PinSpec[] => [
    { pin: "sig+", role: "signal", origin: "module" },
    { pin: "sig-", role: "signal", origin: "module" },
    ...(given.shield ? [{ pin: "shield", role: "shield", origin: "module", reachesPart: false } as const] : []),
  ],
  build: (builder, given) => {
    const [plus, minus] = [builder.inside("sig+"), builder.inside("sig-")];
    const windingOhms = middleOf(given.resistance);
    builder.resistor("input", plus, minus, DIFFERENTIAL_OHMS);
    const biased = given.biasV !== undefined;
    if (given.biasV !== undefined) {
      const rail = builder.node("rail");
      builder.supply("bias", rail, given.biasV, given.limitA);
      builder.resistor("pull", rail, plus, given.pullup);
      builder.resistor("pull-minus", rail, minus, given.pullup);
    } else {
      builder.resistor("pull", plus, builder.moduleGround, FLOATING_OHMS);
      builder.resistor("pull-minus", minus, builder.moduleGround, FLOATING_OHMS);
    }
    builder.add({ kind: "source", id: "winding", plus: builder.part("sig+"), minus: builder.part("sig-"), volts: 0, ohms: windingOhms });
    if (given.shield) {
      builder.resistor("screen", builder.inside("shield"), builder.moduleGround, 0.05);
      const end = `${builder.circuit}:shield@sensor`;
      builder.add({ kind: "source", id: "interference", plus: end, minus: "engine", volts: 0, ohms: NOISE_OHMS });
      builder.resistor("screen-plus", end, builder.part("sig+"), SCREEN_TO_WIRE_OHMS);
    }
    const unsure = unsureOf(builder, 1.2, ["perRev", "teeth"], 0);
    const peakAt = (rpm: number): number => PEAK_VOLTS_PER_RPM * rpm;
    const noise = (volts: number) => (given.shield ? set("interference", "volts", volts) : []);
    const drive = ({ engine, setup }: Situation): Drive => {
      const { kind } = setup.stimulus ?? { kind: "none" };
      const rpm = engine.turning ? engine.rpm : kind === "hand-turn" || kind === "steel" ? HAND_RPM : 0;
      if (rpm === 0) return steady([...set("winding", "volts", 0), ...noise(0)]);
      const peak = peakAt(rpm);
      return {
        moments: [
          { share: 0.5, assignments: [...set("winding", "volts", peak), ...noise(engine.running ? NOISE_PEAK_VOLTS : 0)] },
          { share: 0.5, assignments: [...set("winding", "volts", -peak), ...noise(engine.running ? -NOISE_PEAK_VOLTS : 0)] },
        ],
        swing: [0, 1],
        shape: "sine",
        hertz: wheelHertz(given, rpm, USUAL_TEETH),
        hertzSpread: engine.turning ? 0.06 : 0.5,
        wheel: wheelOf(given, USUAL_TEETH),
        ...unsure,
      };
    };
    const scaled =
      (factor: (severity: number) => number) =>
      ({ severity, situation, moment, before = [] }: FaultUse) => {
        const moved = [...before, ...(drive(situation).moments[moment]?.assignments ?? [])].find(
          ({ element, field }) => element === "winding" && field === "volts",
        );
        return moved === undefined ? [] : set("winding", "volts", moved.value * factor(severity));
      };
    const swingWatch = (key: "crank" | "idle", volts: number) => ({ setup: { key }, red: plus, black: minus, of: "swing" as const, volts });
    return {
      world: NO_WORLD,
      drive,
      fullScaleVolts: biased ? (given.biasV ?? 5) : 5,
      reads: [readsCounts("sig+", "sig-", LEAST_SWING_VOLTS)],
      watched: [
        // It is a complaint where the module no longer counts teeth.
        swingWatch("crank", 2 * peakAt(200) - LEAST_SWING_VOLTS),
        ...(given.shield
          ? [{ setup: { key: "idle" as const }, red: builder.inside("shield"), black: builder.moduleGround, of: "swing" as const, volts: 5 }]
          : []),
        ...(given.shield
          ? [{ setup: { key: "idle" as const }, red: `${builder.circuit}:shield@sensor`, black: builder.moduleGround, of: "swing" as const, volts: 1 }]
          : []),
      ],
      partOhms: [["sig+", "sig-"]],
      tolerances: [
        ...(biased ? [supplyTolerance("bias", given.biasV ?? 5, builder.spread("biasV")), ...unsaid(builder, ["biasV"], voltsTolerance("bias", 0.35))] : []),
        ohmsTolerance("pull", 0.04),
        ohmsTolerance("pull-minus", 0.04),
        ...unsaidPull(builder, ["pullup"], ["pull", "pull-minus"]),
        ...unsaid(builder, ["resistance"], ohmsTolerance("winding", 0.55)),
        { id: "winding", targets: [{ element: "winding", field: "ohms", kind: "relative", sigma: windowSigma(given.resistance) }] },
      ],
      faults: [
        partFault("open", "Winding open", set("winding", "ohms", OPEN_OHMS)),
        {
          unit: "sensor",
          kind: "short",
          title: "Winding shorted inside",
          severity: { key: "ohms", low: 0.5, high: 0.35 * given.resistance[0] },
          assign: (use) => [...set("winding", "ohms", use.severity), ...scaled((ohms) => 0.35 * Math.min(1, (ohms / windingOhms) ** 0.5))(use)],
        },
        {
          unit: "sensor",
          kind: "weak",
          title: "Magnet weak or metal on the tip",
          severity: { key: "severity", low: 0.6, high: 0.98 },
          assign: scaled((severity) => 1 - severity),
        },
        {
          unit: "sensor",
          kind: "wrong-variant",
          title: "Sensor of another variant fitted",
          severity: { key: "severity", low: 0.3, high: 1 },
          twoWay: true,
          assign: (use) => [
            ...set("winding", "ohms", windingOhms * (1 + 3 * use.severity) ** use.direction),
            ...scaled((severity) => (use.direction < 0 ? 1 / (1 + 2 * severity) : 1))(use),
          ],
        },
        {
          unit: "sensor",
          kind: "hot",
          title: "Winding opens when warmed",
          ...WARM_OPEN,
          assign: ({ severity }) => set("winding", "ohms", severity),
        },
        {
          unit: "outside",
          kind: "no-target",
          title: "Tone wheel missing, loose, or the gap too wide",
          severity: { key: "severity", low: 0.6, high: 1 },
          // Steel in the hand is a target.
          assign: (use) => (use.situation.setup.stimulus?.kind === "steel" ? [] : scaled((severity) => Math.max(0, 2 * (0.8 - severity)))(use)),
        },
        ...(biased ? [stageFault("bias", "missing", "Module bias missing", [...set("bias", "volts", 0), ...set("bias", "ohms", 1e4)])] : []),
        inputDeaf(),
      ],
    };
  },
});
