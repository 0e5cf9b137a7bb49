import type { SpecLimit } from "@fox-lamp/language";
import { apart, type SpecWindow, windowOfLimit, windowWords } from "./window";

/** Two limits of the same reading that do not say the same. */
export interface SpecConflict {
  readonly limits: readonly [string, string];
  /** Their places among those that were compared. */
  readonly places: readonly [number, number];
  /** Whether no reading at all fits both. */
  readonly apart: boolean;
  /** The one that is used: the more specific, then the more certain source, then the newer. */
  readonly used: string;
  readonly consequence: string;
}

/** A limit with the name it goes by. */
export interface NamedLimit {
  readonly name: string;
  readonly limit: SpecLimit;
}

const CERTAIN: Readonly<Record<SpecLimit["source"]["kind"], number>> = { own: 3, document: 2, sister: 1, computed: 0 };

function meets<T>(a: T | undefined, b: T | undefined): boolean {
  return a === undefined || b === undefined || a === b;
}

function spansMeet(a: readonly [number, number] | undefined, b: readonly [number, number] | undefined): boolean {
  return a === undefined || b === undefined || (a[0] <= b[1] && b[0] <= a[1]);
}

function vehiclesMeet(a: SpecLimit["vehicle"], b: SpecLimit["vehicle"]): boolean {
  return meets(a.make, b.make) && meets(a.model, b.model) && meets(a.engine, b.engine) && spansMeet(a.years, b.years);
}

function sameReading(a: SpecLimit, b: SpecLimit): boolean {
  const state = ({ setup = {} }: SpecLimit): string => JSON.stringify(Object.entries(setup).sort(([one], [other]) => one.localeCompare(other)));
  const conditions = spansMeet(a.altitude, b.altitude) && meets(a.load, b.load);
  return (
    conditions && a.family === b.family && meets(a.circuit, b.circuit) && a.meter === b.meter && a.red === b.red && a.black === b.black && state(a) === state(b)
  );
}

/** How narrowly a limit says which vehicles it is of. */
export function specificity({ vehicle }: Pick<SpecLimit, "vehicle">): number {
  return [vehicle.make, vehicle.model, vehicle.engine, vehicle.years].filter((part) => part !== undefined).length;
}

/** How narrowly a limit says under which conditions it holds. */
function narrowness({ load, altitude }: SpecLimit): number {
  return (load === undefined ? 0 : 1) + (altitude === undefined ? 0 : 1);
}

/** The limit of two that is used. */
export function moreSpecific(a: NamedLimit, b: NamedLimit): NamedLimit {
  const by =
    specificity(a.limit) - specificity(b.limit) || narrowness(a.limit) - narrowness(b.limit) || CERTAIN[a.limit.source.kind] - CERTAIN[b.limit.source.kind];
  if (by !== 0) return by > 0 ? a : b;
  return (a.limit.date ?? "") >= (b.limit.date ?? "") ? a : b;
}

/** A reading that one window takes and the other does not. */
function between(a: SpecWindow, b: SpecWindow): number {
  const candidates = [a.low, a.high, b.low, b.high].filter(Number.isFinite);
  const width = Math.max(...candidates) - Math.min(...candidates) || 1;
  const fits = (value: number, { low, high }: SpecWindow): boolean => value >= low && value <= high;
  const tried = candidates.flatMap((value) => [value, value - 0.01 * width, value + 0.01 * width]);
  return tried.find((value) => fits(value, a) !== fits(value, b)) ?? (candidates[0] as number);
}

/** What it means that two limits do not say the same: a reading by which one passes and the other fails, or that none fits both. */
export function consequenceOf(a: NamedLimit, b: NamedLimit, one: SpecWindow, other: SpecWindow): string {
  if (apart(one, other)) return `no reading fits both: ${a.name} wants ${windowWords(one)}, ${b.name} wants ${windowWords(other)}`;
  const value = between(one, other);
  const [passes, fails] = value >= one.low && value <= one.high ? [a.name, b.name] : [b.name, a.name];
  return `a reading of ${Number(value.toPrecision(3))} ${one.unit} passes by ${passes} and fails by ${fails}`;
}

/** Every two limits that are of the same reading on the same vehicles, and do not say the same. */
export function conflictsIn(named: readonly NamedLimit[]): SpecConflict[] {
  return named.flatMap((a, index) =>
    named.slice(index + 1).flatMap((b, after): SpecConflict[] => {
      if (!vehiclesMeet(a.limit.vehicle, b.limit.vehicle) || !sameReading(a.limit, b.limit)) return [];
      const [one, other] = [windowOfLimit(a.limit), windowOfLimit(b.limit)];
      if (one === null || other === null || one.unit !== other.unit || (one.low === other.low && one.high === other.high)) return [];
      return [
        {
          limits: [a.name, b.name],
          places: [index, index + 1 + after],
          apart: apart(one, other),
          used: moreSpecific(a, b).name,
          consequence: consequenceOf(a, b, one, other),
        },
      ];
    }),
  );
}
