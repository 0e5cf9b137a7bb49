import { z } from "zod";
import { OPEN_OHMS } from "../../network";
import { interpolate, inverseCurve } from "../curve";
import { defineFamily, type World } from "../family";
import { aboveFeed, high, limitA, low, ohmsParameter, range, transferSchema, vref } from "../parameters";
import { inputBlind, moduleGroundOpen, referenceFaults, stageFault } from "../stages";

const INPUT_OHMS = 1e7;
/** Resistance of a clean wiper, ohms. */
const WIPER_OHMS = 100;

const parameters = z
  .strictObject({
    vref,
    limitA,
    track: ohmsParameter(50, 1e6).default(5000).describe("whole track, ohm"),
    transfer: transferSchema.default([
      [0, 0.6],
      [100, 4.3],
    ]),
    pulldown: ohmsParameter(1e3, 1e8).optional().describe("weak pull-down inside the module, ohm; 220000 unless a pull-up is given"),
    pullup: ohmsParameter(1e3, 1e8).optional().describe("weak pull-up inside the module, ohm"),
    pullupV: z.number().min(1).max(16).optional(),
    resistance: range,
    low,
    high,
  })
  .superRefine(aboveFeed);

const WORLD: World = {
  quantity: "position",
  unit: "%",
  low: 0,
  high: 100,
  nominal: 0,
  normal: [0, 12, 26, 40, 55, 70, 85, 98].map((value) => ({ value, spread: value === 0 ? 2 : 8, weight: value === 0 ? 12 : 1 })),
  abnormal: [],
  accuracy: 1.5,
  settable: [
    { value: 0, how: "released, against its stop", stimulus: undefined, minutes: 0.2 },
    { value: 100, how: "held wide open by hand, key on, engine off", stimulus: undefined, minutes: 0.5 },
  ],
};

/** Throttle, lift, level: a wiper between reference and ground. */
export const potentiometer3w = defineFamily({
  id: "potentiometer-3w",
  title: "Position sensor, three wires",
  summary: "A wiper between reference and ground; the module holds the signal with a weak resistor.",
  pins: ["ref", "sig", "gnd"],
  part: "Position sensor",
  parameters,
  build: (builder, given) => {
    const wiper = builder.node("wiper");
    const share = (position: number): number => Math.min(0.995, Math.max(0.005, interpolate(given.transfer, position) / given.vref));
    builder.supply("supply", builder.inside("ref"), given.vref, given.limitA);
    builder.add({ kind: "resistor", id: "input", a: builder.inside("sig"), b: builder.moduleGround, ohms: INPUT_OHMS });
    const pulledUp = given.pullup !== undefined;
    if (pulledUp) {
      const rail = builder.node("rail");
      builder.supply("pull-supply", rail, given.pullupV ?? given.vref, given.limitA);
      builder.add({ kind: "resistor", id: "pull", a: rail, b: builder.inside("sig"), ohms: given.pullup ?? OPEN_OHMS });
    } else {
      builder.add({ kind: "resistor", id: "pull", a: builder.inside("sig"), b: builder.moduleGround, ohms: given.pulldown ?? 220_000 });
    }
    builder.add({ kind: "resistor", id: "low-side", a: builder.inside("gnd"), b: builder.moduleGround, ohms: 0.05 });
    builder.add({ kind: "resistor", id: "upper", a: builder.part("ref"), b: wiper, ohms: given.track * (1 - share(0)) });
    builder.add({ kind: "resistor", id: "lower", a: wiper, b: builder.part("gnd"), ohms: given.track * share(0) });
    builder.add({ kind: "resistor", id: "wiper", a: wiper, b: builder.part("sig"), ohms: WIPER_OHMS });
    builder.add({ kind: "resistor", id: "track-short", a: builder.part("ref"), b: builder.part("gnd"), ohms: Number.POSITIVE_INFINITY });
    const at = (fraction: number) =>
      [
        { element: "upper", field: "ohms", value: given.track * (1 - fraction) },
        { element: "lower", field: "ohms", value: given.track * fraction },
      ] as const;
    const inverse = inverseCurve(given.transfer);
    const clamp = (fraction: number): number => Math.min(0.995, Math.max(0.005, fraction));
    return {
      world: WORLD,
      sensor: (position) => at(share(position)),
      fullScaleVolts: given.vref,
      toWorld: (volts) => interpolate(inverse, volts),
      toVolts: (position) => interpolate(given.transfer, position),
      partOhms: [
        ["ref", "gnd"],
        ["sig", "gnd"],
      ],
      tolerances: [
        { id: "reference", targets: [{ element: "supply", field: "volts", kind: "absolute", sigma: 0.012 * given.vref }] },
        {
          id: "track",
          targets: [
            { element: "upper", field: "ohms", kind: "relative", sigma: 0.1 },
            { element: "lower", field: "ohms", kind: "relative", sigma: 0.1 },
          ],
        },
        { id: "stop", targets: [{ element: "lower", field: "ohms", kind: "relative", sigma: 0.04 }] },
        { id: "pull", targets: [{ element: "pull", field: "ohms", kind: "relative", sigma: 0.05 }] },
        { id: "wiper", targets: [{ element: "wiper", field: "ohms", kind: "relative", sigma: 0.6 }] },
      ],
      faults: [
        {
          unit: "sensor",
          kind: "open",
          title: "Wiper open inside the sensor",
          severity: null,
          assign: () => [{ element: "wiper", field: "ohms", value: OPEN_OHMS }],
        },
        {
          unit: "sensor",
          kind: "dead",
          title: "Track broken at its reference end",
          severity: null,
          assign: () => [{ element: "upper", field: "ohms", value: OPEN_OHMS }],
        },
        {
          unit: "sensor",
          kind: "short",
          title: "Track shorted inside the sensor",
          severity: { key: "ohms", low: 0.5, high: 45 },
          assign: (ohms) => [{ element: "track-short", field: "ohms", value: ohms }],
        },
        {
          unit: "sensor",
          kind: "stuck-high",
          title: "Sensor stuck high",
          severity: { key: "severity", low: 0, high: 1 },
          assign: (severity) => at(clamp(0.72 + 0.27 * severity)),
        },
        {
          unit: "sensor",
          kind: "stuck-low",
          title: "Track broken at its ground end or wiper stuck low",
          severity: { key: "severity", low: 0, high: 1 },
          assign: (severity) => at(clamp(0.1 - 0.095 * severity)),
        },
        {
          unit: "sensor",
          kind: "skewed",
          title: "Sensor off its line",
          severity: { key: "severity", low: 0.1, high: 1 },
          twoWay: true,
          assign: (severity, position, direction) => at(clamp(share(position) + direction * 0.35 * severity)),
        },
        {
          unit: "sensor",
          kind: "noisy",
          title: "Worn track, drops out at one position",
          severity: { key: "ohms", low: 2e4, high: 1e7 },
          during: "sweep",
          assign: (ohms) => [{ element: "wiper", field: "ohms", value: ohms }],
        },
        ...referenceFaults(given.vref),
        ...(pulledUp ? [stageFault("pull", "missing", "Module pull-up missing", [{ element: "pull", field: "ohms", value: OPEN_OHMS }])] : []),
        moduleGroundOpen(),
        inputBlind(given.vref),
      ],
    };
  },
});
