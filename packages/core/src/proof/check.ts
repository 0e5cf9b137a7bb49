import type { Diagnosis } from "@fox-lamp/language";
import { type DiagnosedJob, openCase, type Session } from "../diagnosis";

/** A sentence of a diagnosis that does not hold. */
export interface FalseSentence {
  readonly code: "cleared-by-nothing" | "cleared-by-code" | "cleared-by-doubtful" | "not-separated" | "cleared-and-declared" | "proven-below";
  readonly unit: string;
  readonly by: readonly string[];
  /** How much likelier the readings make the leader than the unit; null where that is not the point. */
  readonly times: number | null;
}

/** Readings separate two units from this many times on; a little less is what rounding brings. */
const SEPARATES = 20;
const ROUNDING = 0.98;
/** A proven unit, or its group, is at least so probable. */
const PROVEN = 0.9;

/** What is said of the circuits one verdict is about. */
type Verdict = Diagnosis["verdict"];

/**
 * Holds every "cleared by" of a diagnosis to the readings it names: weighed anew by themselves, without codes and without the rest of the
 * job, they must make the leader twenty times likelier than the unit, both equally likely before. Shares no code with what writes the
 * sentences: it reads the verdict as printed, and asks the physics.
 */
export function checkProof(job: DiagnosedJob, diagnosis: Diagnosis, session: Session): FalseSentence[] {
  const verdicts = diagnosis.verdicts ?? [diagnosis.verdict];
  const doubted = new Set(diagnosis.doubtful.map(({ reading }) => reading));
  return verdicts.flatMap((verdict) => checkVerdict(job, verdict, doubted, session));
}

/** The names readings go by: their own, made different where two are the same. */
function named(job: DiagnosedJob): Map<string, number> {
  const names = new Map<string, number>();
  (job.readings ?? []).forEach(({ id }, index) => {
    const wanted = id ?? `r${index + 1}`;
    names.set(names.has(wanted) ? `${wanted}#${index + 1}` : wanted, index);
  });
  return names;
}

function checkVerdict(job: DiagnosedJob, verdict: Verdict, doubted: ReadonlySet<string>, session: Session): FalseSentence[] {
  const names = named(job);
  const found: FalseSentence[] = [];
  const declared = verdict.status === "proven" ? [verdict.unit, ...verdict.group] : [];
  const say = (code: FalseSentence["code"], unit: string, by: readonly string[], times: number | null = null): void => {
    found.push({ code, unit, by, times });
  };
  if (verdict.status === "proven" && verdict.probability < PROVEN) say("proven-below", verdict.unit ?? "", [], verdict.probability);
  const whole = openCase(job, session);
  const leader = verdict.status === "nothing-found" ? null : pairOf(whole, verdict);
  for (const { unit, by } of verdict.refuted) {
    if (declared.includes(unit)) say("cleared-and-declared", unit, by);
    if (by.length === 0) say("cleared-by-nothing", unit, by);
    else if (by.some((name) => !names.has(name))) say("cleared-by-code", unit, by);
    else if (by.some((name) => doubted.has(name))) say("cleared-by-doubtful", unit, by);
    else {
      const times = timesLikelier(whole, unit, leader, new Set(by.map((name) => names.get(name) ?? -1)));
      if (times !== null && times < SEPARATES * ROUNDING) say("not-separated", unit, by, times);
    }
  }
  return found;
}

/** The leading unit, or the two that lead together. */
function pairOf(whole: ReturnType<typeof openCase>, { unit, also }: Verdict): string | null {
  if (unit === null || also === undefined) return unit;
  const names = whole.joint.circuits.flatMap(({ inference, units }) => inference.grid.units.map((name, index) => ({ name, weight: units[index] ?? 0 })));
  const pairs = names.filter(({ name }) => name === `${unit}&${also.unit}` || name === `${also.unit}&${unit}`);
  const best = names.filter(({ name }) => name.includes("&")).sort((a, b) => b.weight - a.weight)[0];
  return pairs[0]?.name ?? best?.name ?? unit;
}

/** How many times likelier some readings make the leader than a unit, weighed in its circuits alone; null where the unit is not among them. */
function timesLikelier(whole: ReturnType<typeof openCase>, unit: string, leader: string | null, chosen: ReadonlySet<number>): number | null {
  const cluster = whole.clusters.find(({ inference }) => inference.grid.units.includes(unit));
  if (cluster === undefined) return null;
  const { inference, observations, known } = cluster;
  const { grid } = inference;
  const kept = observations.flatMap(({ id }, index) => (chosen.has(Number(/^#(\d+)$/u.exec(id)?.[1] ?? 0) - 1) ? [index] : []));
  const evidence = inference.weigh(
    kept.map((index) => observations[index] as (typeof observations)[number]),
    {
      ...known,
      presence: known.presence === null ? null : kept.map((index) => known.presence?.[index] ?? 1),
      after: known.after.map((later) => Uint8Array.from(kept, (index) => later[index] ?? 0)),
    },
  );
  // The mean likelihood of each fault over its severities, the best fault of the unit.
  const likelihoodOf = (name: string): number => {
    const sums = new Map<number, { joint: number; prior: number }>();
    const top = evidence.logLikelihood.reduce((most, value) => Math.max(most, value), Number.NEGATIVE_INFINITY);
    for (let cell = 0; cell < grid.count; cell += 1) {
      const fault = grid.fault[cell] ?? 0;
      if ((grid.units[grid.unitOfFault[fault] ?? 0] ?? "") !== name) continue;
      const sum = sums.get(fault) ?? { joint: 0, prior: 0 };
      const prior = grid.prior[cell] ?? 0;
      sums.set(fault, { joint: sum.joint + prior * Math.exp((evidence.logLikelihood[cell] ?? 0) - top), prior: sum.prior + prior });
    }
    return Math.max(0, ...[...sums.values()].map(({ joint, prior }) => joint / prior));
  };
  const leads = leader !== null && grid.units.includes(leader) ? leader : "";
  return likelihoodOf(leads) / Math.max(1e-300, likelihoodOf(unit));
}
