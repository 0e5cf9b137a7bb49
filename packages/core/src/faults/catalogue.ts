import type { FoundBefore } from "@fox-lamp/language";
import { type Assignment, type CircuitModel, CONTACT_OHMS, type FamilyFault, type Model, type PinPath, type SeverityScale } from "../circuit";
import { OPEN_OHMS } from "../network";
import { lazy } from "../numeric";
import { bridgedFaults } from "./bridged";
import { carFaults } from "./car-faults";
import { crossedFaults } from "./crossed";
import type { Draft } from "./draft";
import { type Fault, type FaultVariant, PLAIN_VARIANT } from "./fault";
import type { Hint } from "./hints";
import { type Learnt, learntOf } from "./learnt";
import { type Effect, Notice, noticedOhms, noticedShare, seenAtOpenPlug, seenAtWork } from "./notice";
import { priorWeight } from "./priors";
import { isUnplugged } from "./unplugged";

type Ohms = { readonly low: number; readonly high: number };

const ONE_WAY: readonly FaultVariant[] = [PLAIN_VARIANT];
const ALWAYS = { constant: true, noticedFrom: null, during: null, scanVolts: null, hertzFactor: null } as const;

/** Everything a circuit's faults are made from. */
interface Workbench {
  readonly circuit: CircuitModel;
  readonly notice: Notice;
  /** The same of what a meter sees at the open plug, and at work. */
  readonly open: () => Notice;
  readonly work: () => Notice;
  readonly hints: readonly Hint[];
}

function ohmsAt(element: string, ohms: number): readonly Assignment[] {
  return [{ element, field: "ohms", value: ohms }];
}

function sections(path: PinPath): FaultVariant[] {
  const wires = path.steps.filter((step) => step.kind === "wire");
  return wires.map((_, section) => ({ direction: 1, section, weight: 1 / wires.length }));
}

/** Resistances from nothing to open that a connection can take, and that a chafe can have. */
const SERIES_OHMS: Ohms = { low: 0.3, high: 1e6 };
/** A line that carries current hurts from here on, long before the module notices: a lamp dims, a ground rises. */
const HURTS_OHMS = 4;

/**
 * What a part makes by itself is small current: megohms in its line leave enough of it for the module. An ohmmeter finds a tenth of what the module
 * misses it by; ten times as much is open.
 */
const OWN_SIGNAL_OHMS: Ohms = { low: SERIES_OHMS.low, high: 1e8 };
const FOUND_SHARE = 0.1;

function makesItsSignal({ family }: CircuitModel): boolean {
  return family.traits.alternating === true;
}

/** The resistances a connection of a circuit is tried with. */
function seriesSpan(circuit: CircuitModel): Ohms {
  return makesItsSignal(circuit) ? OWN_SIGNAL_OHMS : SERIES_OHMS;
}

/** How rarer damage is met that nobody notices, against the same where it is noticed. */
const QUIET_WEIGHT = 0.15;

/**
 * The resistances in series with a pin that are somebody's complaint, or would be found by a meter: along the wire, by a lamp at the open plug, by what
 * drops at work; null where nobody ever notices. What a module holds its signal by differs from maker to maker: there a bad connection counts as one up
 * to any ohms. A lamp at the open plug stands before what is in that plug: only what drops at work shows it.
 *
 * @param place of a contact; "wire" between them. The plugs of sensor and module are opened to measure, and are then no longer in the way of the current
 */
function seriesRange(noticed: Ohms | null, { circuit, work }: Workbench, { role }: PinPath, effect: (ohms: number) => Effect, place: string): Ohms | null {
  if (noticed === null || role === "shield") return noticed;
  const own = makesItsSignal(circuit);
  const inPlug = place === "sensor" || place === "module";
  if (own || role === "signal") {
    const seen = own ? FOUND_SHARE * noticed.low : noticed.low;
    return {
      low: inPlug ? seen : Math.min(seen, HURTS_OHMS),
      high: own ? Math.min(noticed.high, noticed.low / FOUND_SHARE) : SERIES_OHMS.high,
    };
  }
  const hurts = place === "sensor" ? noticed.low : HURTS_OHMS;
  const dropped = noticedOhms(work(), { low: SERIES_OHMS.low, high: Math.max(HURTS_OHMS, hurts) }, true, effect);
  return { ...noticed, low: Math.min(noticed.low, dropped?.low ?? hurts) };
}

