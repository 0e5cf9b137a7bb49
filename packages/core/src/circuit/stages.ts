import type { Pin } from "@fox-lamp/language";
import { OPEN_OHMS } from "../network";
import type { Assignment } from "./assignment";
import type { CircuitBuilder } from "./builder";
import type { Drive, FamilyFault, ModuleReading, SeverityScale, Tolerance } from "./family";

/** Input impedance of the module's converter, ohms. */
export const INPUT_OHMS = 1e7;

type Stage = "ref" | "gnd" | "pull" | "input" | "driver" | "bias";

/** A winding or a bead that parts when it is warm, some so wholly that an ohmmeter shows OL; under heat only. */
export const WARM_OPEN = { severity: { key: "ohms", low: 3e4, high: 1e9 }, during: "heat" } as const;

/** A module stage that is simply gone or set to something. */
export function stageFault(stage: Stage, kind: string, title: string, assignments: readonly Assignment[]): FamilyFault {
  return { unit: `module:${stage}`, kind, title, severity: null, assign: () => assignments };
}

/** One number of one element, as a list of one. */
export function set(element: string, field: Assignment["field"], value: number): readonly Assignment[] {
  return [{ element, field, value }];
}

/** A fault of the part itself, without a scale, that sets fixed numbers. */
export function partFault(kind: string, title: string, assignments: readonly Assignment[]): FamilyFault {
  return { unit: "sensor", kind, title, severity: null, assign: () => assignments };
}

/** From here on what the module draws lifts its ground by what nobody accepts, ohms; and up to where it still works. */
const MODULE_GROUND_BAD: SeverityScale = { key: "ohms", low: 0.03, high: 6 };

/**
 * The module's low reference has lost its way to ground inside, or the module itself hangs on a bad ground of its own: then all of its low references
 * lift together, on a body that does not. Nothing where the ground is shared or not the module's.
 */
export function moduleGroundFaults(builder: CircuitBuilder, pin: Pin, element = "low-side"): readonly FamilyFault[] {
  if (builder.sharesPin(pin)) return [];
  return [
    stageFault("gnd", "open", "Module low reference open inside", set(element, "ohms", OPEN_OHMS)),
    {
      unit: "module:gnd",
      kind: "resistance",
      title: "Module's own ground bad",
      severity: MODULE_GROUND_BAD,
      common: true,
      assign: ({ severity }) => set("car/module-ground", "ohms", severity),
    },
  ];
}

/** The module reports a fixed value whatever the pin does; severity is where between 0 and full scale it sticks. */
export function inputBlind(fullScaleVolts: number): FamilyFault {
  return {
    unit: "module:input",
    kind: "blind",
    title: "Module input blind",
    severity: { key: "severity", low: 0, high: 1 },
    assign: () => [],
    scanVolts: (severity) => fullScaleVolts * severity,
  };
}

/** The module sees no edges whatever the pin does. */
export function inputDeaf(): FamilyFault {
  return { unit: "module:input", kind: "blind", title: "Module input blind", severity: null, assign: () => [], scanVolts: () => 0 };
}

/** The reference inside the module is missing, or low by a share of its voltage. */
export function supplyFaults(volts: number, element = "supply"): readonly FamilyFault[] {
  return [
    stageFault("ref", "missing", "Module reference missing", [...set(element, "volts", 0), ...set(element, "ohms", 1e4)]),
    {
      unit: "module:ref",
      kind: "low",
      title: "Module reference low",
      severity: { key: "severity", low: 0.08, high: 0.9 },
      assign: ({ severity }) => set(element, "volts", volts * (1 - severity)),
    },
  ];
}

/** {@link supplyFaults} of a reference pin; none where the reference belongs to a bus. */
export function referenceFaults(builder: CircuitBuilder, pin: Pin, volts: number): readonly FamilyFault[] {
  return builder.sharesPin(pin) ? [] : supplyFaults(volts);
}

/** Spread of a reference's voltage; none where it belongs to a bus. */
export function referenceTolerance(builder: CircuitBuilder, pin: Pin, volts: number): readonly Tolerance[] {
  if (builder.sharesPin(pin)) return [];
  return [supplyTolerance("supply", volts, builder.spread("vref"))];
}

/** Spread of a supply's voltage. @param spread half of the stretch that holds 95 of 100, where the sheet says it, volts */
export function supplyTolerance(element: string, volts: number, spread: number | null = null): Tolerance {
  return voltsTolerance(element, spread === null ? 0.012 * volts : 0.5 * spread);
}

