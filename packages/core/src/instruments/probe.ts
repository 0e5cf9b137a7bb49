import { BadInput, type METER_WORDS, type Measurement, type Meter, meterWords, type Setup } from "@fox-lamp/language";
import { type CircuitModel, circuitOf, elementName, MODULE_GROUND, type Model, type ModuleReading, pathOf, resolvePoint } from "../circuit";

/** Meters that can be computed from the circuit. */
export type ElectricalMeter = { [M in Meter]: (typeof METER_WORDS)[M] extends { readonly electrical: true } ? M : never }[Meter];

/** How a meter's AC range rectifies. */
export type AcKind = "true-rms" | "average-responding";

/** Which number of a recording speaks; `mean` for a plain reading. */
export type Statistic = "mean" | "min" | "max" | "swing";

/** A measurement with electrical leads resolved to nodes. */
export interface ElectricalProbe {
  readonly kind: "electrical";
  readonly meter: ElectricalMeter;
  readonly circuit: CircuitModel;
  readonly red: string;
  readonly black: string;
  readonly setup: Setup;
  readonly statistic: Statistic;
  /** An end of the module's converter was read: the level at its pin is predicted, which lies there or beyond. */
  readonly atEnd?: true;
  readonly ac: AcKind;
  /** A scope's input; `ac` takes away the level a signal rides on. */
  readonly coupling: "dc" | "ac";
  /** Full scale of the chosen range: above it OL shows; null for a meter that finds its own. */
  readonly range: number | null;
  /** Full scale of the range that suits the signal, volts: the chosen one, or the one the family needs; null where any does. */
  readonly fullScale: number | null;
  /** What the module makes of the pin, for a scan; null for meters, and for pins it reads as bare volts. */
  readonly reads: ModuleReading | null;
  /** Unit of a scan value; null for volts. */
  readonly unit: string | null;
  /** The conductor a clamp is around; null when the ammeter's leads are the path. */
  readonly clamp: string | null;
}

/** A measurement that can be computed, an observation that findings and clicks speak for, or the sensed quantity measured without the circuit. */
export type Probe =
  | ElectricalProbe
  | { readonly kind: "look"; readonly circuit: CircuitModel; readonly place: string; readonly setup: Setup }
  | { readonly kind: "gauge"; readonly circuit: CircuitModel; readonly setup: Setup }
  | { readonly kind: "listen"; readonly circuit: CircuitModel; readonly place: string; readonly setup: Setup };

/** Whether readings of this meter say something about a circuit's voltages. */
export function isElectrical(meter: Meter): meter is ElectricalMeter {
  return meterWords(meter).electrical;
}

/** Name of the element whose current makes a click; null for families without a coil. */
export function coilOf(circuit: CircuitModel): string | null {
  return circuit.built.faults.some(({ unit }) => unit === "coil") ? elementName(circuit.id, "coil") : null;
}

function scanProbe(model: Model, circuit: CircuitModel, measurement: Measurement, setup: Setup, statistic: Statistic, where: string): ElectricalProbe {
  const text = measurement.red.includes("@") ? measurement.red : `${measurement.red}@module`;
  const pin = /(?:^|:)([^:@]+)@/u.exec(text)?.[1];
  const owner = /^([^:@]+):/u.exec(text)?.[1];
  const watched = owner === undefined ? circuit : circuitOf(model, owner, `${where}.red`);
  const path = watched.paths.find((candidate) => candidate.pin === pin);
  if (path === undefined) {
    const pins = watched.pins.map((spec) => spec.pin).join(", ") || "none";
    throw new BadInput({
      code: "probe:scan-pin",
      where: `${where}.red`,
      message: `"${measurement.red}" is not a pin the module watches; expected one of ${pins}, such as sig@module`,
    });
  }
  if (!path.places.has("module")) {
    throw new BadInput({
      code: "probe:scan-pin",
      where: `${where}.red`,
      message: `the module does not see ${path.pin} of ${watched.id}; it does not pass the module`,
    });
  }
  const own = watched.built.reads.filter((candidate) => candidate.pin === path.pin);
  const unit = measurement.unit === undefined || measurement.unit === "V" ? null : measurement.unit;
  const reads = own.find(({ units }) => unit === null || units.includes(unit)) ?? null;
  if (unit !== null && reads === null) {
    const units = ["V", ...own.flatMap((candidate) => candidate.units)].join(" or ");
    throw new BadInput({ code: "probe:unit", where: `${where}.unit`, message: `"${unit}" is not a unit of ${watched.id}; expected ${units}` });
  }
  const minus = reads?.minus == null ? MODULE_GROUND : (pathOf(watched, reads.minus)?.inside ?? MODULE_GROUND);
  return {
    kind: "electrical",
    ac: "true-rms",
    coupling: "dc",
    range: null,
    fullScale: watched.built.rangeVolts ?? null,
    meter: "scan",
    circuit: watched,
    red: path.inside,
    black: minus,
    setup,
    statistic,
    reads,
    unit,
    clamp: null,
  };
}

