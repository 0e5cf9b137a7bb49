import { z } from "zod";
import { interpolate, inverseCurve } from "../curve";
import { defineFamily, type FaultUse, steady } from "../family";
import { aboveFeed, ratiometric, transferSchema } from "../parameters";
import { pressureWorld } from "../pressure";
import { crossed, pullAlternatives, pullNames, unsaidPull } from "../pull";
import {
  inputBlind,
  lineShare,
  moduleGroundFaults,
  ohmsTolerance,
  partFault,
  pullStage,
  readsVolts,
  referenceFaults,
  referenceTolerance,
  set,
  substituted,
  unsaid,
} from "../stages";
import { familyName } from "./names";

/** Output resistance and supply load of an amplified bridge, ohms. */
const OUTPUT_OHMS = 150;
const SUPPLY_OHMS = 800;

/** The usual line: kPa against volts at the usual reference. */
const USUAL_TRANSFER: [number, number][] = [
  [20, 0.5],
  [110, 4.5],
];

/** Full scales that are met at the manifold, kPa; a rail's or an oil gallery's must be stated, or anything would be sound. */
const FULL_SCALES = [
  { kPa: 110, weight: 0.6 },
  { kPa: 250, weight: 0.3 },
  { kPa: 320, weight: 0.1 },
];

/** Look-alikes differ by up to so much more than ours in full scale, either way. */
const MOST_RANGES = 3;

/** The module's pull-down where the sheet names neither, ohms. */
const PULLDOWN_OHMS = 100_000;

const parameters = z
  .strictObject({
    ...ratiometric(PULLDOWN_OHMS),
    transfer: transferSchema.default(USUAL_TRANSFER).describe("its line: pressure and output, kPa and V at the reference, point by point"),
  })
  .superRefine(aboveFeed);

/** Manifold, rail, oil, tank, refrigerant pressure: an amplified bridge, ratiometric to its reference. */
export const pressure3w = defineFamily({
  ...familyName("pressure-3w"),
  summary: "An amplified bridge; the signal is a share of the reference that follows the pressure.",
  pins: ["ref", "sig", "gnd"],
  traits: { kind: "pressure" },
  parameters,
  referenceParameter: "vref",
  alternatives: (silent) =>
    crossed(
      silent("transfer")
        ? FULL_SCALES.map(({ kPa, weight }) => ({
            with: {
              transfer: [
                [20, 0.5],
                [kPa, 4.5],
              ],
            },
            weight,
          }))
        : [],
      pullAlternatives(silent),
    ),
  wiring: [
    { pin: "ref", role: "reference", origin: "module" },
    { pin: "sig", role: "signal", origin: "module" },
    { pin: "gnd", role: "ground", origin: "module" },
  ],
  build: (builder, given) => {
    const world = pressureWorld(given.transfer);
    const share = (kPa: number): number => Math.min(0.98, Math.max(0.01, interpolate(given.transfer, kPa) / given.vref));
    builder.reference("supply", "ref", given.vref, given.limitA);
    const pull = pullStage(builder, "sig", {
      pullup: given.pullup,
      pullupV: given.pullupV ?? given.vref,
      pulldown: given.pulldown,
      limitA: given.limitA,
    });
    builder.lowReference("gnd");
    builder.electronics("bridge", builder.part("ref"), builder.part("gnd"), SUPPLY_OHMS);
    builder.add({
      kind: "amplifier",
      id: "output",
      out: builder.part("sig"),
      com: builder.part("gnd"),
      plus: builder.part("ref"),
      minus: builder.part("gnd"),
      gain: share(world.nominal),
      volts: 0,
      ohms: OUTPUT_OHMS,
    });
    const gain = (value: number) => set("output", "gain", Math.min(0.995, Math.max(0.001, value)));
    const inverse = inverseCurve(given.transfer);
    const ambient = world.outsideAir ? 99 : null;
    return {
      world,
      drive: (situation) => steady(gain(share(situation.world))),
      fullScaleVolts: given.vref,
      ...(builder.origin("transfer") === "family" ? { stretch: 0.05 } : {}),
      reads: [
        {
          ...readsVolts(
            "sig",
            "kPa",
            (volts) => interpolate(inverse, volts),
            (kPa) => interpolate(given.transfer, kPa),
          ),
          ...substituted(given, given.vref),
        },
      ],
      watched: [{ setup: {}, red: builder.inside("sig"), black: builder.moduleGround, of: "mean", volts: 0.05 * given.vref }],
      partOhms: [],
      tolerances: [
        ...referenceTolerance(builder, "ref", given.vref),
        { id: "sensor", targets: [{ element: "output", field: "gain", kind: "absolute", sigma: Math.max(0.008, lineShare(builder) * share(world.nominal)) }] },
        ...unsaid(builder, ["transfer"], { id: "line", targets: [{ element: "output", field: "gain", kind: "absolute", sigma: 0.035 }] }),
        // It draws 3 to 12 mA.
        ohmsTolerance("bridge", 0.45),
        ohmsTolerance("pull", 0.05),
        ...unsaidPull(builder, pullNames(given)),
      ],
      faults: [
        partFault("dead", "Sensor output dead at ground", gain(0.002)),
        partFault("open", "Sensor output open inside", set("output", "ohms", 1e9)),
        {
          unit: "sensor",
          kind: "short",
          title: "Sensor supply shorted inside",
          severity: { key: "ohms", low: 0.5, high: 45 },
          assign: ({ severity }) => set("bridge", "ohms", severity),
        },
        {
          unit: "sensor",
          kind: "stuck-high",
          title: "Sensor stuck high",
          severity: { key: "severity", low: 0, high: 1 },
          assign: ({ severity }) => gain(0.5 + 0.49 * severity),
        },
        {
          unit: "sensor",
          kind: "stuck-low",
          title: "Sensor stuck low",
          severity: { key: "severity", low: 0, high: 1 },
          assign: ({ severity }) => gain(0.5 - 0.49 * severity),
        },
        {
          unit: "sensor",
          kind: "skewed",
          title: "Sensor off its line",
          severity: { key: "severity", low: 0.1, high: 1 },
          twoWay: true,
          assign: ({ severity, situation, direction }) => gain(share(situation.world) + direction * 0.4 * severity),
        },
        {
          unit: "sensor",
          kind: "wrong-variant",
          title: "Sensor of another range fitted",
          severity: { key: "severity", low: 0.08, high: 1 },
          twoWay: true,
          assign: ({ severity, situation, direction }) => gain(share(world.low + (situation.world - world.low) * (1 + MOST_RANGES * severity) ** direction)),
        },
        ...(ambient === null
          ? []
          : [
              {
                unit: "outside",
                kind: "plugged-port",
                title: "Port or hose plugged, the sensor sees the outside air",
                severity: null,
                // A pump on the sensor itself reaches it.
                assign: ({ situation }: FaultUse) => (situation.setup.stimulus?.kind === "vacuum" ? [] : gain(share(ambient))),
              },
            ]),
        ...referenceFaults(builder, "ref", given.vref),
        ...pull,
        ...moduleGroundFaults(builder, "gnd"),
        inputBlind(given.vref),
      ],
    };
  },
});
