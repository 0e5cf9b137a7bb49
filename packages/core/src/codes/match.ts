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
  return circuits.filter(({ circuit }) => isSubject(circuit, generic.subject)).map(({ id }) => ({ circuit: id, kind: generic.kind }));
}

/** Whether some of the job's other codes can have set this one. */
export function followsFrom(generic: GenericCode, others: readonly GenericCode[]): GenericCode[] {
  return others.filter((other) => other.code !== generic.code && generic.follows.includes(other.subject));
}
