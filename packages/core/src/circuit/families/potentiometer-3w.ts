import { z } from "zod";
import { OPEN_OHMS } from "../../network";
import { interpolate, inverseCurve } from "../curve";
import { defineFamily, steady } from "../family";
import { aboveFeed, ohmsParameter, ratiometric, transferSchema } from "../parameters";
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
import { PERCENT_OF, POSITION_WORLD, percentAlternatives, percentShown, trackAt, WIPER_OHMS } from "../track";
import { familyName } from "./names";

/** The module's pull-down where the sheet names neither, ohms. */
const PULLDOWN_OHMS = 220_000;

const parameters = z
  .strictObject({
    ...ratiometric(PULLDOWN_OHMS),
    percentOf: PERCENT_OF,
    track: ohmsParameter(50, 1e6).default(5000).describe("whole track, ohm"),
    transfer: transferSchema
      .default([
        [0, 0.6],
        [100, 4.3],
      ])
      .describe("its line: % and V at the reference, shut and open"),
  })
  .superRefine(aboveFeed);

/** Throttle, lift, level: a wiper between reference and ground. */
export const potentiometer3w = defineFamily({
  ...familyName("potentiometer-3w"),
  summary: "A wiper between reference and ground; the module holds the signal with a weak resistor.",
  pins: ["ref", "sig", "gnd"],
  traits: { kind: "track" },
  parameters,
  referenceParameter: "vref",
  alternatives: (silent) => crossed(percentAlternatives(silent), pullAlternatives(silent)),
  wiring: [
    { pin: "ref", role: "reference", origin: "module" },
    { pin: "sig", role: "signal", origin: "module" },
    { pin: "gnd", role: "ground", origin: "module" },
  ],
  build: (builder, given) => {
    const wiper = builder.node("wiper");
    const share = (position: number): number => Math.min(0.995, Math.max(0.005, interpolate(given.transfer, position) / given.vref));
    builder.reference("supply", "ref", given.vref, given.limitA);
    const pull = pullStage(builder, "sig", {
      pullup: given.pullup,
      pullupV: given.pullupV ?? given.vref,
      pulldown: given.pulldown,
      limitA: given.limitA,
    });
    builder.lowReference("gnd");
    builder.resistor("upper", builder.part("ref"), wiper, given.track * 0.5);
    builder.resistor("lower", wiper, builder.part("gnd"), given.track * 0.5);
    builder.resistor("wiper", wiper, builder.part("sig"), WIPER_OHMS);
    builder.resistor("track-short", builder.part("ref"), builder.part("gnd"), Number.POSITIVE_INFINITY);
    const at = (fraction: number) => trackAt("", given.track, fraction);
    const inverse = inverseCurve(given.transfer);
    const clamp = (fraction: number): number => Math.min(0.995, Math.max(0.005, fraction));
    return {
      world: POSITION_WORLD,
      drive: ({ world }) => steady(at(share(world))),
      fullScaleVolts: given.vref,
      // Shut 0.3 to 1.0 V, open 3.4 to 4.8 V: where the sweep lies on the track, and how long it is.
      ...(builder.origin("transfer") === "family" ? { stretch: 0.09, shift: 4 } : {}),
      reads: [
        {
          ...readsVolts(
            "sig",
            "%",
            (volts) => interpolate(inverse, volts),
            (position) => interpolate(given.transfer, position),
          ),
          ...substituted(given, given.vref),
          ...percentShown(given),
        },
      ],
      watched: [{ setup: {}, red: builder.inside("sig"), black: builder.moduleGround, of: "mean", volts: 0.05 * given.vref }],
      partOhms: [
        ["ref", "gnd"],
        ["sig", "gnd"],
      ],
      tolerances: [
        ...referenceTolerance(builder, "ref", given.vref),
        {
          id: "track",
          targets: [
            { element: "upper", field: "ohms", kind: "relative", sigma: 0.1 },
            { element: "lower", field: "ohms", kind: "relative", sigma: 0.1 },
          ],
        },
        { id: "stop", targets: [{ element: "lower", field: "ohms", kind: "relative", sigma: Math.max(0.04, lineShare(builder)) }] },
        ...unsaid(builder, ["track", "resistance"], {
          id: "track",
          targets: [
            { element: "upper", field: "ohms", kind: "relative", sigma: 0.5 },
            { element: "lower", field: "ohms", kind: "relative", sigma: 0.5 },
          ],
        }),
        ohmsTolerance("pull", 0.05),
        ...unsaidPull(builder, pullNames(given)),
        ohmsTolerance("wiper", 0.6),
      ],
      faults: [
        partFault("open", "Wiper open inside the sensor", set("wiper", "ohms", OPEN_OHMS)),
        partFault("dead", "Track broken at its reference end", set("upper", "ohms", OPEN_OHMS)),
        {
          unit: "sensor",
          kind: "short",
          title: "Track shorted inside the sensor",
          severity: { key: "ohms", low: 0.5, high: 45 },
          assign: ({ severity }) => set("track-short", "ohms", severity),
        },
        {
          unit: "sensor",
          kind: "stuck-high",
          title: "Wiper stuck, or the track broken, in the upper half",
          severity: { key: "severity", low: 0, high: 1 },
          assign: ({ severity }) => at(clamp(0.45 + 0.54 * severity)),
        },
        {
          unit: "sensor",
          kind: "stuck-low",
          title: "Wiper stuck, or the track broken, in the lower half",
          severity: { key: "severity", low: 0, high: 1 },
          assign: ({ severity }) => at(clamp(0.45 - 0.445 * severity)),
        },
        {
          unit: "sensor",
          kind: "skewed",
          title: "Sensor off its line",
          severity: { key: "severity", low: 0.1, high: 1 },
          twoWay: true,
          assign: ({ severity, situation, direction }) => at(clamp(share(situation.world) + direction * 0.35 * severity)),
        },
        {
          unit: "sensor",
          kind: "noisy",
          title: "Worn track, drops out at one position",
          severity: { key: "ohms", low: 2e4, high: 1e7 },
          during: "sweep",
          assign: ({ severity }) => set("wiper", "ohms", severity),
        },
        ...referenceFaults(builder, "ref", given.vref),
        ...pull,
        ...moduleGroundFaults(builder, "gnd"),
        inputBlind(given.vref),
      ],
    };
  },
});
