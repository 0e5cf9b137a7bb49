import { z } from "zod";
import { interpolate, inverseCurve } from "../curve";
import { defineFamily, type World, type WorldValue } from "../family";
import { aboveFeed, high, limitA, low, ohmsParameter, range, transferSchema, vref } from "../parameters";
import { inputBlind, moduleGroundOpen, referenceFaults } from "../stages";

const INPUT_OHMS = 1e7;
/** Output resistance and supply load of an amplified bridge, ohms. */
const OUTPUT_OHMS = 150;
const SUPPLY_OHMS = 800;

const parameters = z
  .strictObject({
    vref,
    limitA,
    transfer: transferSchema
      .default([
        [20, 0.5],
        [110, 4.5],
      ])
      .describe("[[kPa, V at vref], ...]"),
    pulldown: ohmsParameter(1e3, 1e8).optional().describe("pull-down inside the module, ohm; 100000 unless a pull-up is given"),
    pullup: ohmsParameter(1e3, 1e8).optional(),
    pullupV: z.number().min(1).max(16).optional(),
    resistance: range,
    low,
    high,
  })
  .superRefine(aboveFeed);

function spread(from: number, to: number, count: number): WorldValue[] {
  const step = (to - from) / count;
  return Array.from({ length: count }, (_, index) => ({ value: from + (index + 0.5) * step, spread: 0.55 * step, weight: 1 }));
}

/** A manifold sensor sees the weather with the key on; any other pressure may be anywhere on its line. */
function worldOf(transfer: readonly (readonly [number, number])[]): World {
  const first = transfer[0]?.[0] ?? 0;
  const last = transfer.at(-1)?.[0] ?? 100;
  const manifold = first < 60 && last > 95 && last < 400;
  const width = last - first;
  return {
    quantity: "pressure",
    unit: "kPa",
    low: first,
    high: last,
    nominal: manifold ? 100 : first + 0.5 * width,
    normal: manifold
      ? [
          ...spread(76, 94, 2).map((value) => ({ ...value, weight: 0.5 })),
          { value: 99, spread: 3, weight: 4 },
          ...spread(first + 0.05 * width, 70, 3).map((value) => ({ ...value, weight: 0.4 })),
        ]
      : spread(first + 0.06 * width, last - 0.1 * width, 8),
    abnormal: manifold ? [] : [{ value: first, spread: 0.02 * width, weight: 1 }, ...spread(last - 0.1 * width, last + 0.05 * width, 2)],
    accuracy: 0.015 * width,
    settable: manifold ? [{ value: 50, how: "hand vacuum pump on its port, held at the gauge value", stimulus: { kind: "vacuum" }, minutes: 3 }] : [],
  };
}

/** Manifold, rail, oil, tank, refrigerant pressure: an amplified bridge, ratiometric to its reference. */
export const pressure3w = defineFamily({
  id: "pressure-3w",
  title: "Pressure sensor, three wires",
  summary: "An amplified bridge; the signal is a share of the reference that follows the pressure.",
  pins: ["ref", "sig", "gnd"],
  part: "Pressure sensor",
  parameters,
  build: (builder, given) => {
    const world = worldOf(given.transfer);
    const share = (kPa: number): number => Math.min(0.98, Math.max(0.01, interpolate(given.transfer, kPa) / given.vref));
    builder.supply("supply", builder.inside("ref"), given.vref, given.limitA);
    builder.add({ kind: "resistor", id: "input", a: builder.inside("sig"), b: builder.moduleGround, ohms: INPUT_OHMS });
    if (given.pullup !== undefined) {
      const rail = builder.node("rail");
      builder.supply("pull-supply", rail, given.pullupV ?? given.vref, given.limitA);
      builder.add({ kind: "resistor", id: "pull", a: rail, b: builder.inside("sig"), ohms: given.pullup });
    } else {
      builder.add({ kind: "resistor", id: "pull", a: builder.inside("sig"), b: builder.moduleGround, ohms: given.pulldown ?? 100_000 });
    }
    builder.add({ kind: "resistor", id: "low-side", a: builder.inside("gnd"), b: builder.moduleGround, ohms: 0.05 });
    builder.add({ kind: "resistor", id: "bridge", a: builder.part("ref"), b: builder.part("gnd"), ohms: SUPPLY_OHMS });
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
    const gain = (value: number) => [{ element: "output", field: "gain", value: Math.min(0.995, Math.max(0.001, value)) } as const];
    const inverse = inverseCurve(given.transfer);
    return {
      world,
      sensor: (kPa) => gain(share(kPa)),
      fullScaleVolts: given.vref,
      toWorld: (volts) => interpolate(inverse, volts),
      toVolts: (kPa) => interpolate(given.transfer, kPa),
      partOhms: [],
      tolerances: [
        { id: "reference", targets: [{ element: "supply", field: "volts", kind: "absolute", sigma: 0.012 * given.vref }] },
        { id: "sensor", targets: [{ element: "output", field: "gain", kind: "absolute", sigma: 0.008 }] },
        { id: "bridge", targets: [{ element: "bridge", field: "ohms", kind: "relative", sigma: 0.25 }] },
        { id: "pull", targets: [{ element: "pull", field: "ohms", kind: "relative", sigma: 0.05 }] },
      ],
      faults: [
        { unit: "sensor", kind: "dead", title: "Sensor output dead at ground", severity: null, assign: () => gain(0.002) },
        {
          unit: "sensor",
          kind: "open",
          title: "Sensor output open inside",
          severity: null,
          assign: () => [{ element: "output", field: "ohms", value: 1e9 }],
        },
        {
          unit: "sensor",
          kind: "short",
          title: "Sensor supply shorted inside",
          severity: { key: "ohms", low: 0.5, high: 45 },
          assign: (ohms) => [{ element: "bridge", field: "ohms", value: ohms }],
        },
        {
          unit: "sensor",
          kind: "stuck-high",
          title: "Sensor stuck high",
          severity: { key: "severity", low: 0, high: 1 },
          assign: (severity) => gain(0.86 + 0.13 * severity),
        },
        {
          unit: "sensor",
          kind: "stuck-low",
          title: "Sensor stuck low",
          severity: { key: "severity", low: 0, high: 1 },
          assign: (severity) => gain(0.13 - 0.12 * severity),
        },
        {
          unit: "sensor",
          kind: "skewed",
          title: "Sensor off its line",
          severity: { key: "severity", low: 0.1, high: 1 },
          twoWay: true,
          assign: (severity, kPa, direction) => gain(share(kPa) + direction * 0.4 * severity),
        },
        ...referenceFaults(given.vref),
        moduleGroundOpen(),
        inputBlind(given.vref),
      ],
    };
  },
});
