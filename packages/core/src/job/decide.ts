import {
  type Circuit,
  type Entry,
  type NewEntry,
  type Outcome,
  type Problem,
  type Reading,
  type Role,
  type ShopSettings,
  STAGES,
  type Stage,
} from "@fox-lamp/language";
import { stillOutside } from "./after-repair";
import { namedBy } from "./entry-kinds";
import { foldJob } from "./fold";
import { lackingFor, orderOfWork } from "./order";
import { circuitsOf, type JobState } from "./state";

/** A job as it stands: the circuits it started with, and all its entries. */
export interface JobSoFar {
  readonly started: readonly Circuit[];
  readonly entries: readonly (Pick<Entry, "id" | "at" | "by" | "kind" | "body" | "person"> & { readonly seq?: number })[];
}

/** What the rules of a job ask of those who know circuits and the shop. */
export interface JobRules {
  readonly settings: ShopSettings | null;
  /** Who makes the entries, and whether it is practice on a virtual car; left out where nobody is told apart. */
  readonly acting?: { readonly role: Role; readonly name: string; readonly person?: string; readonly practice: boolean };
  /** Whether the part of a family is cleaned before it is replaced. */
  readonly cleanable: (family: string) => boolean;
  /** Why readings cannot belong to circuits; null when they can. */
  readonly misplaced: (circuits: readonly Circuit[], readings: readonly { readonly reading: Reading; readonly where: string }[]) => Problem | null;
}

/** The rules as far as they need no knowledge of circuits and shops: what a page asks before it sends; the server knows the rest. */
export const plainRules: JobRules = {
  settings: null,
  cleanable: () => false,
  misplaced: (circuits, readings) => {
    const lost = readings.find(({ reading: { circuit } }) => (circuit === undefined ? circuits.length !== 1 : !circuits.some(({ id }) => id === circuit)));
    if (lost === undefined) return null;
    const known = circuits.map(({ id }) => id).join(", ") || "none";
    return {
      code: "circuit:unknown",
      where: `${lost.where}.circuit`,
      message: `no circuit is called "${lost.reading.circuit ?? ""}"; expected one of ${known}`,
    };
  },
};

/** Why entries cannot be made: a stable code, where, and what the sentence is made from. */
export type Refusal =
  | { readonly code: "circuit:unknown"; readonly where: string; readonly circuit: string }
  | { readonly code: "circuit:read"; readonly where: string; readonly circuit: string; readonly title: string; readonly readings: readonly string[] }
  | { readonly code: "circuit:joined"; readonly where: string; readonly circuit: string; readonly title: string; readonly by: readonly string[] }
  | { readonly code: "circuit:readings-lost"; readonly where: string; readonly reading: string; readonly problem: Problem }
  | { readonly code: "reading:misplaced"; readonly where: string; readonly problem: Problem }
  | { readonly code: "entry:unknown"; readonly where: string; readonly entry: string }
  | { readonly code: "entry:others"; readonly where: string; readonly by: string }
  | { readonly code: "role:trainee"; readonly where: string; readonly kind: "decision" | "closing" }
  | { readonly code: "stage:too-early"; readonly where: string; readonly stage: Stage; readonly needs: "circuits" | "decision" | "closing" }
  | { readonly code: "closing:lacking"; readonly where: string; readonly outcome: Outcome; readonly lacking: readonly string[] };

/** Entries that may be made, or why not. */
export type Decision = { readonly ok: true; readonly entries: readonly NewEntry[] } | { readonly ok: false; readonly refusal: Refusal };

/** Who made an entry: by name, and where it is known as which person. */
type Author = Pick<Entry, "by" | "person">;

/** One entry before the job as it stands, with what came before it. */
interface Judged {
  readonly entry: NewEntry;
  readonly where: string;
  readonly known: ReadonlySet<string>;
  readonly before: JobState;
  readonly after: JobState;
  readonly circuits: readonly Circuit[];
  readonly rules: JobRules;
  /** Who made each entry the job has. */
  readonly authors: ReadonlyMap<string, Author>;
}

/**
 * The rules of a job: decides whether entries may be made, in their order. The client asks before it sends, the server is law. Entries the
 * job has already are passed over: sent twice is stored once.
 */
export function decide(job: JobSoFar, entries: readonly NewEntry[], rules: JobRules): Decision {
  const known = new Set(job.entries.map(({ id }) => id));
  const authors = new Map(job.entries.map(({ id, by, person }) => [id, { by, ...(person === undefined ? {} : { person }) }]));
  const added = new Map(entries.flatMap(({ id }, index) => (known.has(id) ? [] : [[id, index] as const])));
  let taken: JobSoFar["entries"] = job.entries;
  const stood = foldJob(taken);
  let before = stood;
  for (const [index, entry] of entries.entries()) {
    if (known.has(entry.id)) continue;
    taken = [...taken, entry];
    const after = foldJob(taken);
    const refusal = judge({ entry, where: `entries[${index}]`, known, before, after, circuits: circuitsOf(job.started, before), rules, authors });
    if (refusal !== null) return { ok: false, refusal };
    known.add(entry.id);
    before = after;
  }
  const lost = lostReadings(job.started, entries, added, stood, before, rules);
  return lost === null ? { ok: true, entries } : { ok: false, refusal: lost };
}

function judge(judged: Judged): Refusal | null {
  const { entry, where, known } = judged;
  const beyond = judgeTrainee(judged);
  if (beyond !== null) return beyond;
  const unknown = namedBy(entry).find((id) => !known.has(id));
  if (unknown !== undefined) return { code: "entry:unknown", where, entry: unknown };
  switch (entry.kind) {
    case "circuit":
      return "remove" in entry.body ? judgeRemoval(judged, entry.body.remove) : null;
    case "stage":
      return judgeStage(judged, entry.body.stage);
    case "closing":
      return judgeClosing(judged);
    default:
      return null;
  }
}

