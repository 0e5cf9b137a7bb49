import { BadInput, type Measurement, type Reading } from "@fox-lamp/language";
import { type ElectricalProbe, isAlternating, isAmplitude, isAtEnd, type Probe, scaleOf, wordsOf } from "../../instruments";
import { measurementId } from "../../procedures";
import type { Observation } from "../likelihood/observation";
import type { PredictionTable } from "../predictions/table";
import { foundOff } from "./found-off";
import { movedEnds } from "./moved";

/**
 * Of the same measurement in the same state, the first ones and the latest weigh; what lies between tells nothing they do not. Of looks at
 * one place only the latest does: whoever looks again corrects what he saw, the green on a terminal is no second witness.
 */
const FIRST_REPEATS = 2;
const LAST_REPEATS = 4;

/** What readings of one measurement in one state share, wherever in its range a module's value lies. */
function repeatName({ key, reading, since }: Pick<SpeakingReading, "key" | "reading" | "since">): string {
  return `${key.replace(AT_END, "")} ${String(reading["symptom"])} ${since}`;
}

function withoutEndlessRepeats(resolved: readonly SpeakingReading[]): SpeakingReading[] {
  const groups = new Map<string, SpeakingReading[]>();
  for (const item of resolved) {
    const name = item.probe.kind === "look" ? `${item.key} ${item.since}` : repeatName(item);
    groups.set(name, [...(groups.get(name) ?? []), item]);
  }
  const kept = new Set(
    [...groups.values()].flatMap((items) => {
      if (items[0]?.probe.kind === "look") return items.slice(-1);
      // A word that repeats tells about the instrument, not about the part.
      if (isRepeatedWord(items)) return items.slice(-1);
      return items.length <= FIRST_REPEATS + LAST_REPEATS ? items : [...items.slice(0, FIRST_REPEATS), ...items.slice(-LAST_REPEATS)];
    }),
  );
  const again = new Set([...groups.values()].flatMap((items) => (items.length > 1 && isRepeatedWord(items) ? items.slice(-1) : [])));
  return resolved.filter((item) => kept.has(item)).map((item) => (again.has(item) ? { ...item, again: true } : item));
}

function isRepeatedWord(items: readonly { readonly value: number | string }[]): boolean {
  return items.every(({ value }) => typeof value === "string" && value === items[0]?.value);
}

/** Names the predictions of a measurement. */
export function predictionKey(probe: Probe, measurement: Measurement): string {
  return `${probe.circuit.id} ${measurementId(measurement)}`;
}

/** Marks the predictions of a level that was read at an end of the converter. */
const AT_END = "|end";

/** One thing a reading says. */
interface Spoken {
  readonly value: number | string;
  readonly probe: Probe;
  readonly suffix: "" | "|min" | "|max" | "|mean" | "|swing" | typeof AT_END;
  /** The same word was read before. */
  readonly again?: boolean;
}

/** What people notice, in the words of the instrument it stands for. */
const NOTICED: Readonly<Record<string, string>> = { moves: "counts", yes: "counts", still: "none", no: "none", clicks: "click", silent: "no-click" };

/** Ends of a DC meter's recording nearer than this are one level, volts. */
const LEAST_CAUGHT = 0.05;

/** What a reading says: itself, or the two ends of a recording. */
export function spoken(reading: Reading, probe: Probe): Spoken[] {
  const value = reading.meter === "notice" ? (NOTICED[String(reading.value)] ?? reading.value) : reading.value;
  if (typeof value !== "object" && reading.meter === "capture") {
    // A capture that is only named is a file, which is judged by itself; one number is the level it stands at.
    return typeof value === "number" && probe.kind === "electrical" ? [{ value, probe: { ...probe, statistic: "mean" }, suffix: "|mean" }] : [];
  }
  if (typeof value === "number" && probe.kind === "electrical" && isAtEnd(probe, value)) return [{ value, probe: { ...probe, atEnd: true }, suffix: AT_END }];
  if (typeof value !== "object") return [{ value, probe, suffix: "" }];
  if (probe.kind !== "electrical") return [];
  const recorded = probe.meter === "volts-dc" || probe.meter === "capture" || (probe.meter === "scan" && scaleOf(probe).axis === "volts");
  if (!recorded) return [{ value: value.avg ?? 0.5 * (value.min + value.max), probe: { ...probe, statistic: "mean" }, suffix: "|mean" }];
  if (isAmplitude({ ...probe, statistic: "swing" })) {
    // How large it is, and what it rides on: its ends by themselves would each have a size of their own.
    const level: Spoken[] =
      probe.coupling === "ac" ? [] : [{ value: value.avg ?? 0.5 * (value.min + value.max), probe: { ...probe, statistic: "mean" }, suffix: "|mean" }];
    return [{ value: value.max - value.min, probe: { ...probe, statistic: "swing" }, suffix: "|swing" }, ...level];
  }
  // A DC meter that does not hold peaks catches nothing of a winding or a ring: two ends alike say where the line stands, not that nothing swings.
  if (probe.meter === "volts-dc" && isAlternating(probe.circuit) && value.max - value.min < LEAST_CAUGHT)
    return [{ value: value.avg ?? 0.5 * (value.min + value.max), probe: { ...probe, statistic: "mean" }, suffix: "|mean" }];
  return [
    { value: value.min, probe: { ...probe, statistic: "min" }, suffix: "|min" },
    { value: value.max, probe: { ...probe, statistic: "max" }, suffix: "|max" },
  ];
}

/** Rates below this, and anything a counter cannot show, mean that no edges were seen. */
const LEAST_HERTZ = 0.02;
/** Of the inference's true speed: under this share the module does not see it turn. */
const LEAST_RPM = 30;

