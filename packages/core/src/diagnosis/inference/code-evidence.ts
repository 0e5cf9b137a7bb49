import type { Code, Reading } from "@fox-lamp/language";
import type { CircuitModel } from "../../circuit";
import { type CodeKind, circuitsOfCode, isSubject, type MatchedCode, type SubjectKey } from "../../codes";
import type { Observation } from "../likelihood/observation";
import { type PredictionTable, wordTable } from "../predictions/table";
import { type Condition, conditionOf } from "./code-condition";
import type { Inference, Tabled } from "./inference";

/**
 * How surely a stored code means that its condition was met, by status: [when met, when not]. Codes are left over from work on the car and
 * set by rules of their own: they guide the search, and any direct measurement outweighs them.
 */
const STORED: Readonly<Record<string, readonly [number, number]>> = {
  current: [0.88, 0.06],
  pending: [0.7, 0.1],
  history: [0.4, 0.15],
};
/** A fault that meets the condition has set its code by now this often: trips, drive cycles, cleared memory. */
const SET_BY_NOW = 0.55;
/** A battery that falls while cranking meets the rule of codes about a lost signal this often. */
const FALLING_BATTERY = 0.5;
/** Subjects whose levels every module watches. */
const LEVEL_SUBJECTS: readonly SubjectKey[] = [
  "coolant",
  "intake-air",
  "oil-temperature",
  "manifold",
  "rail",
  "oil-pressure",
  "refrigerant",
  "tank",
  "throttle",
  "pedal",
  "egr",
  "air-flow",
];

/** One code as an observation of a set of circuits. */
export interface CodeObservation {
  readonly observation: Observation;
  /** As it is shown beside readings. */
  readonly reading: Reading;
}

/** The words of a table whose one question is whether a code is stored. */
const STORED_WORDS = ["stored", "not stored"] as const;

/** The words of a table whose one question is whether the complaint showed. */
export const REMARK_WORDS = ["shown", "not shown"] as const;

/** A table whose one question is whether a code is stored. */
function storedTable(
  inference: Inference,
  circuit: CircuitModel,
  condition: Float64Array,
  [met, otherwise]: readonly [number, number],
  falls: number,
): PredictionTable {
  const { grid } = inference;
  const words = new Float64Array(2 * grid.count);
  for (let cell = 0; cell < grid.count; cell += 1) {
    const falling = grid.faults[grid.fault[cell]]?.unit.endsWith("/battery") === true ? falls : 0;
    const stored = otherwise + (met - otherwise) * Math.max(falling, condition[cell]);
    words[2 * cell] = stored;
    words[2 * cell + 1] = 1 - stored;
  }
  return wordTable({ kind: "look", circuit, place: "module", setup: {} }, STORED_WORDS, words);
}

/** Whether an observation is of a code or of the complaint itself, which is there or not, and never slips. */
export function isOfCode({ number, table }: Observation): boolean {
  return number === null && (table.wordNames[1] === STORED_WORDS[1] || table.wordNames[1] === REMARK_WORDS[1]);
}

/** What the module stores, and whether what it does not store is known not to be there. */
export interface KnownCodes {
  readonly codes: readonly Code[];
  readonly absent: boolean;
}

/** A code, or that there is none, with what would set it. */
export interface Speaking {
  readonly id: string;
  readonly circuit: CircuitModel;
  readonly condition: Condition;
  /** How often it is stored when its condition was met, and when not. */
  readonly rates: readonly [number, number];
  readonly stored: boolean;
  /** How often a battery that falls while cranking meets its rule. */
  readonly falls: number;
}

/**
 * What a job's codes say of some circuits: a stored code by its setting rule and status, and the codes of a circuit that could have been
 * set and were not. Codes that speak of no circuit here say nothing; neither do those that only follow from others.
 *
 * @param read null when the codes were never read
 * @param matched the circuits of the whole job a code speaks of: named on one circuit's sheet, it is not charged to its twin
 */
