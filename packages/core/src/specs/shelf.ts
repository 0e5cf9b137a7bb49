import {
  BadInput,
  type Known,
  knownValue,
  type Load,
  type Measurement,
  type Setup,
  type ShelfRecord,
  type SpecFile,
  type SpecKnown,
  type SpecLimit,
  type Truth,
  type Value,
  type Vehicle,
} from "@fox-lamp/language";
import { ANY_GROUND, buildModel, type CircuitModel, engineOf, familyById, type Model } from "../circuit";
import { consequenceOf, moreSpecific, type NamedLimit, specificity } from "./conflicts";
import { problemsOfCurve } from "./curves";
import { judgeLimit } from "./limits";
import { type LimitPoint, limitPoint } from "./point";
import { baseOf } from "./units";
import { type SpecWindow, windowOfLimit } from "./window";

/** A record judged by itself and by its family's usual circuit: why it cannot be, and faults a limit lets pass. */
export interface JudgedRecord {
  readonly problems: readonly { readonly code: string; readonly reason: string }[];
  readonly passes: readonly string[];
}

/** Judges records of a shelf; what several of them measure is worked out once. @throws BadInput for a family nobody knows */
export function judgeRecords(items: readonly ShelfRecord[]): JudgedRecord[] {
  const models = new Map<string, Model>();
  const points = new Map<string, LimitPoint>();
  const pointAt: typeof limitPoint = (model, circuit, measurement) => {
    const key = JSON.stringify([circuit.family.id, measurement]);
    const point = points.get(key) ?? limitPoint(model, circuit, measurement);
    points.set(key, point);
    return point;
  };
  const judged = ({ kind, record }: ShelfRecord): JudgedRecord => {
    const { family } = record;
    if (familyById(family) === null) throw new BadInput({ code: "spec:family", where: "family", message: `"${family}" is no family` });
    const model = models.get(family) ?? buildModel([{ id: "spec", family }]);
    models.set(family, model);
    const circuit = model.circuits[0] as CircuitModel;
    switch (kind) {
      case "limit": {
        const { problems, passed } = judgeLimit(model, circuit, record, pointAt);
        return { problems, passes: passed };
      }
      case "curve":
        return { problems: problemsOfCurve(circuit, record), passes: [] };
      case "variant":
        return { problems: [], passes: [] };
      case "known":
        return { problems: baseOf(record.unit) === null ? [{ code: "unit", reason: `"${record.unit}" is no unit` }] : [], passes: [] };
    }
  };
  return items.map(judged);
}

function same(a: string | undefined, b: string | undefined): boolean {
  return a === undefined || a.trim().toLowerCase() === (b ?? "").trim().toLowerCase();
}

/** Whether a record's vehicles hold this one: what it does not narrow fits all. */
export function fitsVehicle({ make, model, engine, years }: SpecLimit["vehicle"], vehicle: Vehicle): boolean {
  const inYears = years === undefined || (vehicle.year !== undefined && vehicle.year >= years[0] && vehicle.year <= years[1]);
  return same(make, vehicle.make) && same(model, vehicle.model) && same(engine, vehicle.engine) && inYears;
}

/** An engine speed differs from the one a limit is for by no more than this share. */
const NEAR_RPM = 0.15;
/** A known value differs from the one a limit is for by no more than this, degC, kPa or %. */
const NEAR = 3;

function truthMeets(wanted: Setup["truth"], given: Setup["truth"]): boolean {
  return (Object.entries(wanted ?? {}) as [keyof Truth, Known<number | string>][]).every(([name, value]) => {
    const stated = given?.[name] as Known<number | string> | undefined;
    const [want, have] = [knownValue(value), stated === undefined ? undefined : knownValue(stated)];
    return typeof want === "number" && typeof have === "number" ? Math.abs(want - have) <= NEAR : want === have;
  });
}

function stateMeets(wanted: Setup = {}, given: Setup = {}): boolean {
  const open = (setup: Setup): string => [...(setup.open ?? [])].sort().join(" ");
  const plainly = wanted.key === undefined || wanted.key === (given.key ?? "on");
  const added = JSON.stringify(wanted.add ?? []) === JSON.stringify(given.add ?? []);
  const stimulus = JSON.stringify(wanted.stimulus ?? null) === JSON.stringify(given.stimulus ?? null);
  const speed = wanted.rpm === undefined || Math.abs(engineOf(given).rpm - wanted.rpm) <= NEAR_RPM * wanted.rpm;
  return plainly && speed && open(wanted) === open(given) && added && stimulus && truthMeets(wanted.truth, given.truth);
}

