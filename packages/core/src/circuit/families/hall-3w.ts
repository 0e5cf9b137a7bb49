import { z } from "zod";
import { OPEN_OHMS } from "../../network";
import { HAND_RPM } from "../engine";
import { defineFamily, type FamilyFault, steady, switching, type World } from "../family";
import { duty, limitA, ohmsParameter, pullup, pullupV, range, wheel, wheelCheck, wheelHertz, wheelOf } from "../parameters";
import type { PinSpec } from "../pins";
import { unsaidPull } from "../pull";
import {
  inputDeaf,
  moduleGroundFaults,
  ohmsTolerance,
  partFault,
  pullStage,
  readsCounts,
  set,
  supplyFaults,
  supplyTolerance,
  unsaid,
  unsureOf,
  voltsTolerance,
} from "../stages";
import { conductingOhms, conductingTolerances } from "../transistor";
import { familyName } from "./names";

const parameters = z
  .strictObject({
    feedV: z.number().min(4).max(16).default(5).describe("feed, V: under 10 V it comes from the module, else from the switched battery supply"),
    limitA,
    output: z.enum(["pull-down", "source"]).default("pull-down").describe("pull-down: the sensor grounds the module's signal; source: it raises it"),
    pullup: pullup(2200),
    pullupV: pullupV(5),
    pulldown: ohmsParameter(100, 1e6).default(10_000).describe("pull-down inside the module under a sourcing output, ohm"),
    ...wheel,
    duty: duty(50),
    resistance: range,
  })
  .superRefine(wheelCheck);

/** What the sensor draws, as a share of its feed at 8 mA; the supply it needs. */
const DRAW_AMPS = 0.008;
const LEAST_SHARE = 0.65;
const LEAST_VOLTS = 3.8;
const USUAL_PULSES = 12;

/** Nothing is measured against a feed of 8 or 9 V: modules hold it within so much, a share for 95 of 100. */
const FEED_SPREAD = 0.05;
/** A feed of the battery is the switched supply itself; a lower one is made by the module. */
const fromBattery = (feedV: number): boolean => feedV > 10.5;

/** Feeds and lines that are met, volts, with how often; a line is not pulled higher than the feed. */
const FEEDS = [
  { value: 5, weight: 0.5 },
  { value: 12, weight: 0.38 },
  { value: 8, weight: 0.12 },
];
const LINES = [
  { volts: 5, weight: 0.75 },
  { volts: 12, weight: 0.1 },
  { volts: 9.8, weight: 0.08 },
  { volts: 8, weight: 0.07 },
];

const WORLD: World = {
  quantity: "level",
  unit: "",
  low: 0,
  high: 1,
  nominal: 1,
  normal: [
    { value: 0, weight: 1, spread: 0 },
    { value: 1, weight: 1, spread: 0 },
  ],
  abnormal: [],
  accuracy: 0,
  settable: [
    { value: 1, how: "with the output switched off (move steel or turn by hand until it changes)", stimulus: { kind: "steel" }, minutes: 1 },
    { value: 0, how: "with the output conducting", stimulus: { kind: "steel" }, minutes: 1 },
  ],
  forced: ({ turning }, setup) => (turning || setup.stimulus?.kind === "hand-turn" ? { value: 1, spread: 0 } : null),
};

