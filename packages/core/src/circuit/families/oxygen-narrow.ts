import { knownValue } from "@fox-lamp/language";
import { z } from "zod";
import { OPEN_OHMS } from "../../network";
import { blownThrough, layDriver } from "../driver";
import { type Drive, defineFamily, type FaultUse, type Situation, steady, switching, type Watched, type World } from "../family";
import { limitA, middleOf, ohmsParameter, range, windowOf, windowSigma } from "../parameters";
import type { PinSpec } from "../pins";
import { unsaidPull } from "../pull";
import { INPUT_OHMS, inputBlind, moduleGroundFaults, ohmsTolerance, partFault, set, stageFault, unsaid } from "../stages";
import { familyName } from "./names";

const parameters = z.strictObject({
  wires: z
    .union([z.literal(1), z.literal(2), z.literal(3), z.literal(4)])
    .default(4)
    .describe("3 and 4 have a heater; 1 and 3 are grounded by their body"),
  biasV: z.number().min(0).max(5).default(0.45).describe("voltage the module holds the signal at, V; 0 for none"),
  pullup: ohmsParameter(1e4, 1e8).default(470_000).describe("resistor from the bias to the signal, ohm"),
  limitA,
  heater: windowOf(4, 8).describe("heater when cold, ohm [lo, hi]"),
  downstream: z.boolean().default(false).describe("behind the catalyst: steady instead of switching"),
  resistance: range,
});

/** What a hot cell makes, rich and lean, volts; its inner resistance hot and cold, ohms. */
const RICH_VOLTS = 0.85;
const LEAN_VOLTS = 0.12;
/** How far sound cells differ, standard deviations: both levels alike, volts, and each in proportion to itself. */
const CELL_OFFSET_VOLTS = 0.03;
const CELL_SPAN_SHARE = 0.075;
const DOWNSTREAM_VOLTS = 0.65;
/** A catalyst evens the mixture out, not quite: so far to both sides, volts, this often a second. */
const DOWNSTREAM_WANDER_VOLTS = 0.05;
const DOWNSTREAM_HERTZ = 0.15;
const HOT_OHMS = 3000;
const COLD_OHMS = 2e7;
/** A cell that goes cold at idle with its heater dead, ohms; the volts a sound heater needs to keep it hot; cells that the exhaust keeps hot without one. */
const UNHEATED_OHMS = 1e6;
const HEATING_VOLTS = 5;
const HOT_UNAIDED = 0.35;
const NEVER_VOLTS = 1e6;
/**
 * What warmth adds to a heater's cold resistance, as a share of it: half as much again to double with the engine running; with the key on alone anything
 * from nothing, in the first second, to the same.
 */
const WARM_SHARE = 0.75;
const WARM_SIGMA = 0.35;
const WARMING_SHARE = 0.5;
const WARMING_SIGMA = 0.5;
/** Warmth that is not there, ohms. */
const COLD_HEATER_OHMS = 1e-6;
const FULL_SCALE_VOLTS = 1;
/** Heaters and biases as they are met where the sheet says none; null is the usual one. */
const HEATERS: readonly { readonly ohms: [number, number] | null; readonly weight: number }[] = [
  { ohms: null, weight: 0.55 },
  { ohms: [2.5, 4], weight: 0.2 },
  { ohms: [8, 15], weight: 0.25 },
];
const BIASES: readonly { readonly volts: number | null; readonly weight: number }[] = [
  { volts: null, weight: 0.65 },
  { volts: 1.5, weight: 0.2 },
  { volts: 0, weight: 0.15 },
];

function worldOf(downstream: boolean): World {
  return {
    quantity: "level",
    unit: "",
    low: 0,
    high: 1,
    nominal: downstream ? 0.7 : 0.5,
    normal: [{ value: 0.5, weight: 1, spread: 0 }],
    abnormal: [],
    accuracy: 0.05,
    settable: [
      { value: 1, how: "enriched with a little fuel gas at the intake", stimulus: undefined, minutes: 3 },
      { value: 0, how: "leaned with a loosened vacuum hose", stimulus: undefined, minutes: 2 },
    ],
    forced: () => ({ value: 0.5, spread: 0 }),
  };
}