/** Whether a limit is of this measurement on a circuit of this family; without a black lead it is of the pin against any ground. */
export function isOfMeasurement(
  limit: Pick<SpecLimit, "family" | "circuit" | "meter" | "red" | "black" | "setup">,
  family: string,
  { meter, red, black, setup, circuit }: Measurement,
): boolean {
  const ground = limit.black === undefined ? ANY_GROUND.test(black ?? "bat-") : limit.black === black;
  const leads = limit.red === red && ground;
  return limit.family === family && same(limit.circuit, circuit) && limit.meter === meter && leads && stateMeets(limit.setup, setup);
}

/** How hard the engine works in a state: nobody drives on the bench, and a snapped throttle is wide open for a moment. */
function loadIn({ stimulus }: Setup = {}): Load {
  return stimulus?.kind === "snap" ? "full" : "none";
}

/** Whether a limit's conditions hold where and how a measurement is taken. */
function conditionsMeet({ load, altitude }: Pick<SpecLimit, "load" | "altitude">, { setup }: Measurement, metres: number): boolean {
  return (load === undefined || load === loadIn(setup)) && (altitude === undefined || (metres >= altitude[0] && metres <= altitude[1]));
}

/** Limits of a measurement with their windows in base units, the one that is used first. @param altitudeMetres where the car stands */
export function limitsFor(
  limits: readonly NamedLimit[],
  family: string,
  vehicle: Vehicle,
  measurement: Measurement,
  altitudeMetres = 0,
): readonly (NamedLimit & { readonly window: SpecWindow })[] {
  const fitting = limits.filter(
    ({ limit }) => fitsVehicle(limit.vehicle, vehicle) && isOfMeasurement(limit, family, measurement) && conditionsMeet(limit, measurement, altitudeMetres),
  );
  const windowed = fitting.flatMap((named) => {
    const window = windowOfLimit(named.limit);
    return window === null ? [] : [{ ...named, window }];
  });
  return windowed.sort((a, b) => (moreSpecific(a, b) === a ? -1 : 1));
}

/** What sound cars read at a measurement, the more specific first. */
export function knownFor(known: readonly SpecKnown[], family: string, vehicle: Vehicle, measurement: Measurement, altitudeMetres = 0): readonly SpecKnown[] {
  const fits = (one: SpecKnown): boolean =>
    fitsVehicle(one.vehicle, vehicle) && isOfMeasurement(one, family, measurement) && conditionsMeet(one, measurement, altitudeMetres);
  return known.filter(fits).sort((a, b) => specificity(b) - specificity(a));
}

/** What a value comes to where several limits are of it: which it passes, which it fails; none where they all say the same of it. */
export function splitBy(value: Value, limits: ReturnType<typeof limitsFor>): { readonly passes: readonly string[]; readonly fails: readonly string[] } | null {
  if (typeof value !== "number") return null;
  const fits = ({ window: { low, high } }: (typeof limits)[number]): boolean => value >= low && value <= high;
  const passes = limits.filter(fits).map(({ name }) => name);
  const fails = limits.filter((one) => !fits(one)).map(({ name }) => name);
  return passes.length === 0 || fails.length === 0 ? null : { passes, fails };
}

/** What it means that two limits of one measurement do not say the same; null where they do. */
export function betweenLimits(a: NamedLimit & { readonly window: SpecWindow }, b: NamedLimit & { readonly window: SpecWindow }): string | null {
  if (a.window.unit !== b.window.unit || (a.window.low === b.window.low && a.window.high === b.window.high)) return null;
  return consequenceOf(a, b, a.window, b.window);
}

/** Every record of a file, with its kind. */
export function recordsOfFile({ limits, curves, variants, known }: SpecFile): ShelfRecord[] {
  return [
    ...limits.map((record) => ({ kind: "limit" as const, record })),
    ...curves.map((record) => ({ kind: "curve" as const, record })),
    ...variants.map((record) => ({ kind: "variant" as const, record })),
    ...known.map((record) => ({ kind: "known" as const, record })),
  ];
}

/** What makes two records the same thing said twice: everything but who entered it, when, and how sure they were. */
export function sameness({ kind, record }: ShelfRecord): string {
  const { id: _id, date: _date, by: _by, confidence: _confidence, ...rest } = record;
  const ordered = (value: unknown): unknown => {
    if (Array.isArray(value)) return value.map(ordered);
    if (typeof value !== "object" || value === null) return typeof value === "string" ? value.trim() : value;
    return Object.fromEntries(
      Object.entries(value)
        .filter(([, part]) => part !== undefined)
        .sort(([one], [other]) => one.localeCompare(other))
        .map(([name, part]) => [name, ordered(part)]),
    );
  };
  return JSON.stringify([kind, ordered(rest)]);
}