/**
 * How much of the bad contacts of a feed or a ground comes to somebody's notice: what is too slight in the sensor's plug for any meter is as common as
 * elsewhere, and nobody's complaint.
 */
function shareFound(range: Ohms, { circuit }: Workbench, { role }: PinPath): number {
  if (role === "signal" || makesItsSignal(circuit) || range.low <= HURTS_OHMS) return 1;
  return Math.log(range.high / range.low) / Math.log(range.high / HURTS_OHMS);
}

/** A line along which less than {@link HURTS_OHMS} drop too much carries amperes: usually a bad connection there has up to so many ohms; more burns open. */
const HEAVY_OHMS = 100;

/** From which ohms on, and up to which, a bad connection is usually met, where less and more are met as well. */
function usualOhms(noticed: Ohms | null, range: Ohms | null, { circuit }: Workbench, { role }: PinPath): { usualFrom?: number; usualTo?: number } {
  if (noticed === null || range === null) return {};
  if (makesItsSignal(circuit)) return { usualFrom: noticed.low };
  if (role === "signal") {
    return { ...(range.low < noticed.low ? { usualFrom: noticed.low } : {}), ...(noticed.high < SERIES_OHMS.high ? { usualTo: noticed.high } : {}) };
  }
  return range.low < HURTS_OHMS && HEAVY_OHMS < range.high ? { usualTo: HEAVY_OHMS } : {};
}

const SHUNT_OHMS: Ohms = { low: 0.05, high: 2e3 };
/**
 * Water and green in a plug or splice let a signal leak through far more than a chafe; usually it is a chafe. A line that is held by little shows it at the
 * open plug up to these ohms.
 */
const LEAK_OHMS: Ohms = { low: SHUNT_OHMS.low, high: 3e4 };
const MOST_LEAK_OHMS = 3e5;
/** A heater's control wire on ground holds the line down while its driver is off, against a heater of some ohms. */
const HELD_DOWN_OHMS: Ohms = { low: SHUNT_OHMS.low, high: 4 };

function isHeldDown(kind: string, { role }: PinPath): boolean {
  return kind === "short-ground" && role === "heater-control";
}

/** A loose contact that shows is mostly open: air, not ohms. */
const LOOSE_OPEN_OHMS = 1e7;
const LOOSE_MOST_OHMS = 1e9;

/** What leaks from a signal, as far as somebody notices it or a meter at the open plug shows it. */
function leakRange(noticed: Ohms, { open }: Workbench, effect: (ohms: number) => Effect): Ohms {
  const seen = noticedOhms(open(), { low: LEAK_OHMS.low, high: MOST_LEAK_OHMS }, false, effect);
  return { low: noticed.low, high: Math.max(noticed.high, Math.min(seen?.high ?? 0, MOST_LEAK_OHMS)) };
}

