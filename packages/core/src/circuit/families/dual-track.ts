import type { Pin } from "@fox-lamp/language";
import { z } from "zod";
import { OPEN_OHMS } from "../../network";
import { interpolate, inverseCurve } from "../curve";
import { type Alternative, defineFamily, type FaultUse, steady } from "../family";
import { aboveFeed, high, limitA, low, ohmsParameter, range, transferSchema, vref } from "../parameters";
import type { PinSpec } from "../pins";
import { crossed, heldUpAlternatives, unsaidPull } from "../pull";
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
  supplyTolerance,
  unsaid,
} from "../stages";
import { HELD_WORLD, PERCENT_OF, percentAlternatives, percentShown, trackAt, WIPER_OHMS } from "../track";
import { familyName } from "./names";

const parameters = z
  .strictObject({
    vref,
    limitA,
    wires: z
      .union([z.literal(4), z.literal(6)])
      .default(6)
      .describe("4: both tracks share reference and ground; 6: each has its own"),
    percentOf: PERCENT_OF,
    track: ohmsParameter(50, 1e6).default(2000).describe("each track, ohm"),
    ratio: z.number().positive().optional().describe("volts of the first track over the second, where that is known (2 or 0.5 for half slope)"),
    opposed: z
      .boolean()
      .default(true)
      .describe("second track: true where it falls as the first rises, both summing to the reference; false where it has half the slope"),
    transfer: transferSchema
      .default([
        [0, 0.8],
        [100, 4.2],
      ])
      .describe("line of the first track: % and V at the reference, point by point"),
    pulldown: ohmsParameter(1e3, 1e8).default(220_000).describe("weak pull of each signal inside the module, ohm"),
    heldUp: z
      .enum(["none", "first", "second", "both"])
      .default("none")
      .describe("which signals the module holds up rather than down when they are open: none, first, second or both"),
    resistance: range,
    low,
    high,
  })
  .superRefine((given, context) => {
    aboveFeed(given, context);
    const top = Math.max(...given.transfer.map(([, volts]) => volts)) / (ratioOf(given) ?? 1);
    if (top <= given.vref) return;
    context.addIssue({ code: "custom", path: ["ratio"], message: `the second track would reach ${top} V, above the ${given.vref} V that feed it` });
  });

/** Volts of the first track over the second where the sheet says no more than that it has half the slope. */
const HALF_SLOPE = 2;

/** Volts of the first track over the second; null where they are opposed. */
function ratioOf({ ratio, opposed }: { readonly ratio?: number | undefined; readonly opposed: boolean }): number | null {
  return ratio ?? (opposed ? null : HALF_SLOPE);
}

/** A second track is opposed on some sensors and has half the slope on others: both are met where the sheet says neither. */
function slopeAlternatives(silent: (parameter: string) => boolean): readonly Alternative[] {
  if (!silent("ratio") || !silent("opposed")) return [];
  return [
    { with: { opposed: true }, weight: 0.55 },
    { with: { opposed: false }, weight: 0.45 },
  ];
}

/** Pins of the two tracks. */
function tracksOf(wires: 4 | 6): readonly { readonly n: 1 | 2; readonly ref: Pin; readonly sig: Pin; readonly gnd: Pin }[] {
  return wires === 4
    ? [
        { n: 1, ref: "ref", sig: "sig1", gnd: "gnd" },
        { n: 2, ref: "ref", sig: "sig2", gnd: "gnd" },
      ]
    : [
        { n: 1, ref: "ref1", sig: "sig1", gnd: "gnd1" },
        { n: 2, ref: "ref2", sig: "sig2", gnd: "gnd2" },
      ];
}

function wiring(given: { wires: 4 | 6 }): readonly PinSpec[] {
  const spec = (pin: Pin, role: PinSpec["role"]): PinSpec => ({ pin, role, origin: "module" });
  if (given.wires === 4) return [spec("ref", "reference"), spec("sig1", "signal"), spec("sig2", "signal"), spec("gnd", "ground")];
  return tracksOf(6).flatMap(({ ref, sig, gnd }) => [spec(ref, "reference"), spec(sig, "signal"), spec(gnd, "ground")]);
}