/** The word a number stands for: no rate, no duty, an engine speed that is or is not seen. */
function wordOfNumber(probe: ElectricalProbe, value: number): string | null {
  if (probe.meter === "hertz" && value < LEAST_HERTZ) return "none";
  if (probe.meter === "count" && value < 0.5) return "none";
  if (probe.meter === "duty" && (value <= 0.5 || value >= 99.5)) return "OL";
  if (probe.meter !== "scan" || probe.unit === null || probe.reads === null) return null;
  if (probe.reads.by === "counts") return value > (probe.unit === "rpm" && probe.setup.stimulus?.kind !== "touch" ? LEAST_RPM : 0) ? "counts" : "none";
  if (probe.reads.by === "hertz" && probe.unit === "Hz" && value < LEAST_HERTZ) return "none";
  return null;
}

export function observationOf({ id, key, reading, value, probe, where }: SpeakingReading, table: PredictionTable): Observation | null {
  const named =
    probe.kind === "electrical"
      ? typeof value === "number"
        ? wordOfNumber(probe, value)
        : value === "OL" && probe.meter !== "ohms"
          ? overload(probe)
          : value
      : value;
  if (typeof named === "string") {
    const word = wordsOf(probe).indexOf(named);
    if (word >= 0) return { id, key, table, number: null, word };
    if (probe.kind !== "electrical") return null;
    throw new BadInput({ code: "reading:word", where: `${where}.value`, message: `"${named}" is not a value of meter ${reading.meter} here` });
  }
  if (probe.kind === "gauge") return typeof value === "number" ? { id, key, table, number: value, word: -1 } : null;
  if (probe.kind !== "electrical" || typeof value !== "number") return null;
  if (probe.meter === "ohms" && value < 0) {
    throw new BadInput({ code: "reading:negative-ohms", where: `${where}.value`, message: `${value} ohm is negative; expected zero or more` });
  }
  if (!table.numeric) {
    throw new BadInput({
      code: "reading:word",
      where: `${where}.value`,
      message: `${value} is not a value of meter ${reading.meter} here; expected ${wordsOf(probe).join(", ")}`,
    });
  }
  // A clamp's sign only says which way round it was put on.
  const shown = probe.meter === "amps-dc" && probe.clamp !== null ? Math.abs(value) : value;
  return { id, key, table, number: scaleOf(probe).toScale(shown), word: -1 };
}

/** What OL means on a meter that counts or is read from data. */
function overload(probe: ElectricalProbe): string {
  return probe.meter === "hertz" || (probe.meter === "scan" && probe.reads?.by !== "volts") ? "none" : "OL";
}

/** A reading with its name and its place in the file. */
export interface NamedReading {
  readonly reading: Reading;
  readonly id: string;
  readonly where: string;
}

/** One thing a reading says, with the key of the predictions it is weighed on. */
export interface SpeakingReading extends Spoken, NamedReading {
  readonly key: string;
  /** How many plugs had been found off, and pushed home, before it was taken. */
  readonly since: number;
}

/**
 * What readings of some circuits say: a recording says two things, its lowest and its highest value; of a measurement taken again and
 * again only a few speak.
 *
 * @param probeOf resolves a reading's leads; null for what says nothing about the circuits
 */
export function speaking(readings: readonly NamedReading[], probeOf: (reading: Reading, where: string) => Probe | null): SpeakingReading[] {
  let since = 0;
  const said = ({ reading, id, where }: NamedReading): SpeakingReading[] => {
    const probe = probeOf(reading, where);
    if (probe === null) return [];
    const ends = movedEnds(reading, probe);
    if (ends !== null) return ends.flatMap((end) => said({ reading: end, id, where }));
    const key = predictionKey(probe, reading);
    return spoken(reading, probe).map((part) => ({ ...part, reading, id, where, key: `${key}${part.suffix}`, since }));
  };
  const all = readings.flatMap((named) => {
    const own = said(named);
    if (foundOff(named.reading) !== null) since += 1;
    return own;
  });
  return withoutEndlessRepeats(all);
}

/** Whoever takes a reading again and gets something else had slipped the first time, more often than not; the second is taken with care. */
const OVERTAKEN = 0.25;
const REPEATED = 0.006;
/** Looks do not slip like leads and ranges; what is mistaken for damage is counted where damage is. */
const LOOKED = 0.005;
/** What is noticed has other causes as well: no spark without a coil, a tachometer that is broken. */
const NOTICED_WRONGLY = 0.2;
/** What brings out a fault that shows only at times. */
const STIRRED: readonly (string | undefined)[] = ["wiggle", "sweep"];

/**
 * How often each of these is slipped, where not as usual: of one measurement in one state the last one stands, those before it may be corrected. A connector
 * that is moved, a track that is swept is never twice in the same state: what showed once is not corrected by not showing again.
 */
export function slipShares(said: readonly SpeakingReading[]): (number | undefined)[] {
  const groups = new Map<string, number[]>();
  said.forEach(({ key, reading, probe, since }, index) => {
    if (probe.kind !== "electrical" || STIRRED.includes(reading.setup?.stimulus?.kind)) return;
    const name = repeatName({ key, reading, since });
    groups.set(name, [...(groups.get(name) ?? []), index]);
  });
  const shares: (number | undefined)[] = said.map(({ probe, again, reading }) =>
    reading.meter === "notice" ? NOTICED_WRONGLY : probe.kind === "look" ? LOOKED : again === true ? REPEATED : undefined,
  );
  for (const members of groups.values()) {
    if (members.length < 2) continue;
    members.forEach((index, place) => {
      shares[index] = place === members.length - 1 ? REPEATED : OVERTAKEN;
    });
  }
  return shares;
}
