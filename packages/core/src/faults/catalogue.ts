import type { Pin } from "@fox-lamp/language";
import type { Assignment, CircuitModel, Model, PinPath, SeverityScale } from "../circuit";
import { nodesOf, OPEN_OHMS } from "../network";
import type { Fault, FaultEffect, FaultVariant } from "./fault";
import { materialOhms } from "./material";
import { priorWeight } from "./priors";

const ONE_WAY: readonly FaultVariant[] = [{ direction: 1, section: 0, weight: 1 }];
const TWO_WAYS: readonly FaultVariant[] = [
  { direction: 1, section: 0, weight: 0.5 },
  { direction: -1, section: 0, weight: 0.5 },
];
type Draft = Omit<Fault, "prior"> & { readonly weight: number };
type Ohms = { readonly low: number; readonly high: number };

function effect(assignments: readonly Assignment[]): FaultEffect {
  return { assignments, scanVolts: null };
}

function sections(path: PinPath): FaultVariant[] {
  const wires = path.steps.filter((step) => step.kind === "wire");
  return wires.map((_, section) => ({ direction: 1, section, weight: 1 / wires.length }));
}

/** Resistances from nothing to open that a connection can take, and that a chafe can have. */
const SERIES_OHMS: Ohms = { low: 5, high: 1e6 };
const SHUNT_OHMS: Ohms = { low: 0.05, high: 2e3 };

function wireFaults(model: Model, circuit: CircuitModel, path: PinPath): Draft[] {
  const unit = `${circuit.id}/wire:${path.pin}`;
  const variants = sections(path);
  const name = `${path.pin} wire`;
  const make = (kind: string, title: string, element: (section: number) => string, span: Ohms | null): Draft[] => {
    const build = (ohms: number, _world: number, variant: FaultVariant): FaultEffect =>
      effect([{ element: element(variant.section), field: "ohms", value: ohms }]);
    const material =
      span === null ? null : materialOhms(model, circuit, span, span === SERIES_OHMS, (ohms, world) => build(ohms, world, variants[0] as FaultVariant));
    const range = material ?? span;
    const severity: SeverityScale = range === null ? null : { key: "ohms", ...range };
    const shape = range === null ? (_: number, world: number, variant: FaultVariant) => build(OPEN_OHMS, world, variant) : build;
    const weight = priorWeight(`wire:${path.pin}`, kind);
    const matters = span === null || material !== null;
    return [{ id: `${unit}/${kind}`, unit, circuit: circuit.id, kind, title, severity, weight, matters, variants, during: null, effect: shape }];
  };
  return [
    ...make("open", `Break in the ${name}`, (section) => `wire:${path.pin}#${section}`, null),
    ...make("resistance", `Resistance in the ${name}`, (section) => `wire:${path.pin}#${section}`, SERIES_OHMS),
    ...make("short-ground", `${name} chafed to ground`, (section) => `short-ground:${path.pin}#${section}`, SHUNT_OHMS),
    ...make("short-battery", `${name} touching battery`, (section) => `short-battery:${path.pin}#${section}`, SHUNT_OHMS),
    ...circuit.paths.flatMap((other) => {
      if (!ownsPair(path.pin, other.pin, circuit)) return [];
      const [first, second] = circuit.family.pins.indexOf(path.pin) < circuit.family.pins.indexOf(other.pin) ? [path, other] : [other, path];
      return make(`short-to:${other.pin}`, `${name} touching the ${other.pin} wire`, (section) => `short:${first.pin}:${second.pin}#${section}`, SHUNT_OHMS);
    }),
  ];
}

/** A short between two wires is listed once: under the signal wire where it takes part, else under the first pin. */
function ownsPair(pin: Pin, other: Pin, circuit: CircuitModel): boolean {
  if (pin === other) return false;
  if (pin.startsWith("sig") !== other.startsWith("sig")) return pin.startsWith("sig");
  return circuit.family.pins.indexOf(pin) < circuit.family.pins.indexOf(other);
}