/** Pedal and electronic throttle: two tracks that check each other. */
export const dualTrack = defineFamily({
  ...familyName("dual-track"),
  summary: "Two tracks, opposed or at half slope; the module believes them while they agree.",
  pins: ["ref", "ref1", "sig1", "gnd", "gnd1", "ref2", "sig2", "gnd2"],
  traits: { kind: "track" },
  parameters,
  referenceParameter: "vref",
  alternatives: (silent) => crossed(slopeAlternatives(silent), crossed(percentAlternatives(silent), heldUpAlternatives(silent))),
  wiring,
  build: (builder, given) => {
    const tracks = tracksOf(given.wires);
    const six = given.wires === 6;
    const ratio = ratioOf(given);
    const firstOf = (position: number): number => interpolate(given.transfer, position);
    const secondOf = (slope: number | null, position: number): number => (slope === null ? given.vref - firstOf(position) : firstOf(position) / slope);
    const voltsOf = (n: number, position: number): number => (n === 1 ? firstOf(position) : secondOf(ratio, position));
    const clamp = (fraction: number): number => Math.min(0.995, Math.max(0.005, fraction));
    const share = (n: number, position: number): number => clamp(voltsOf(n, position) / given.vref);
    const inverse = inverseCurve(given.transfer);
    for (const { n, ref, sig, gnd } of tracks) {
      if (six || n === 1) {
        builder.reference(n === 1 ? "supply" : "supply2", ref, given.vref, given.limitA);
        builder.lowReference(gnd, n === 1 ? "low-side" : "low-side2");
      }
      const up = given.heldUp === "both" || given.heldUp === (n === 1 ? "first" : "second");
      const pullup = up ? given.pulldown : undefined;
      pullStage(builder, sig, { pullup, pullupV: given.vref, pulldown: given.pulldown, limitA: given.limitA }, n === 1 ? "pull" : "pull2");
      const wiper = builder.node(`wiper${n}`);
      builder.resistor(`upper${n}`, builder.part(ref), wiper, given.track * 0.5);
      builder.resistor(`lower${n}`, wiper, builder.part(gnd), given.track * 0.5);
      builder.resistor(`wiper${n}`, wiper, builder.part(sig), WIPER_OHMS);
      builder.resistor(`track-short${n}`, builder.part(ref), builder.part(gnd), Number.POSITIVE_INFINITY);
    }
    const both = (position: number) => tracks.flatMap(({ n }) => trackAt(String(n), given.track, share(n, position)));
    const one = (part: number, fraction: number) => trackAt(String(part + 1), given.track, clamp(fraction));
    const nominal = ({ situation, part }: FaultUse): number => share(part + 1, situation.world);
    // The second track of a look-alike goes as the first, at half its slope, or the other way: two of these are not ours.
    const foreign = [ratio === 1 ? 2 : 1, ratio === null ? 2 : null] as const;
    return {
      world: HELD_WORLD,
      drive: ({ world }) => steady(both(world)),
      fullScaleVolts: given.vref,
      // Where a pedal's or plate's sweep begins and ends: both tracks move together.
      ...(builder.origin("transfer") === "family" ? { stretch: 0.09, shift: 4.5 } : {}),
      reads: tracks.map(({ n, sig }) => ({
        ...readsVolts(
          sig,
          "%",
          (volts) => interpolate(inverse, n === 1 ? volts : ratio === null ? given.vref - volts : volts * ratio),
          (position) => voltsOf(n, position),
        ),
        ...percentShown(given),
      })),
      watched: tracks.map(({ sig }) => ({ setup: {}, red: builder.inside(sig), black: builder.moduleGround, of: "mean" as const, volts: 0.05 * given.vref })),
      partOhms: tracks.flatMap(({ ref, sig, gnd }) => (ref === "ref" && sig === "sig2" ? [[sig, gnd] as const] : [[ref, gnd] as const, [sig, gnd] as const])),
      tolerances: [
        ...referenceTolerance(builder, tracks[0]?.ref ?? "ref", given.vref),
        ...(six && !builder.sharesPin("ref2") ? [supplyTolerance("supply2", given.vref, builder.spread("vref"))] : []),
        ...tracks.flatMap(({ n }) => [
          {
            id: `track${n}`,
            targets: [
              { element: `upper${n}`, field: "ohms", kind: "relative", sigma: 0.1 } as const,
              { element: `lower${n}`, field: "ohms", kind: "relative", sigma: 0.1 } as const,
            ],
          },
          ohmsTolerance(`lower${n}`, Math.max(0.025, lineShare(builder))),
          ...unsaid(builder, ["track", "resistance"], {
            id: `track${n}`,
            targets: [
              { element: `upper${n}`, field: "ohms", kind: "relative", sigma: 0.5 },
              { element: `lower${n}`, field: "ohms", kind: "relative", sigma: 0.5 },
            ],
          }),
          ohmsTolerance(`wiper${n}`, 0.6),
        ]),
        ...unsaidPull(builder, ["pulldown"], ["pull", "pull2"]),
      ],
      faults: [
        { ...partFault("open", "Wiper open inside the sensor", []), parts: 2, assign: ({ part }) => set(`wiper${part + 1}`, "ohms", OPEN_OHMS) },
        { ...partFault("dead", "Track broken at its reference end", []), parts: 2, assign: ({ part }) => set(`upper${part + 1}`, "ohms", OPEN_OHMS) },
        {
          unit: "sensor",
          kind: "short",
          title: "Track shorted inside the sensor",
          severity: { key: "ohms", low: 0.5, high: 45 },
          parts: 2,
          assign: ({ severity, part }) => set(`track-short${part + 1}`, "ohms", severity),
        },
        {
          unit: "sensor",
          kind: "stuck-high",
          title: "One track stuck high",
          severity: { key: "severity", low: 0, high: 1 },
          parts: 2,
          assign: ({ severity, part }) => one(part, 0.45 + 0.54 * severity),
        },
        {
          unit: "sensor",
          kind: "stuck-low",
          title: "One track stuck low or broken at its ground end",
          severity: { key: "severity", low: 0, high: 1 },
          parts: 2,
          assign: ({ severity, part }) => one(part, 0.45 - 0.445 * severity),
        },
        {
          unit: "sensor",
          kind: "skewed",
          title: "One track off its line",
          severity: { key: "severity", low: 0.1, high: 1 },
          twoWay: true,
          parts: 2,
          assign: (use) => one(use.part, nominal(use) + use.direction * 0.35 * use.severity),
        },
        {
          unit: "sensor",
          kind: "wrong-variant",
          title: "Sensor of another variant fitted: its second track goes otherwise",
          severity: null,
          parts: 2,
          assign: ({ situation, part }) => one(1, secondOf(foreign[part] ?? null, situation.world) / given.vref),
        },
        {
          unit: "sensor",
          kind: "noisy",
          title: "Worn track, drops out at one position",
          severity: { key: "ohms", low: 2e4, high: 1e7 },
          parts: 2,
          during: "sweep",
          assign: ({ severity, part }) => set(`wiper${part + 1}`, "ohms", severity),
        },
        ...referenceFaults(builder, tracks[0]?.ref ?? "ref", given.vref),
        ...moduleGroundFaults(builder, tracks[0]?.gnd ?? "gnd"),
        inputBlind(given.vref),
      ],
    };
  },
});
