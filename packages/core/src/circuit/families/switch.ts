import { z } from "zod";
import { OPEN_OHMS } from "../../network";
import { defineFamily, steady, type World } from "../family";
import { limitA, pullup, pullupV, range } from "../parameters";
import { unsaidPull } from "../pull";
import { inputBlind, moduleGroundFaults, ohmsTolerance, partFault, pullStage, readsVolts, set, supplyTolerance, unsaid, voltsTolerance } from "../stages";
import { familyName } from "./names";

const parameters = z.strictObject({
  pullup: pullup(10_000),
  pullupV: pullupV(5),
  limitA,
  resistance: range,
});

/** Some modules send ten milliamperes and more through a contact to keep it clean: their pull-up, ohms. */
const WETTED_OHMS = 1000;
/** What a clean switch has closed, ohms, and how far that differs: tenths of an ohm to some ten. */
const CLOSED_OHMS = 1;
const CLOSED_SPREAD = 1.1;

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
    { value: 1, how: "with the switch open", stimulus: undefined, minutes: 0.3 },
    { value: 0, how: "with the switch closed", stimulus: undefined, minutes: 0.3 },
  ],
};

/** A plain switch to the module's low reference. */
export const plainSwitch = defineFamily({
  ...familyName("switch"),
  summary: "The module's pull-up shows whether the switch is open (high) or closed (low).",
  pins: ["sig", "gnd"],
  traits: { kind: "contact" },
  parameters,
  alternatives: (silent) => {
    const usual = { with: {}, weight: 0.65 };
    if (!silent("pullup")) return silent("pullupV") ? [usual, { with: { pullupV: 12 }, weight: 0.35 }] : [];
    if (!silent("pullupV")) return [usual, { with: { pullup: WETTED_OHMS }, weight: 0.2 }];
    return [usual, { with: { pullupV: 12 }, weight: 0.25 }, { with: { pullupV: 12, pullup: WETTED_OHMS }, weight: 0.1 }];
  },
  wiring: [
    { pin: "sig", role: "signal", origin: "module" },
    { pin: "gnd", role: "ground", origin: "module" },
  ],
  build: (builder, given) => {
    const pull = pullStage(builder, "sig", { ...given, pulldown: 1e6 });
    builder.lowReference("gnd");
    const contact = (ohms: number) => set("switch", "ohms", ohms);
    builder.resistor("switch", builder.part("sig"), builder.part("gnd"), OPEN_OHMS);
    return {
      world: WORLD,
      drive: ({ world }) => steady(contact(world > 0.5 ? OPEN_OHMS : CLOSED_OHMS)),
      fullScaleVolts: given.pullupV,
      reads: [
        readsVolts(
          "sig",
          "",
          (volts) => (volts > 0.5 * given.pullupV ? 1 : 0),
          (level) => (level > 0.5 ? given.pullupV : 0),
        ),
      ],
      watched: [{ setup: {}, red: builder.inside("sig"), black: builder.moduleGround, of: "mean", volts: 0.35 * given.pullupV }],
      partOhms: [["sig", "gnd"]],
      tolerances: [
        supplyTolerance("pull-supply", given.pullupV, builder.spread("pullupV")),
        ohmsTolerance("switch", CLOSED_SPREAD),
        ohmsTolerance("pull", 0.04),
        ...unsaidPull(builder, ["pullup"]),
        ...unsaid(builder, ["pullupV"], voltsTolerance("pull-supply", 0.03 * given.pullupV)),
      ],
      faults: [
        partFault("open", "Switch never closes", contact(OPEN_OHMS)),
        {
          unit: "sensor",
          kind: "short",
          title: "Switch never opens",
          severity: { key: "ohms", low: 0.3, high: 0.4 * given.pullup },
          assign: ({ severity }) => contact(severity),
        },
        {
          unit: "sensor",
          kind: "weak",
          title: "Switch contact burnt, closes with resistance",
          severity: { key: "ohms", low: 30, high: 50 * given.pullup },
          assign: ({ severity, situation }) => (situation.world > 0.5 ? [] : contact(severity)),
        },
        ...pull,
        ...moduleGroundFaults(builder, "gnd"),
        inputBlind(given.pullupV),
      ],
    };
  },
});
