import { z } from "zod";
import { OPEN_OHMS } from "../../network";
import { interpolate, inverseCurve } from "../curve";
import { defineFamily, switching } from "../family";
import { duty, limitA, pullup, pullupV, range, rateSchema, vref } from "../parameters";
import { pressureWorld } from "../pressure";
import { unsaidPull } from "../pull";
import { inputDeaf, lineShare, moduleGroundFaults, ohmsTolerance, partFault, pullStage, referenceFaults, referenceTolerance, set, unsureOf } from "../stages";
import { conductingOhms, conductingTolerances } from "../transistor";
import { familyName } from "./names";

/** The usual line: kPa against hertz. */
const USUAL_TRANSFER: [number, number][] = [
  [20, 80],
  [105, 160],
];

const parameters = z.strictObject({
  vref,
  limitA,
  pullup: pullup(2200),
  pullupV: pullupV(5),
  transfer: rateSchema.default(USUAL_TRANSFER).describe("its line: pressure and rate, kPa and Hz, point by point"),
  duty: duty(50),
  resistance: range,
});

/** What the sensor draws, ohms; the supply it needs. */
const LOAD_OHMS = 700;
const LEAST_VOLTS = 3.5;

/** Manifold or barometric pressure as a rate: the sensor pulls a signal of the module's down again and again. */
export const pressureFreq = defineFamily({
  ...familyName("pressure-freq"),
  summary: "The sensor pulls the module's own signal down at a rate that follows the pressure.",
  pins: ["ref", "sig", "gnd"],
  traits: { kind: "pressure" },
  parameters,
  referenceParameter: "vref",
  wiring: [
    { pin: "ref", role: "reference", origin: "module" },
    { pin: "sig", role: "signal", origin: "module" },
    { pin: "gnd", role: "ground", origin: "module" },
  ],
  build: (builder, given) => {
    const world = pressureWorld(given.transfer);
    const inverse = inverseCurve(given.transfer);
    const toHertz = (kPa: number): number => Math.max(1, interpolate(given.transfer, kPa));
    builder.reference("supply", "ref", given.vref, given.limitA);
    const pull = pullStage(builder, "sig", { pullup: given.pullup, pullupV: given.pullupV, pulldown: 1e6, limitA: given.limitA });
    builder.lowReference("gnd");
    builder.electronics("load", builder.part("ref"), builder.part("gnd"), LOAD_OHMS);
    builder.resistor("output", builder.part("sig"), builder.part("gnd"), OPEN_OHMS, {
      plus: builder.part("ref"),
      minus: builder.part("gnd"),
      leastVolts: LEAST_VOLTS,
    });
    const output = (ohms: number) => set("output", "ohms", ohms);
    const conducting = conductingOhms(given.pullup, given.pullupV);
    return {
      world,
      drive: (situation) => ({
        ...switching(output(OPEN_OHMS), output(conducting), given.duty / 100, toHertz(situation.world), Math.max(0.008, lineShare(builder))),
        ...unsureOf(builder, 0.25),
      }),
      fullScaleVolts: given.pullupV,
      reads: [
        {
          pin: "sig",
          minus: null,
          by: "hertz",
          units: ["Hz", "kPa"],
          toWorld: (hertz) => interpolate(inverse, hertz),
          toValue: toHertz,
          leastSwing: 0.5 * given.pullupV,
        },
      ],
      watched: [{ setup: {}, red: builder.inside("sig"), black: builder.moduleGround, of: "swing", volts: 0.4 * given.pullupV }],
      partOhms: [],
      tolerances: [
        ...referenceTolerance(builder, "ref", given.vref),
        ohmsTolerance("pull", 0.03),
        ...unsaidPull(builder, ["pullup"]),
        ...conductingTolerances(builder, ["pullup"]),
        ohmsTolerance("load", 0.45),
      ],
      faults: [
        partFault("dead", "Sensor output stands at ground", output(conducting)),
        partFault("open", "Sensor output open inside", output(OPEN_OHMS)),
        {
          unit: "sensor",
          kind: "short",
          title: "Sensor supply shorted inside",
          severity: { key: "ohms", low: 0.5, high: 45 },
          assign: ({ severity }) => set("load", "ohms", severity),
        },
        {
          unit: "sensor",
          kind: "skewed",
          title: "Sensor off its line",
          severity: { key: "severity", low: 0.1, high: 1 },
          twoWay: true,
          assign: () => [],
          hertzFactor: (severity, direction) => (1 + 0.6 * severity) ** direction,
        },
        ...referenceFaults(builder, "ref", given.vref),
        ...pull,
        ...moduleGroundFaults(builder, "gnd"),
        inputDeaf(),
      ],
    };
  },
});