function wireFaults(bench: Workbench, path: PinPath): Draft[] {
  const { circuit, notice, hints } = bench;
  const unit = `${circuit.id}/wire:${path.pin}`;
  const variants = sections(path);
  if (variants.length === 0) return [];
  const name = `${path.pin} wire`;
  const make = (kind: string, title: string, element: (section: number) => string, span: Ohms | null): Draft[] => {
    const effect =
      (ohms: number): Effect =>
      () =>
        ohmsAt(element(0), ohms);
    const series = span === seriesSpan(circuit);
    const noticed = span === null ? null : noticedOhms(notice, span, series, effect);
    const found = span === LEAK_OHMS && noticed !== null ? leakRange(noticed, bench, effect) : noticed;
    const range = (series ? seriesRange(noticed, bench, path, effect, "wire") : found) ?? (isHeldDown(kind, path) ? HELD_DOWN_OHMS : span);
    const noticeable = span === null ? notice.notices(() => ohmsAt(element(0), OPEN_OHMS)) : noticed !== null;
    // One side of a floating pair on ground or on battery is nobody's complaint, and yet a meter finds it. A heater that is never switched off heats: its
    // module alone minds.
    const onlyFound = (path.role === "signal" && (kind === "short-ground" || kind === "short-battery")) || isHeldDown(kind, path);
    const quiet = !noticeable && onlyFound;
    // A module watches what it feeds: too much there sets its code, though the sensor may live with it.
    const watched = kind === "short-battery" && path.origin === "module" && (path.role === "reference" || path.role === "feed");
    return [
      {
        ...ALWAYS,
        id: `${unit}/${kind}`,
        unit,
        circuit: circuit.id,
        kind,
        title,
        severity: range === null ? null : { key: "ohms", ...range },
        noticedFrom: series ? (noticed?.low ?? null) : null,
        ...(series ? usualOhms(noticed, range, bench, path) : {}),
        ...(range !== null && span === LEAK_OHMS && range.high > SHUNT_OHMS.high && range.low < SHUNT_OHMS.high ? { usualTo: SHUNT_OHMS.high } : {}),
        weight: (quiet ? QUIET_WEIGHT : 1) * priorWeight(`wire:${path.pin}`, kind, hints),
        matters: noticeable || quiet || watched,
        ...(quiet ? { unnoticed: true as const } : {}),
        variants,
        effect: (ohms, _situation, variant) => ohmsAt(element(variant.section), range === null ? OPEN_OHMS : ohms),
      },
    ];
  };
  const leak = path.role === "signal" ? LEAK_OHMS : SHUNT_OHMS;
  return [
    ...make("open", `Break in the ${name}`, (section) => `wire:${path.pin}#${section}`, null),
    ...make("resistance", `Resistance in the ${name}`, (section) => `wire:${path.pin}#${section}`, seriesSpan(circuit)),
    ...make("short-ground", `${name} chafed to ground`, (section) => `short-ground:${path.pin}#${section}`, leak),
    ...make("short-battery", `${name} touching battery`, (section) => `short-battery:${path.pin}#${section}`, leak),
    ...circuit.paths.flatMap((other) => {
      if (!ownsPair(path, other, circuit)) return [];
      const [first, second] = circuit.paths.indexOf(path) < circuit.paths.indexOf(other) ? [path, other] : [other, path];
      return make(`short-to:${other.pin}`, `${name} touching the ${other.pin} wire`, (section) => `short:${first.pin}:${second.pin}#${section}`, leak);
    }),
  ];
}

/** A short between two wires is listed once: under the signal wire where one takes part, else under the first pin. */
function ownsPair(path: PinPath, other: PinPath, circuit: CircuitModel): boolean {
  const wired = (one: PinPath): boolean => one.steps.some((step) => step.kind === "wire");
  if (path === other || !wired(other)) return false;
  if ((path.role === "signal") !== (other.role === "signal")) return path.role === "signal";
  return circuit.paths.indexOf(path) < circuit.paths.indexOf(other);
}

function contactFaults(bench: Workbench, path: PinPath): Draft[] {
  const { circuit, notice, hints } = bench;
  return path.steps.flatMap((step): Draft[] => {
    if (step.kind !== "contact") return [];
    const { place } = step;
    const local = `contact:${path.pin}@${place}`;
    const unit = `${circuit.id}/${local}`;
    const where = place === "sensor" ? "at the sensor" : place === "module" ? "at the module" : `at ${place}`;
    const at =
      (ohms: number): Effect =>
      () =>
        ohmsAt(local, ohms);
    const noticed = noticedOhms(notice, seriesSpan(circuit), true, at);
    const range = seriesRange(noticed, bench, path, at, place) ?? seriesSpan(circuit);
    const base = { ...ALWAYS, unit, circuit: circuit.id, variants: ONE_WAY, effect: (ohms: number) => ohmsAt(local, ohms) };
    const weight = (kind: string): number => priorWeight(local, kind, hints);
    return [
      {
        ...base,
        id: `${unit}/open`,
        kind: "open",
        title: `${path.pin} contact ${where} open`,
        severity: null,
        weight: weight("open"),
        matters: notice.notices(() => ohmsAt(local, OPEN_OHMS)),
        effect: () => ohmsAt(local, OPEN_OHMS),
      },
      {
        ...base,
        id: `${unit}/corroded`,
        kind: "corroded",
        title: `${path.pin} contact ${where} corroded`,
        severity: { key: "ohms", ...range },
        noticedFrom: noticed?.low ?? null,
        ...usualOhms(noticed, range, bench, path),
        weight: weight("corroded") * shareFound(range, bench, path),
        matters: noticed !== null,
      },
      {
        ...base,
        id: `${unit}/loose`,
        kind: "loose",
        title: `${path.pin} contact ${where} loose`,
        severity: { key: "ohms", low: Math.min(10 * Math.max(1e3, range.low), 1e6), high: LOOSE_MOST_OHMS },
        usualFrom: LOOSE_OPEN_OHMS,
        weight: weight("loose"),
        matters: noticed !== null,
        during: { kind: "wiggle", at: place },
      },
    ];
  });
}