/** Crank, cam, wheel speed, digital: a transistor that switches the module's signal. */
export const hall3w = defineFamily({
  ...familyName("hall-3w"),
  summary: "A transistor in the sensor switches the signal as teeth pass; it needs its feed.",
  pins: ["feed", "sig", "gnd"],
  traits: { kind: "wheel" },
  parameters,
  referenceParameter: "feedV",
  alternatives: (silent, given) => {
    const feeds = silent("feedV") ? FEEDS : [{ value: Number(given["feedV"]), weight: 1 }];
    if (!silent("pullupV") || given["output"] === "source")
      return silent("feedV") ? feeds.map(({ value, weight }) => ({ with: { feedV: value }, weight })) : [];
    return feeds.flatMap(({ value: feedV, weight }) => {
      const pulls = LINES.filter(({ volts }) => volts <= Math.max(5, feedV + 0.5));
      const total = pulls.reduce((sum, line) => sum + line.weight, 0);
      return pulls.map((line) => ({ with: { ...(silent("feedV") ? { feedV } : {}), pullupV: line.volts }, weight: (weight * line.weight) / total }));
    });
  },
  wiring: (given): readonly PinSpec[] => [
    { pin: "feed", role: "feed", origin: fromBattery(given.feedV) ? "fuse" : "module" },
    { pin: "sig", role: "signal", origin: "module" },
    { pin: "gnd", role: "ground", origin: "module" },
  ],
  build: (builder, given) => {
    const own = !fromBattery(given.feedV);
    const sources = given.output === "source";
    if (own) builder.reference("supply", "feed", given.feedV, given.limitA);
    const pull = pullStage(builder, "sig", {
      pullup: sources ? undefined : given.pullup,
      pullupV: given.pullupV,
      pulldown: given.pulldown,
      limitA: given.limitA,
    });
    builder.lowReference("gnd");
    const load = given.feedV / DRAW_AMPS;
    builder.electronics("load", builder.part("feed"), builder.part("gnd"), load);
    builder.resistor("output", builder.part("sig"), sources ? builder.part("feed") : builder.part("gnd"), OPEN_OHMS, {
      plus: builder.part("feed"),
      minus: builder.part("gnd"),
      leastVolts: Math.min(LEAST_VOLTS, LEAST_SHARE * given.feedV),
    });
    const swingVolts = sources ? given.feedV : given.pullupV;
    const output = (ohms: number) => set("output", "ohms", ohms);
    const conducting = conductingOhms(sources ? given.pulldown : given.pullup, swingVolts);
    const at = (level: number) => output(level > 0.5 === sources ? conducting : OPEN_OHMS);
    const hertzAt = (rpm: number): number => wheelHertz(given, rpm, USUAL_PULSES);
    // One vane a turn or a hundred slots; windows from a few per cent to nearly all of the time.
    const unsure = unsureOf(builder, 1.2, ["perRev", "teeth"], 0.2);
    const still =
      (level: number): FamilyFault["assign"] =>
      () =>
        at(level);
    return {
      world: WORLD,
      drive: ({ engine, setup, world }) => {
        if (engine.turning) return { ...switching(at(1), at(0), given.duty / 100, hertzAt(engine.rpm), 0.06), wheel: wheelOf(given, USUAL_PULSES), ...unsure };
        if (setup.stimulus?.kind === "hand-turn") return { ...switching(at(1), at(0), given.duty / 100, hertzAt(HAND_RPM), 0.5), ...unsure };
        return steady(at(world));
      },
      fullScaleVolts: swingVolts,
      reads: [readsCounts("sig", null, 0.45 * swingVolts)],
      watched: [{ setup: { key: "idle" }, red: builder.inside("sig"), black: builder.moduleGround, of: "swing", volts: 0.35 * swingVolts }],
      partOhms: [],
      tolerances: [
        ...(own && !builder.sharesPin("feed")
          ? [supplyTolerance("supply", given.feedV, builder.spread("feedV") ?? (given.feedV > 5.5 ? FEED_SPREAD * given.feedV : null))]
          : []),
        ...(sources ? [] : [supplyTolerance("pull-supply", given.pullupV, builder.spread("pullupV"))]),
        ohmsTolerance("pull", 0.04),
        ...unsaidPull(builder, ["pullup", "pulldown"]),
        ...(own && !builder.sharesPin("feed") ? unsaid(builder, ["feedV"], voltsTolerance("supply", 0.025 * given.feedV)) : []),
        ...(sources ? [] : unsaid(builder, ["pullupV"], voltsTolerance("pull-supply", 0.025 * given.pullupV))),
        ohmsTolerance("load", 0.45),
        ...conductingTolerances(builder, ["pullup", "pulldown"]),
      ],
      faults: [
        partFault("dead", "Sensor does not switch", output(OPEN_OHMS)),
        { unit: "sensor", kind: "stuck-low", title: "Output stuck low", severity: null, assign: still(0) },
        ...(sources ? [{ unit: "sensor", kind: "stuck-high", title: "Output stuck high", severity: null, assign: still(1) }] : []),
        {
          unit: "sensor",
          kind: "short",
          title: "Sensor supply shorted inside",
          severity: { key: "ohms", low: 0.5, high: 45 },
          assign: ({ severity }) => set("load", "ohms", severity),
        },
        {
          unit: "sensor",
          kind: "weak",
          title: "Output no longer switches fully",
          severity: { key: "ohms", low: 0.7 * (sources ? given.pulldown : given.pullup), high: 60 * (sources ? given.pulldown : given.pullup) },
          // It does not conduct wholly; or, the other way, it does not let go.
          twoWay: true,
          assign: ({ severity, moment, situation, direction }) => {
            const level = situation.engine.turning || situation.setup.stimulus?.kind === "hand-turn" ? (moment === 0 ? 1 : 0) : situation.world;
            const conducts = level > 0.5 === sources;
            return conducts === direction > 0 ? output(severity) : [];
          },
        },
        {
          unit: "outside",
          kind: "no-target",
          title: "Nothing moves past the sensor, or the gap is too wide",
          severity: null,
          twoWay: true,
          assign: ({ situation, direction }) => (situation.setup.stimulus?.kind === "steel" ? [] : at(direction > 0 ? 1 : 0)),
        },
        ...(own && !builder.sharesPin("feed") ? supplyFaults(given.feedV) : []),
        ...pull,
        ...moduleGroundFaults(builder, "gnd"),
        inputDeaf(),
      ],
    };
  },
});