/** Zirconia cell before or behind the catalyst, with or without heater and ground wire. */
export const oxygenNarrow = defineFamily({
  ...familyName("oxygen-narrow"),
  summary: "A hot cell makes 0.1 to 0.9 V; cold, it shows the module's bias. The heater is a circuit of its own.",
  pins: ["sig", "gnd", "htr-feed", "htr-ctl"],
  traits: { kind: "mixture", recorded: true },
  parameters,
  alternatives: (silent, given) => {
    const heaters = Number(given["wires"] ?? 4) >= 3 && silent("heater") ? HEATERS : [{ ohms: null, weight: 1 }];
    const biases = silent("biasV") ? BIASES : [{ volts: null, weight: 1 }];
    if (heaters.length * biases.length < 2) return [];
    return heaters.flatMap((heater) =>
      biases.map((bias) => ({
        with: { ...(heater.ohms === null ? {} : { heater: heater.ohms }), ...(bias.volts === null ? {} : { biasV: bias.volts }) },
        weight: heater.weight * bias.weight,
      })),
    );
  },
  wiring: (given): readonly PinSpec[] => [
    { pin: "sig", role: "signal", origin: "module" },
    ...(given.wires === 2 || given.wires === 4 ? [{ pin: "gnd", role: "ground", origin: "module" } as const] : []),
    ...(given.wires >= 3
      ? ([
          { pin: "htr-feed", role: "heater-feed", origin: "fuse" },
          { pin: "htr-ctl", role: "heater-control", origin: "module" },
        ] as const)
      : []),
  ],
  build: (builder, given) => {
    const grounded = given.wires === 2 || given.wires === 4;
    const heated = given.wires >= 3;
    const biased = given.biasV > 0;
    const cellGround = grounded ? builder.part("gnd") : "engine";
    builder.resistor("input", builder.inside("sig"), builder.moduleGround, INPUT_OHMS);
    if (biased) {
      const rail = builder.node("rail");
      builder.supply("bias", rail, given.biasV * (1 + given.pullup / INPUT_OHMS), given.limitA);
      builder.resistor("pull", rail, builder.inside("sig"), given.pullup);
    } else {
      builder.resistor("pull", builder.inside("sig"), builder.moduleGround, given.pullup);
    }
    if (grounded) builder.lowReference("gnd");
    const cellPlus = heated ? builder.node("cell") : builder.part("sig");
    builder.add({ kind: "source", id: "cell", plus: cellPlus, minus: cellGround, volts: 0, ohms: COLD_OHMS });
    const heaterOhms = middleOf(given.heater);
    if (heated) {
      // Without its heater the cell cools, and what it shows drifts to the module's bias.
      builder.resistor("unheated", cellPlus, builder.part("sig"), UNHEATED_OHMS);
      const ends = [builder.part("htr-feed"), builder.part("htr-ctl")] as const;
      // A heater heats either way round.
      builder.resistor("heated", cellPlus, builder.part("sig"), 1, { plus: ends[0], minus: ends[1], leastVolts: HEATING_VOLTS, unaided: HOT_UNAIDED });
      builder.resistor("heated-back", cellPlus, builder.part("sig"), 1, { plus: ends[1], minus: ends[0], leastVolts: HEATING_VOLTS });
      const warm = builder.node("warm");
      const warmer = builder.node("warmer");
      builder.resistor("heater", builder.part("htr-feed"), warm, heaterOhms);
      builder.resistor("warmth", warm, warmer, COLD_HEATER_OHMS);
      builder.resistor("warming", warmer, builder.part("htr-ctl"), COLD_HEATER_OHMS);
    }
    const driver = heated ? layDriver(builder, "htr-ctl", "Module heater driver") : null;
    const driverOn = ({ engine }: Situation): boolean => engine.key === "on" || engine.running;
    const warmth = (running: number, keyOn: number) => [
      ...set("warmth", "ohms", Math.max(COLD_HEATER_OHMS, running)),
      ...set("warming", "ohms", Math.max(COLD_HEATER_OHMS, keyOn)),
    ];
    const heaterAt = (situation: Situation) =>
      driver !== null
        ? [
            ...warmth(
              situation.engine.running ? WARM_SHARE * heaterOhms : 0,
              driverOn(situation) && !situation.engine.running ? WARMING_SHARE * heaterOhms : 0,
            ),
            ...(driverOn(situation) ? driver.on : driver.off(situation.engine.key)),
          ]
        : [];
    const cell = (volts: number, ohms: number) => [...set("cell", "volts", volts), ...set("cell", "ohms", ohms)];
    const statedLevel = ({ setup }: Situation): number | null => {
      const stated = setup.truth?.level;
      const level = stated === undefined ? undefined : knownValue(stated);
      return level === undefined ? null : level === "high" ? 1 : level === "low" ? 0 : level;
    };
    const hot = (situation: Situation): boolean => situation.engine.running;
    const drive = (situation: Situation): Drive => {
      const heater = heaterAt(situation);
      if (!hot(situation)) return steady([...cell(0, COLD_OHMS), ...heater]);
      const level = statedLevel(situation);
      if (level !== null) return steady([...cell(LEAN_VOLTS + (RICH_VOLTS - LEAN_VOLTS) * level, HOT_OHMS), ...heater]);
      if (given.downstream) {
        const to = (sign: 1 | -1) => [...cell(DOWNSTREAM_VOLTS + sign * DOWNSTREAM_WANDER_VOLTS, HOT_OHMS), ...heater];
        return switching(to(1), to(-1), 0.5, DOWNSTREAM_HERTZ, 0.3);
      }
      const hertz = situation.engine.key === "rev" ? 1.5 : 0.9;
      return switching([...cell(RICH_VOLTS, HOT_OHMS), ...heater], [...cell(LEAN_VOLTS, HOT_OHMS), ...heater], 0.5, hertz, 0.3);
    };
    /** Pulls a hot cell's voltage towards another one. */
    const towards = (volts: number, share: (severity: number) => number) => (use: FaultUse) => {
      const now = drive(use.situation).moments[use.moment]?.assignments.find(({ element, field }) => element === "cell" && field === "volts");
      return now === undefined || !hot(use.situation) ? [] : set("cell", "volts", now.value + (volts - now.value) * share(use.severity));
    };
    const heaterOf = (ohms: number, leastVolts: number) => [
      ...set("heater", "ohms", ohms),
      ...warmth(0, 0),
      ...set("heated", "least", leastVolts),
      ...set("heated-back", "least", leastVolts),
    ];
    const always = (volts: number) => (use: FaultUse) => (hot(use.situation) ? cell(volts, HOT_OHMS) : []);
    const sigWatch = (of: "mean" | "swing", volts: number): Watched => ({
      setup: { key: "idle" },
      red: builder.inside("sig"),
      black: builder.moduleGround,
      of,
      volts,
    });
    return {
      world: worldOf(given.downstream),
      drive,
      fullScaleVolts: FULL_SCALE_VOLTS,
      reads: [{ pin: "sig", minus: null, by: "volts", units: [], toWorld: () => null, toValue: () => 0.45, leastSwing: 0 }],
      watched: [
        ...(given.downstream ? [] : [sigWatch("swing", 0.25)]),
        sigWatch("mean", 0.15),
        ...(biased
          ? [{ setup: {}, red: builder.inside("sig"), black: builder.moduleGround, of: "mean" as const, volts: 0.15 * Math.max(0.6, given.biasV) }]
          : []),
        ...(heated ? [{ setup: {}, red: builder.part("htr-feed"), black: builder.part("htr-ctl"), of: "mean" as const, volts: 1.5 }] : []),
      ],
      partOhms: heated ? [["htr-feed", "htr-ctl"]] : [],
      tolerances: [
        ...(biased ? [{ id: "bias", targets: [{ element: "bias", field: "volts", kind: "absolute", sigma: 0.03 * given.biasV } as const] }] : []),
        ohmsTolerance("pull", 0.05),
        ...unsaidPull(builder, ["pullup"]),
        // Rich 0.65 to 0.95 V, lean 0.03 to 0.2 V: an aged cell swings less, and from another level.
        { id: "cell", targets: [{ element: "cell", field: "volts", kind: "absolute", sigma: CELL_OFFSET_VOLTS }] },
        { id: "cell-span", targets: [{ element: "cell", field: "volts", kind: "relative", sigma: CELL_SPAN_SHARE }] },
        // A hot cell has hundreds of ohms, a cool or worn one thousands.
        { id: "cell-ohms", targets: [{ element: "cell", field: "ohms", kind: "relative", sigma: 0.7 }] },
        ...(heated ? [ohmsTolerance("unheated", 0.7)] : []),
        ...(driver?.tolerances ?? []),
        ...(heated ? unsaid(builder, ["heater"], ohmsTolerance("heater", 0.3)) : []),
        ...(heated ? [ohmsTolerance("warmth", WARM_SIGMA), ohmsTolerance("warming", WARMING_SIGMA)] : []),
        ...(heated ? [{ id: "heater", targets: [{ element: "heater", field: "ohms", kind: "relative", sigma: windowSigma(given.heater) } as const] }] : []),
      ],
      faults: [
        partFault("open", "Cell open inside", set("cell", "ohms", OPEN_OHMS)),
        {
          unit: "sensor",
          kind: "short",
          title: "Cell shorted inside",
          severity: { key: "ohms", low: 0.5, high: 400 },
          assign: ({ severity }) => cell(0, severity),
        },
        { unit: "sensor", kind: "stuck-high", title: "Cell stuck rich", severity: null, assign: always(0.82) },
        { unit: "sensor", kind: "stuck-low", title: "Cell stuck lean", severity: null, assign: always(0.1) },
        {
          unit: "sensor",
          kind: "weak",
          title: "Cell weak: contaminated or worn out",
          severity: { key: "severity", low: 0.5, high: 0.98 },
          assign: towards(0.42, (severity) => severity),
        },
        {
          unit: "sensor",
          kind: "slow",
          title: "Cell slow to switch",
          severity: { key: "severity", low: 0.3, high: 1 },
          assign: () => [],
          hertzFactor: (severity) => 1 / (1 + 7 * severity),
        },
        {
          unit: "outside",
          kind: "true-value",
          title: "The mixture really is off; the sensor tells the truth",
          severity: null,
          twoWay: true,
          assign: (use) => {
            if (!hot(use.situation) || statedLevel(use.situation) !== null) return [];
            return cell(use.direction > 0 ? RICH_VOLTS : LEAN_VOLTS, HOT_OHMS);
          },
        },
        ...(heated
          ? [
              { unit: "heater", kind: "open", title: "Heater open", severity: null, assign: () => heaterOf(OPEN_OHMS, NEVER_VOLTS) },
              {
                unit: "heater",
                kind: "short",
                title: "Heater shorted",
                severity: { key: "ohms" as const, low: 0.1, high: 0.3 * given.heater[0] },
                assign: ({ severity }: FaultUse) => [...set("heater", "ohms", severity), ...warmth(0, 0), ...blownThrough("htr-feed", severity)],
              },
              {
                unit: "heater",
                kind: "resistance",
                title: "Heater resistance too high",
                severity: { key: "ohms" as const, low: 2.5 * given.heater[1], high: 2e7 },
                // It heats by what it draws: at ten times the ohms it takes three times the volts.
                assign: ({ severity }: FaultUse) => heaterOf(severity, HEATING_VOLTS * Math.sqrt(severity / ((1 + WARM_SHARE) * heaterOhms))),
              },
            ]
          : []),
        ...(driver?.faults ?? []),
        ...(biased ? [stageFault("bias", "missing", "Module bias missing", [...set("bias", "volts", 0), ...set("bias", "ohms", 1e4)])] : []),
        ...(grounded ? moduleGroundFaults(builder, "gnd") : []),
        inputBlind(FULL_SCALE_VOLTS),
      ],
    };
  },
});