/** How far a line of the sheet may be off, as a share of what it shows: as the sheet says, else nothing more than the part's own spread. */
export function lineShare(builder: CircuitBuilder): number {
  return 0.5 * (builder.spread("transfer") ?? 0);
}

/** A spread that stands for a parameter the sheet leaves out; none where it states it. @param names the parameters it is about: any stated one will do */
export function unsaid(builder: CircuitBuilder, names: readonly string[], tolerance: Tolerance): readonly Tolerance[] {
  return names.some((name) => builder.origin(name) !== "family") ? [] : [{ ...tolerance, id: `${tolerance.id}?`, unsaid: names }];
}

/** Spread of the share of the time a signal is high, where the sheet does not say it. */
const DUTY_SPREAD = 0.17;

/**
 * What a sheet leaves open of a switching signal.
 * @param lnHertz spread of its rate where the sheet names no line or wheel; @param names parameters that say the rate
 */
export function unsureOf(builder: CircuitBuilder, lnHertz: number, names: readonly string[] = ["transfer"], dutySpread = DUTY_SPREAD): Pick<Drive, "unsure"> {
  const silent = (list: readonly string[]): boolean => list.every((name) => builder.origin(name) === "family");
  const [hertz, share] = [silent(names) ? lnHertz : 0, silent(["duty"]) ? dutySpread : 0];
  return hertz === 0 && share === 0 ? {} : { unsure: { hertz, share } };
}

/** A spread of one element's voltage, volts. */
export function voltsTolerance(element: string, sigma: number): Tolerance {
  return { id: element, targets: [{ element, field: "volts", kind: "absolute", sigma }] };
}

/** A relative spread of one element's resistance. */
export function ohmsTolerance(element: string, sigma: number): Tolerance {
  return { id: element, targets: [{ element, field: "ohms", kind: "relative", sigma }] };
}

/** The module's pull resistor on a signal: upwards from its own rail when `pullup` is given, else downwards. */
export function pullStage(
  builder: CircuitBuilder,
  pin: Pin,
  given: { pullup?: number | undefined; pullupV: number; pulldown: number; limitA: number },
  id = "pull",
): readonly FamilyFault[] {
  builder.resistor(id === "pull" ? "input" : `input-${pin}`, builder.inside(pin), builder.moduleGround, INPUT_OHMS);
  if (given.pullup === undefined) {
    builder.resistor(id, builder.inside(pin), builder.moduleGround, given.pulldown);
    return [];
  }
  const rail = builder.node(`rail-${id}`);
  builder.supply(`${id}-supply`, rail, given.pullupV, given.limitA);
  builder.resistor(id, rail, builder.inside(pin), given.pullup);
  return [
    stageFault("pull", "missing", "Module pull-up missing", set(id, "ohms", OPEN_OHMS)),
    {
      unit: "module:pull",
      kind: "low",
      title: "Module pull-up supply low",
      severity: { key: "severity", low: 0.1, high: 0.9 },
      assign: ({ severity }) => set(`${id}-supply`, "volts", given.pullupV * (1 - severity)),
    },
  ];
}

/** A signal the module reads as a level in volts. */
export function readsVolts(pin: Pin, unit: string, toWorld: (volts: number) => number | null, toVolts: (world: number) => number): ModuleReading {
  return { pin, minus: null, by: "volts", units: unit === "" ? [] : [unit], toWorld, toValue: toVolts, leastSwing: 0 };
}

/** The module's substitute for a level outside its thresholds; nothing where none is given. */
export function substituted(
  given: { substitute?: number | undefined; low?: number | undefined; high?: number | undefined },
  fullScaleVolts: number,
): Pick<ModuleReading, "substitute"> {
  if (given.substitute === undefined) return {};
  return { substitute: { belowVolts: given.low ?? 0.04 * fullScaleVolts, aboveVolts: given.high ?? 0.96 * fullScaleVolts, value: given.substitute } };
}

/** A signal whose edges the module counts to know the engine's speed. */
export function readsCounts(pin: Pin, minus: Pin | null, leastSwing: number): ModuleReading {
  return { pin, minus, by: "counts", units: ["rpm"], toWorld: () => null, toValue: () => 0, leastSwing };
}

/** A ring the module listens for: its data says whether it hears one. */
export function readsRing(pin: Pin, leastSwing: number): ModuleReading {
  return { pin, minus: null, by: "counts", units: ["taps"], toWorld: () => null, toValue: () => 0, leastSwing };
}