export function speakingCodes(
  inference: Inference,
  read: KnownCodes | null,
  matched: (code: string) => readonly MatchedCode[] = (code) => circuitsOfCode(code, inference.circuits),
): Speaking[] {
  if (read === null) return [];
  const { codes, absent } = read;
  const speaking: Speaking[] = [];
  const conditions = new Map<string, Condition | null>();
  const condition = (circuit: CircuitModel, kind: CodeKind): Condition | null => {
    const key = `${circuit.id} ${kind}`;
    const known = conditions.get(key);
    const found = known === undefined ? conditionOf(inference, circuit, kind) : known;
    conditions.set(key, found);
    return found;
  };
  const kindsOf = new Map<string, Set<CodeKind>>();
  for (const { code, status = "current" } of codes) {
    for (const { circuit: id, kind } of matched(code)) {
      if (inference.circuits.every((own) => own.id !== id)) continue;
      const circuit = inference.circuitOf(id);
      kindsOf.set(id, (kindsOf.get(id) ?? new Set()).add(kind));
      const sets = condition(circuit, kind);
      const falls = kind === "no-activity" || kind === "circuit" ? FALLING_BATTERY : 0;
      if (sets !== null) speaking.push({ id: code, circuit, condition: sets, rates: STORED[status] ?? STORED["current"], stored: true, falls });
    }
  }
  for (const circuit of absent ? inference.circuits : []) {
    if (!isWatched(circuit) || kindsOf.has(circuit.id) || circuit.built.reads.every(({ by }) => by !== "volts")) continue;
    for (const kind of ["low", "high"] as const) {
      const sets = condition(circuit, kind);
      if (sets !== null)
        speaking.push({ id: `no ${kind} code of ${circuit.id}`, circuit, condition: sets, rates: [SET_BY_NOW, 0.002], stored: false, falls: 0 });
    }
  }
  return speaking;
}

/** How much codes make one hypothesis likelier than another at most, logarithm. */
export function mostSaid(codes: readonly Speaking[]): number {
  return codes.reduce(
    (sum, { rates: [met, otherwise], stored }) => sum + Math.abs(stored ? Math.log(met / otherwise) : Math.log((1 - otherwise) / (1 - met))),
    0,
  );
}

/** Predictions of what the module watches, by what it is, with the rows they have by now. */
export interface WatchedTables {
  readonly byKey: ReadonlyMap<string, PredictionTable>;
  readonly still: readonly Tabled[];
  /** What counts while a connector is moved alone. */
  readonly moved: readonly Tabled[];
  /** Of some cells, null for all, those that show only when moved. */
  readonly shaken: (cells: readonly number[] | null) => readonly number[];
}

/** Predictions of what the module watches for codes. */
export function watchedBy(inference: Inference, codes: readonly Speaking[]): WatchedTables {
  const watched = [...new Map(codes.flatMap(({ condition }) => condition.watched).map((one) => [one.key, one])).values()];
  const tables = (moved: boolean): Tabled[] => inference.tabled(watched.filter((one) => one.moved === moved));
  const [still, moved] = [tables(false), tables(true)];
  const { sometimes } = inference.grid;
  const shaken = (cells: readonly number[] | null): number[] => [...(cells ?? sometimes.keys())].filter((cell) => sometimes[cell] === 1);
  return { byKey: new Map([...still, ...moved].map(({ key, table }) => [key, table])), still, moved, shaken };
}

/** Codes as observations. @param watched predictions of what they hang on, computed for the cells that count */
export function codeObservations(inference: Inference, codes: readonly Speaking[], { byKey }: WatchedTables): CodeObservation[] {
  const known = new Map<Condition, Float64Array>();
  const metBy = (condition: Condition): Float64Array => {
    const met = known.get(condition) ?? condition.met(condition.watched.map(({ key }) => byKey.get(key) as PredictionTable));
    known.set(condition, met);
    return met;
  };
  return codes.map(({ id, circuit, condition, rates, stored, falls }) => ({
    observation: { id, key: `code ${id}`, table: storedTable(inference, circuit, metBy(condition), rates, falls), number: null, word: stored ? 0 : 1 },
    reading: { circuit: circuit.id, meter: "scan", red: "module", value: stored ? "stored" : "not stored" },
  }));
}

/** Whether the module is known to set codes for a circuit: it names them, or the generic table has some. */
function isWatched(circuit: CircuitModel): boolean {
  if (Object.keys(circuit.circuit.codes ?? {}).length > 0) return true;
  return LEVEL_SUBJECTS.some((subject) => isSubject(circuit.circuit, subject));
}