/** A trainee takes back only what is the own, and says what is proven, or that a job is at its end, only where it is practice. */
function judgeTrainee({ entry, where, rules: { acting }, authors }: Judged): Refusal | null {
  if (acting?.role !== "trainee") return null;
  if (entry.kind === "retraction") {
    const author = authors.get(entry.body.entry);
    if (author === undefined) return null;
    // Two people may have the same name: where it is known who they are, that counts.
    const own = author.person == null || acting.person === undefined ? author.by === acting.name : author.person === acting.person;
    return own ? null : { code: "entry:others", where, by: author.by };
  }
  if (acting.practice || (entry.kind !== "decision" && entry.kind !== "closing")) return null;
  return { code: "role:trainee", where, kind: entry.kind };
}

/** A circuit is taken off the sheet only while nothing was read on it and nothing leaves its wire. */
function judgeRemoval({ where, before, circuits }: Judged, circuit: string): Refusal | null {
  const found = circuits.find(({ id }) => id === circuit);
  if (found === undefined) return { code: "circuit:unknown", where, circuit };
  const title = found.title ?? circuit;
  const only = circuits.length === 1;
  const readings = before.readings.filter(({ reading }) => reading.circuit === circuit || (reading.circuit === undefined && only));
  if (readings.length > 0) return { code: "circuit:read", where, circuit, title, readings: readings.map(({ reading }) => reading.id) };
  const by = circuits.filter(({ shares }) => Object.entries(shares ?? {}).some(([pin, bus]) => pin !== "join" && bus === circuit));
  return by.length > 0 ? { code: "circuit:joined", where, circuit, title, by: by.map(({ id, title }) => title ?? id) } : null;
}

/** What a stage asks for before it may be entered from an earlier one; going back is always allowed. */
function judgeStage({ where, before, after, circuits, rules }: Judged, stage: Stage): Refusal | null {
  const forward = STAGES.indexOf(stage) > STAGES.indexOf(before.stage);
  if (!forward) return null;
  const at = STAGES.indexOf(stage);
  if (at >= STAGES.indexOf("bench") && stage !== "closed" && circuits.length === 0) return { code: "stage:too-early", where, stage, needs: "circuits" };
  // A part may be cleaned, or a wire mended, before anything is proven.
  const worked = before.decisions.length > 0 || (stage === "check" && before.repairs.length > 0);
  if ((stage === "repair" || stage === "check") && !worked) return { code: "stage:too-early", where, stage, needs: "decision" };
  if (stage !== "closed") return null;
  if (before.closing === null) return { code: "stage:too-early", where, stage, needs: "closing" };
  return lacks(where, before.closing, circuits, after, rules);
}

/** What a job still lacks to end as it is said. */
function judgeClosing({ where, circuits, after, rules }: Judged): Refusal | null {
  return after.closing === null ? null : lacks(where, after.closing, circuits, after, rules);
}

function lacks(where: string, closing: NonNullable<JobState["closing"]>, circuits: readonly Circuit[], state: JobState, rules: JobRules): Refusal | null {
  const { outcome, text = "", plan = "", despite = "", left = null } = closing;
  const steps = orderOfWork(circuits, state, rules.settings, rules.cleanable);
  const lacking = lackingFor(outcome, steps, { text, plan, despite, left }, stillOutside(state));
  return lacking.length === 0 ? null : { code: "closing:lacking", where, outcome, lacking };
}

/** Readings without a circuit or a lead to belong to: new ones, and those an edited sheet would leave behind. @param added places of new entries */
function lostReadings(
  started: readonly Circuit[],
  entries: readonly NewEntry[],
  added: ReadonlyMap<string, number>,
  stood: JobState,
  after: JobState,
  rules: JobRules,
): Refusal | null {
  const circuits = circuitsOf(started, after);
  const fresh = after.readings.flatMap(({ entry, reading }) => {
    const place = added.get(entry);
    return place === undefined ? [] : [{ reading, where: `entries[${place}]` }];
  });
  const stray = firstMisplaced(circuits, fresh, ".body.reading", rules);
  if (stray !== null) return { code: "reading:misplaced", where: stray.where, problem: stray.problem };
  const edit = entries.findIndex(({ id, kind }) => added.has(id) && (kind === "circuit" || kind === "retraction"));
  if (edit < 0) return null;
  // A reading that had no place before is no reason to keep anybody from tidying up.
  const sheet = circuitsOf(started, stood);
  const placed = after.readings.map(({ reading }) => ({ reading, where: reading.id }));
  const kept = firstMisplaced(sheet, placed, "", rules) === null ? placed : placed.filter((one) => rules.misplaced(sheet, [one]) === null);
  const lost = firstMisplaced(circuits, kept, "", rules);
  return lost === null ? null : { code: "circuit:readings-lost", where: `entries[${edit}]`, reading: lost.where, problem: lost.problem };
}

/** The first reading that has no place, with why; they are asked all at once, as nearly always all have one. */
function firstMisplaced(
  circuits: readonly Circuit[],
  readings: readonly { readonly reading: Reading; readonly where: string }[],
  field: string,
  rules: JobRules,
): { readonly where: string; readonly problem: Problem } | null {
  const asked = readings.map(({ reading, where }) => ({ reading, where: `${where}${field}` }));
  if (rules.misplaced(circuits, asked) === null) return null;
  for (const [index, { where }] of readings.entries()) {
    const problem = rules.misplaced(circuits, asked.slice(index, index + 1));
    if (problem !== null) return { where, problem };
  }
  return null;
}
