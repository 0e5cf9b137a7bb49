import { z } from "zod";
import { OPEN_OHMS } from "../../network";
import { blownThrough, layDriver } from "../driver";
import { type Drive, defineFamily, type FaultUse, type Situation, steady, switching } from "../family";
import { duty, middleOf, windowOf, windowSigma } from "../parameters";
import { crossed } from "../pull";
import { ohmsTolerance, set, unsaid, unsureOf, WARM_OPEN } from "../stages";
import { NO_WORLD } from "../world";
import { familyName } from "./names";

const parameters = z.strictObject({
  feedV: z.number().min(8).max(16).default(12).describe("feed, V: the switched battery supply"),
  coil: windowOf(7, 13).describe("winding, ohm [lo, hi]"),
  duty: duty(50).describe("% of time the control wire is high (the winding off) while it is driven"),
  hertz: z.number().min(0).max(5000).default(120).describe("rate of the pulses, Hz; 0: switched on steadily"),
});

/** Windings as they are met where the sheet says none: phaser valves 4 to 14 ohm, purge and idle-air valves 15 to 40. */
const WINDINGS: readonly { readonly ohms: [number, number]; readonly weight: number }[] = [
  { ohms: [7, 13], weight: 0.42 },
  { ohms: [4, 7], weight: 0.13 },
  { ohms: [14, 25], weight: 0.25 },
  { ohms: [25, 40], weight: 0.2 },
];
/** Valves that are switched on and off and never pulsed, by the test function at least. */
const STEADY = 0.35;

/** Cam-phaser valve, purge, idle air: fed from the battery, the module switches the low side. */
export const solenoid2w = defineFamily({
  ...familyName("solenoid-2w"),
  summary: "Fed from the battery; the module pulls the other side low, often in pulses.",
  pins: ["feed", "ctl"],
  traits: { kind: "valve" },
  parameters,
  alternatives: (silent) =>
    crossed(
      silent("coil") ? WINDINGS.map(({ ohms, weight }) => ({ with: { coil: ohms }, weight })) : [],
      silent("hertz") && silent("duty")
        ? [
            { with: {}, weight: 1 - STEADY },
            { with: { hertz: 0 }, weight: STEADY },
          ]
        : [],
    ),
  wiring: [
    { pin: "feed", role: "feed", origin: "fuse" },
    { pin: "ctl", role: "control", origin: "module" },
  ],
  build: (builder, given) => {
    const coilOhms = middleOf(given.coil);
    builder.resistor("coil", builder.part("feed"), builder.part("ctl"), coilOhms);
    const driver = layDriver(builder, "ctl", "Module driver");
    const driven = ({ engine, setup }: Situation): boolean => setup.stimulus?.kind === "command" || engine.running;
    const drive = (situation: Situation): Drive => {
      const off = driver.off(situation.engine.key);
      if (!driven(situation)) return steady(off);
      return given.hertz === 0
        ? steady(driver.on)
        : { ...switching(off, driver.on, given.duty / 100, given.hertz, 0.02), ...unsureOf(builder, 0.7, ["hertz"], 0.27) };
    };
    const command = { stimulus: { kind: "command" as const } };
    const onShare = given.hertz === 0 ? 1 : 1 - given.duty / 100;
    return {
      world: NO_WORLD,
      drive,
      fullScaleVolts: given.feedV,
      reads: [],
      watched: [
        { setup: command, red: builder.part("feed"), black: builder.part("ctl"), of: "mean", volts: 0.15 * given.feedV * onShare },
        { setup: {}, red: builder.part("feed"), black: builder.part("ctl"), of: "mean", volts: 0.15 * given.feedV * onShare },
      ],
      partOhms: [["feed", "ctl"]],
      tolerances: [
        { id: "coil", targets: [{ element: "coil", field: "ohms", kind: "relative", sigma: windowSigma(given.coil) }] },
        ...driver.tolerances,
        ...unsaid(builder, ["coil"], ohmsTolerance("coil", 0.35)),
      ],
      faults: [
        { unit: "coil", kind: "open", title: "Winding open", severity: null, assign: () => set("coil", "ohms", OPEN_OHMS) },
        {
          unit: "coil",
          kind: "short",
          title: "Winding shorted",
          severity: { key: "ohms", low: 0.3, high: 0.4 * given.coil[0] },
          assign: ({ severity }: FaultUse) => [...set("coil", "ohms", severity), ...blownThrough("feed", severity)],
        },
        {
          unit: "coil",
          kind: "resistance",
          title: "Winding resistance too high",
          severity: { key: "ohms", low: 1.6 * given.coil[1], high: 2e7 },
          assign: ({ severity }: FaultUse) => set("coil", "ohms", severity),
        },
        {
          unit: "coil",
          kind: "hot",
          title: "Winding opens when warmed",
          ...WARM_OPEN,
          assign: ({ severity }: FaultUse) => set("coil", "ohms", severity),
        },
        ...driver.faults,
      ],
    };
  },
});