/** The feed of what is needed to start, from the ignition switch: one of its contacts may open just while it cranks. */
function crankingFaults({ circuit, hints }: Workbench): Draft[] {
  if (circuit.family.traits.kind !== "wheel") return [];
  return circuit.paths.flatMap((path): Draft[] => {
    const wire = path.steps.find(({ kind }) => kind === "wire");
    if (path.role !== "feed" || path.origin !== "fuse" || wire === undefined) return [];
    const unit = `${circuit.id}/wire:${path.pin}`;
    return [
      {
        ...ALWAYS,
        id: `${unit}/cranking`,
        unit,
        circuit: circuit.id,
        kind: "cranking",
        title: `${path.pin} missing while cranking: ignition switch or relay`,
        severity: null,
        weight: priorWeight(`wire:${path.pin}`, "cranking", hints),
        matters: true,
        variants: ONE_WAY,
        constant: false,
        effect: (_severity, { setup }) => (setup.key === "crank" ? ohmsAt(`wire:${path.pin}#0`, OPEN_OHMS) : []),
      },
    ];
  });
}

/** Neighbouring pins in each other's cavity of the sensor's connector. */
function swapFaults({ circuit, notice, hints }: Workbench): Draft[] {
  return circuit.paths.flatMap((path, index): Draft[] => {
    const next = circuit.paths[index + 1];
    if (!next?.places.has("part") || !path.places.has("part")) return [];
    const [one, other] = [path.pin, next.pin];
    const unit = `${circuit.id}/contact:${one}@sensor`;
    const crossed = (open: boolean): readonly Assignment[] => [
      ...[one, other].flatMap((pin) => ohmsAt(`contact:${pin}@sensor`, OPEN_OHMS)),
      ...[`swap:${one}:${other}`, `swap:${other}:${one}`].flatMap((element) => ohmsAt(element, open ? OPEN_OHMS : CONTACT_OHMS)),
    ];
    return [
      {
        ...ALWAYS,
        id: `${unit}/swapped:${other}`,
        unit,
        circuit: circuit.id,
        kind: `swapped:${other}`,
        title: `${one} and ${other} swapped in the sensor's connector`,
        severity: null,
        weight: priorWeight(`contact:${one}@sensor`, "swapped", hints),
        matters: notice.notices(() => crossed(false)),
        variants: ONE_WAY,
        constant: false,
        effect: (_severity, { setup }) => crossed(isUnplugged(setup, circuit.id)),
      },
    ];
  });
}

function variantsOf(fault: FamilyFault): readonly FaultVariant[] {
  const directions: readonly (1 | -1)[] = fault.twoWay ? [1, -1] : [1];
  const parts = fault.parts ?? 1;
  const weight = 1 / (directions.length * parts);
  return directions.flatMap((direction) => Array.from({ length: parts }, (_, section) => ({ direction, section, weight })));
}

/** The share from which on a fault of a part is somebody's complaint, whichever way it goes; null where any is, or what it does is not seen at a pin. */
function noticedFrom(notice: Notice, fault: FamilyFault, variants: readonly FaultVariant[]): number | null {
  if (fault.severity?.key !== "severity" || fault.during !== undefined || fault.scanVolts !== undefined || fault.hertzFactor !== undefined) return null;
  const span = fault.severity;
  const shares = variants.map(({ direction, section }) =>
    noticedShare(notice, span, (severity) => (situation, moment) => fault.assign({ severity, situation, direction, part: section, moment })),
  );
  const noticed = shares.filter((share) => share !== null);
  return noticed.length < shares.length ? null : Math.min(...noticed);
}