function contactFaults(model: Model, circuit: CircuitModel, path: PinPath): Draft[] {
  return path.steps.flatMap((step): Draft[] => {
    if (step.kind !== "contact") return [];
    const { place } = step;
    const local = `contact:${path.pin}@${place}`;
    const unit = `${circuit.id}/${local}`;
    const where = place === "sensor" ? "at the sensor" : place === "module" ? "at the module" : `at ${place}`;
    const set = (ohms: number): FaultEffect => effect([{ element: local, field: "ohms", value: ohms }]);
    const material = materialOhms(model, circuit, SERIES_OHMS, true, set);
    const range = material ?? SERIES_OHMS;
    const base = { unit, circuit: circuit.id, during: null, variants: ONE_WAY, matters: material !== null };
    const drafts: Draft[] = [
      {
        ...base,
        id: `${unit}/open`,
        kind: "open",
        title: `${path.pin} contact ${where} open`,
        severity: null,
        weight: priorWeight(local, "open"),
        matters: true,
        effect: () => set(OPEN_OHMS),
      },
    ];
    drafts.push({
      ...base,
      id: `${unit}/corroded`,
      kind: "corroded",
      title: `${path.pin} contact ${where} corroded`,
      severity: { key: "ohms", ...range },
      weight: priorWeight(local, "corroded"),
      effect: set,
    });
    const loose = { low: Math.max(1e3, range.low), high: 1e8 };
    drafts.push({
      ...base,
      id: `${unit}/loose`,
      kind: "loose",
      title: `${path.pin} contact ${where} loose`,
      severity: { key: "ohms", low: Math.min(loose.low * 10, 1e6), high: loose.high },
      weight: priorWeight(local, "loose"),
      variants: ONE_WAY,
      during: { kind: "wiggle", at: place },
      effect: set,
    });
    return drafts;
  });
}

function familyFaults(circuit: CircuitModel): Draft[] {
  return circuit.built.faults.map((fault): Draft => {
    const unit = `${circuit.id}/${fault.unit}`;
    const variants = fault.twoWay ? TWO_WAYS : ONE_WAY;
    return {
      id: `${unit}/${fault.kind}`,
      unit,
      circuit: circuit.id,
      kind: fault.kind,
      title: fault.title,
      severity: fault.severity,
      weight: priorWeight(fault.unit, fault.kind),
      matters: true,
      variants,
      during: fault.during === undefined ? null : { kind: fault.during, at: null },
      effect: (severity, world, variant) => ({
        assignments: fault.assign(severity, world, variant.direction),
        scanVolts: fault.scanVolts?.(severity) ?? null,
      }),
    };
  });
}

function trueValue(circuit: CircuitModel): Draft[] {
  const unit = `${circuit.id}/outside`;
  const title = "The value is true; the cause lies outside the circuit";
  if (circuit.built.world.abnormal.length === 0) return [];
  return [
    {
      id: `${unit}/true-value`,
      unit,
      circuit: circuit.id,
      kind: "true-value",
      title,
      severity: null,
      weight: priorWeight("outside", "true-value"),
      matters: true,
      variants: ONE_WAY,
      during: null,
      effect: () => effect([]),
    },
  ];
}

function carFaults(model: Model): Draft[] {
  const engineUsed = model.network.elements.some(
    (element) => element.id !== "car/ground:engine" && !element.id.includes("/short") && nodesOf(element).includes("engine"),
  );
  const draft = (unit: string, kind: string, title: string, severity: SeverityScale, change: (severity: number) => Assignment): Draft => ({
    id: `car/${unit}/${kind}`,
    unit: `car/${unit}`,
    circuit: "car",
    kind,
    title,
    severity,
    weight: priorWeight(unit, kind),
    matters: true,
    variants: ONE_WAY,
    during: null,
    effect: (value) => effect([change(value)]),
  });
  return [
    draft("battery", "weak", "Battery weak", { key: "severity", low: 0.1, high: 1 }, (severity) => ({
      element: "car/battery",
      field: "volts",
      value: 11.6 - 4.5 * severity,
    })),
    draft("ground:chassis", "dirty", "Chassis ground dirty", { key: "ohms", low: 0.3, high: 8 }, (ohms) => ({
      element: "car/ground:chassis",
      field: "ohms",
      value: ohms,
    })),
    {
      ...draft("ground:engine", "dirty", "Engine ground dirty", { key: "ohms", low: 0.3, high: 8 }, (ohms) => ({
        element: "car/ground:engine",
        field: "ohms",
        value: ohms,
      })),
      matters: engineUsed,
    },
  ];
}

/**
 * Every fault of a model's circuits. The lowest severity of a resistance is the least that moves the module's value
 * noticeably; a fault that never does is kept with `matters: false`. Priors sum to one over the faults that matter.
 */
export function faultsOf(model: Model): Fault[] {
  const drafts = [
    ...model.circuits.flatMap((circuit) => [
      ...circuit.paths.flatMap((path) => [...wireFaults(model, circuit, path), ...contactFaults(model, circuit, path)]),
      ...familyFaults(circuit),
      ...trueValue(circuit),
    ]),
    ...carFaults(model),
  ];
  const total = drafts.reduce((sum, draft) => sum + (draft.matters ? draft.weight : 0), 0);
  return drafts.map(({ weight, ...draft }) => ({ ...draft, prior: draft.matters ? weight / total : 0 }));
}