/** Things that show whether the module counts a wheel's edges, and those that click. */
const SHOWS_COUNTING: readonly string[] = ["tachometer", "spark"];
const CLICKS: readonly string[] = ["relay"];

/** What is noticed, as the question it answers: whether the module counts, whether a coil clicks; null for what says nothing of this circuit. */
function noticed(model: Model, circuit: CircuitModel, measurement: Measurement, setup: Setup, where: string): Probe | null {
  const counted = circuit.built.reads.find(({ by, units }) => by === "counts" && units.includes("rpm"));
  if (counted !== undefined && SHOWS_COUNTING.includes(measurement.red)) {
    const { black: _black, ...rest } = measurement;
    return scanProbe(model, circuit, { ...rest, red: `${counted.pin}@module`, unit: "rpm" }, setup, "mean", where);
  }
  return coilOf(circuit) !== null && CLICKS.includes(measurement.red) ? { kind: "listen", circuit, place: "part", setup } : null;
}

/**
 * The conductor a clamp is put around at a point: the wire next to it.
 *
 * @throws BadInput for a point no wire runs at
 */
export function clampAt(model: Model, circuit: CircuitModel, red: string, where: string): string {
  const node = resolvePoint(model, red, circuit.id, where);
  for (const owner of model.circuits) {
    for (const { steps } of owner.paths) {
      const step = steps.find((candidate) => candidate.kind === "wire" && (candidate.inner === node || candidate.outer === node));
      if (step) return step.element;
    }
  }
  throw new BadInput({ code: "probe:clamp", where, message: `no wire runs at "${red}" for a clamp; expected a point on a wire, or a black lead` });
}

/** A setup in one spelling, however it was written: its key is said, its unplugged connectors say whose they are. */
function spelledOut({ key = "on", open = [], add = [], ...rest }: Setup, circuit: string): Setup {
  const owned = open.map((place) => (place === "module" || place.includes(":") ? place : `${circuit}:${place}`));
  const named = Object.entries(rest)
    .filter(([, value]) => value !== undefined)
    .sort(([a], [b]) => (a < b ? -1 : 1));
  return { key, ...(owned.length === 0 ? {} : { open: owned }), ...(add.length === 0 ? {} : { add }), ...Object.fromEntries(named) };
}

/**
 * Resolves a measurement's leads.
 *
 * @returns null for a meter that says nothing about voltages
 * @throws BadInput when a point, circuit, pin or place does not exist, or a lead is missing
 */
export function probeOf(model: Model, measurement: Measurement, where: string): Probe | null {
  const circuit = circuitOf(model, measurement.circuit, `${where}.circuit`);
  const setup = spelledOut(measurement.setup ?? {}, circuit.id);
  const { meter } = measurement;
  if (meter === "look" || meter === "listen") {
    return { kind: meter, circuit, place: measurement.red.split(":").at(-1) ?? measurement.red, setup };
  }
  if (meter === "gauge") {
    const { quantity, unit } = circuit.built.world;
    if (quantity === "temperature" || quantity === "pressure") return { kind: "gauge", circuit, setup };
    const message = `${circuit.id} senses no temperature or pressure that a gauge could show${unit === "" ? "" : ` (its unit is ${unit})`}`;
    throw new BadInput({ code: "probe:gauge", where: `${where}.meter`, message: `${message}; expected another meter` });
  }
  if (meter === "notice") return noticed(model, circuit, measurement, setup, where);
  if (!isElectrical(meter)) return null;
  const statistic: Statistic = measurement.record === undefined && meter !== "capture" ? "mean" : "swing";
  if (meter === "scan") return scanProbe(model, circuit, measurement, setup, statistic, where);
  const red = resolvePoint(model, measurement.red, circuit.id, `${where}.red`);
  const { ac = "true-rms", coupling = "dc", range = null } = measurement;
  const rest = {
    kind: "electrical",
    meter,
    circuit,
    setup,
    statistic,
    ac,
    coupling,
    range,
    fullScale: range ?? circuit.built.rangeVolts ?? null,
    reads: null,
    unit: null,
  } as const;
  if (measurement.black === undefined && meter !== "capture") {
    if (meter === "amps-dc") return { ...rest, red, black: red, clamp: clampAt(model, circuit, measurement.red, `${where}.red`) };
    throw new BadInput({ code: "probe:no-black", where: `${where}.black`, message: `meter ${meter} needs a black lead; expected a point such as bat-` });
  }
  const black = resolvePoint(model, measurement.black ?? "bat-", circuit.id, `${where}.black`);
  if (red === black) throw new BadInput({ code: "probe:same-point", where: `${where}.black`, message: `both leads are on ${measurement.red}` });
  return { ...rest, red, black, clamp: null };
}