/** Faults of a family; one that is common to all circuits stands with the first that knows it. @param common those that stand already, filled */
function familyFaults({ circuit, notice, hints }: Workbench, common: Set<string>): Draft[] {
  const own = circuit.built.faults.filter((fault) => {
    const name = `${fault.unit}/${fault.kind}`;
    if (fault.common !== true) return true;
    if (common.has(name)) return false;
    common.add(name);
    return true;
  });
  return own.map((fault): Draft => {
    const unit = `${circuit.id}/${fault.unit}`;
    const variants = variantsOf(fault);
    return {
      id: `${unit}/${fault.kind}`,
      unit,
      circuit: circuit.id,
      kind: fault.kind,
      title: fault.title,
      severity: fault.severity,
      noticedFrom: noticedFrom(notice, fault, variants),
      weight: priorWeight(fault.unit, fault.kind, hints),
      matters: true,
      variants,
      during: fault.during === undefined ? null : { kind: fault.during, at: null },
      constant: false,
      effect: (severity, situation, { direction, section }, moment, before) => fault.assign({ severity, situation, direction, part: section, moment, before }),
      scanVolts: fault.scanVolts ?? null,
      hertzFactor: fault.hertzFactor ?? null,
    };
  });
}

function trueValue({ circuit, hints }: Workbench): Draft[] {
  if (circuit.built.world.abnormal.length === 0) return [];
  const unit = `${circuit.id}/outside`;
  return [
    {
      ...ALWAYS,
      id: `${unit}/true-value`,
      unit,
      circuit: circuit.id,
      kind: "true-value",
      title: "The value is true; the cause lies outside the circuit",
      severity: null satisfies SeverityScale,
      weight: priorWeight("outside", "true-value", hints),
      matters: true,
      variants: ONE_WAY,
      effect: () => [],
    },
  ];
}

/**
 * Every fault of a model's circuits. The lowest severity of a resistance is the least that somebody notices; a fault that
 * nobody ever does is kept with `matters: false`. Priors sum to one over the faults that matter.
 *
 * @param hints what is known of the car's life; shifts the priors
 * @param found what was found before on circuits of these families; shifts the priors within each circuit
 */
export function faultsOf(model: Model, hints: readonly Hint[] = [], found: readonly FoundBefore[] = []): Fault[] {
  const benches = model.circuits.map(
    (circuit): Workbench => ({
      circuit,
      notice: new Notice(model, circuit),
      open: lazy(() => new Notice(model, circuit, seenAtOpenPlug(circuit))),
      work: lazy(() => new Notice(model, circuit, seenAtWork(circuit))),
      hints,
    }),
  );
  const common = new Set<string>();
  const drafts = [
    ...benches.flatMap((bench) => [
      ...bench.circuit.paths.flatMap((path) => [...wireFaults(bench, path), ...contactFaults(bench, path)]),
      ...crankingFaults(bench),
      ...swapFaults(bench),
      ...bridgedFaults(bench),
      ...familyFaults(bench, common),
      ...trueValue(bench),
    ]),
    ...crossedFaults(model, hints),
    ...carFaults(model, hints),
  ];
  const total = drafts.reduce((sum, draft) => sum + (draft.matters ? draft.weight : 0), 0);
  const learnt = found.length === 0 ? new Map<string, Learnt>() : learntByUnit(model, drafts, found);
  return drafts.map(({ weight, ...draft }) => {
    const known = learnt.get(draft.unit);
    return { ...draft, prior: draft.matters ? (weight * (known?.factor ?? 1)) / total : 0, ...(known === undefined ? {} : { learnt: known }) };
  });
}

/** What was found before, by the units of a model. */
function learntByUnit(model: Model, drafts: readonly Draft[], found: readonly FoundBefore[]): Map<string, Learnt> {
  const all = new Map<string, Learnt>();
  for (const { id, family } of model.circuits) {
    const weights = new Map<string, number>();
    for (const draft of drafts) {
      if (draft.circuit !== id || !draft.matters) continue;
      const unit = draft.unit.slice(id.length + 1);
      weights.set(unit, (weights.get(unit) ?? 0) + draft.weight);
    }
    const own = learntOf(
      weights,
      found.filter((one) => one.family === family.id),
    );
    for (const [unit, learnt] of own) all.set(`${id}/${unit}`, learnt);
  }
  return all;
}
