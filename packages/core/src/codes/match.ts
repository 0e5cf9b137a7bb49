import type { Circuit } from "@fox-lamp/language";
import { type CircuitModel, familyById } from "../circuit";
import { type CodeKind, type GenericCode, genericCode } from "./generic";
import { SUBJECTS, type Subject, type SubjectKey } from "./subjects";

/** What a code says of one circuit of a job. */
export interface MatchedCode {
  readonly circuit: string;
  readonly kind: CodeKind;
}

const KINDS: readonly CodeKind[] = [
  "circuit",
  "low",
  "high",
  "performance",
  "intermittent",
  "no-activity",
  "slow",
  "correlation",
  "heater",
  "heater-low",
  "heater-high",
  "consequence",
];

function isKind(name: string): name is CodeKind {
  return (KINDS as readonly string[]).includes(name);
}

/** Whether a circuit is what a generic code's subject means, by its family and the words of its id and title. */
export function isSubject(circuit: Pick<Circuit, "id" | "title" | "family">, key: SubjectKey): boolean {
  const { names, kinds }: Subject = SUBJECTS[key];
  const kind = familyById(circuit.family)?.traits.kind;
  if (kind === undefined || !kinds.includes(kind)) return false;
  const id = circuit.id.toLowerCase();
  const title = (circuit.title ?? "").toLowerCase();
  return names.some((name) => id === name || id.startsWith(`${name}-`) || id.replace(/\d+$/u, "") === name || (name.length > 3 && title.includes(name)));
}

/** The circuits a code speaks of: those that name it themselves, else those the generic table means. */
export function circuitsOfCode(code: string, circuits: readonly CircuitModel[]): MatchedCode[] {
  const wanted = code.trim().toUpperCase();
  const own = circuits.flatMap(({ id, circuit }) =>
    Object.entries(circuit.codes ?? {}).flatMap(([kind, name]): MatchedCode[] =>
      name.toUpperCase() === wanted && isKind(kind) ? [{ circuit: id, kind }] : [],
    ),
  );
  if (own.length > 0) return own;
  const generic = genericCode(code);
  if (generic === null) return [];
  return circuits
    .filter(({ circuit }) => isSubject(circuit, generic.subject) && isMeant(circuit, generic))
    .map(({ id }) => ({ circuit: id, kind: generic.kind }));
}

/** Words that say which sensor of a bank a circuit is. */
const PLACES: readonly (readonly [RegExp, number])[] = [
  [/\b(?:front|upstream|before)\b/u, 1],
  [/\b(?:rear|downstream|behind)\b/u, 2],
];

/** Whether a code that counts banks and sensors can mean a circuit, by the numbers in its title or id: the second one's code is not the first one's. */
function isMeant({ id, title = "" }: Pick<Circuit, "id" | "title">, { bank, sensor, subject }: GenericCode): boolean {
  const text = title.toLowerCase();
  const digit = (pattern: RegExp): number | null => {
    const found = pattern.exec(text);
    return found === null ? null : Number(found[1]);
  };
  const last = /(\d)$/u.exec(id);
  const trailing = last === null || subject === "oxygen" ? null : Number(last[1]);
  const ownBank = digit(/bank\s*(\d)/u);
  const ownSensor = digit(/sensor\s*(\d)/u) ?? PLACES.find(([words]) => words.test(text))?.[1] ?? null;
  const differ = (one: number | null, other: number | null): boolean => one !== null && other !== null && one !== other;
  // Knock sensors are counted, one to a bank.
  if (bank === null && sensor !== null) return !differ(sensor, ownSensor ?? ownBank ?? trailing);
  return !differ(bank, ownBank ?? (sensor === null ? trailing : null)) && !differ(sensor, ownSensor);
}

/** Whether some of the job's other codes can have set this one. */
export function followsFrom(generic: GenericCode, others: readonly GenericCode[]): GenericCode[] {
  return others.filter((other) => other.code !== generic.code && generic.follows.includes(other.subject));
}
