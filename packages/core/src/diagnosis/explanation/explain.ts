import type { Diagnosis, Reading } from "@fox-lamp/language";
import { expectHealthy } from "../../procedures";
import { formatPercent, formatWindow } from "../../units";
import type { Case } from "../decision/case";
import { openCase } from "../decision/open-case";
import { type DiagnosedJob, type NameOf, namesIn } from "../inference/diagnosed-job";
import type { Session } from "../inference/session";
import { involvedUnits } from "../posterior/involved";
import { leaderBeside, saidByUnit } from "../posterior/likeliest";
import { givenOthers } from "../posterior/one-reading";
import type { CircuitPosterior } from "../posterior/posterior";
import { diagnoseJob } from "./diagnose";
import { codeSentence, isWithin, titleIn } from "./reasons";
import { describePredicted, describeValue, isSoundLikely, shownUnit } from "./words";

/** What one reading changed: the unit it moved most, in one sentence. */
export interface Move {
  readonly reading: string;
  readonly unit: string;
  readonly before: number;
  readonly after: number;
  readonly predicted: string;
  readonly read: string;
  readonly sentence: string;
}

/** Why a unit is not the culprit, or still may be. */
export interface WhyNot {
  readonly unit: string;
  readonly title: string;
  readonly probability: number;
  /** Readings that speak against it, the strongest first. */
  readonly by: readonly string[];
  readonly sentence: string;
}

/** A verdict as a page another technician can check. */
export interface Proof {
  readonly headline: string;
  readonly status: Diagnosis["verdict"]["status"];
  readonly lines: readonly string[];
  readonly readings: readonly { readonly id: string; readonly title: string; readonly read: string; readonly window: string }[];
  readonly cleared: readonly { readonly unit: string; readonly title: string; readonly by: readonly string[]; readonly sentence: string }[];
  readonly open: readonly { readonly unit: string; readonly title: string }[];
}

function posteriorOf(opened: Case, unit: string): { posterior: CircuitPosterior; index: number } | null {
  for (const posterior of opened.joint.circuits) {
    const index = posterior.inference.grid.units.indexOf(unit);
    if (index > 0) return { posterior, index };
  }
  return null;
}

function titleOf(opened: Case, unit: string): string {
  const owner = posteriorOf(opened, unit)?.posterior ?? opened.joint.circuits[0];
  return owner === undefined ? unit : titleIn(owner, unit);
}

/** What a unit predicts for one reading, in words; for a code how surely it would have stored it. */
function predictedFor(
  posterior: CircuitPosterior,
  unit: number,
  observation: number,
): { readonly words: string; readonly stored: number | null; readonly fits: boolean } {
  const read = posterior.observations[observation];
  const { stored, interval } = saidByUnit(posterior, unit, observation);
  return {
    words: interval === null ? "nothing in particular" : describePredicted(interval, read.table),
    stored,
    fits: interval !== null && isWithin(interval, read),
  };
}

/** The log of how much worse a unit explains each reading than what leads, given all others; the worst first. */
function against(opened: Case, unit: string): { id: string; index: number; log: number; posterior: CircuitPosterior; at: number }[] {
  const found = posteriorOf(opened, unit);
  if (found === null) return [];
  const { posterior, index: at } = found;
  const leader = leaderBeside(posterior, at);
  return posterior.observations
    .map(({ id }, index) => {
      const [own, other] = givenOthers(posterior, index, at, leader);
      return { id, index, log: own - other, posterior, at };
    })
    .sort((a, b) => a.log - b.log);
}

/**
 * "Why not this one?": the reading that speaks most against a unit, with what the unit would have predicted for it.
 *
 * @param unit `circuit/unit`
 */
export function whyNot(job: DiagnosedJob, unit: string, session: Session): WhyNot {
  return whyNotIn(openCase(job, session), unit, namesIn(job));
}

/** @param clearing the readings that clear the unit, by name, where they are known: it is told by one of them */
function whyNotIn(opened: Case, unit: string, nameOf: NameOf, clearing: readonly string[] = []): WhyNot {
  const title = titleOf(opened, unit);
  const probability = involvedUnits(opened.joint).find((entry) => entry.unit === unit)?.probability ?? 0;
  const list = against(opened, unit);
  const worst = clearing.length === 0 ? list[0] : list.find(({ id }) => clearing.includes(nameOf(id)));
  const by = list.filter(({ log }) => log < Math.log(0.5)).map(({ id }) => nameOf(id));
  const reading = worst === undefined ? undefined : opened.readings.get(worst.id);
  let sentence =
    clearing.length === 0
      ? `Nothing measured so far speaks against it (${formatPercent(probability)}).`
      : `What leads explains ${clearing.join(", ")} far better.`;
  if (worst !== undefined && reading !== undefined && worst.log < Math.log(0.5)) {
    const { table } = worst.posterior.observations[worst.index];
    const times = Math.exp(-worst.log);
    const strength = times > 1000 ? "over 1000" : String(Math.round(times));
    const { words, stored, fits } = predictedFor(worst.posterior, worst.at, worst.index);
    const but = fits ? "and" : "but";
    const says =
      stored === null
        ? `It would read ${words} at ${nameOf(worst.id)}, ${but} you read ${describeValue(reading, shownUnit(table))}`
        : codeSentence(nameOf(worst.id), reading.value === "stored", stored).replace(/\.$/u, "");
    sentence = `${says}: ${strength} times less likely than what leads.`;
  }
  return { unit, title, probability, by, sentence };
}

/**
 * What every reading changed: the job is weighed again after each, and the unit whose probability moved most is told.
 */
export function movesOf(job: DiagnosedJob, session: Session): Move[] {
  const readings = job.readings ?? [];
  const nameOf = namesIn(job);
  const moves: Move[] = [];
  let before = openCase({ ...job, readings: [] }, session);
  for (let count = 1; count <= readings.length; count += 1) {
    const after = openCase({ ...job, readings: readings.slice(0, count) }, session);
    const move = moveBetween(before, after, after.numbered[count - 1]?.id ?? "", nameOf);
    if (move !== null) moves.push(move);
    before = after;
  }
  return moves;
}

/** What the last reading changed; null before the first. */
export function lastMove(job: DiagnosedJob, session: Session): Move | null {
  const readings = job.readings ?? [];
  if (readings.length === 0) return null;
  const after = openCase(job, session);
  return moveBetween(openCase({ ...job, readings: readings.slice(0, -1) }, session), after, after.numbered.at(-1)?.id ?? "", namesIn(job));
}

/** A smaller change of a probability is none. */
const LEAST_MOVE = 0.01;

function moveBetween(before: Case, after: Case, id: string, nameOf: NameOf): Move | null {
  const old = new Map(involvedUnits(before.joint).map(({ unit, probability }) => [unit, probability]));
  const now = involvedUnits(after.joint).filter(({ unit }) => posteriorOf(after, unit) !== null);
  const moved = now
    .map(({ unit, probability }) => ({ unit, from: old.get(unit) ?? 0, to: probability }))
    .sort((a, b) => Math.abs(b.to - b.from) - Math.abs(a.to - a.from))[0];
  const reading = after.readings.get(id);
  if (moved === undefined || reading === undefined) return null;
  const { posterior, index } = posteriorOf(after, moved.unit) as { posterior: CircuitPosterior; index: number };
  const observation = posterior.observations.findIndex((candidate) => candidate.id === id);
  const title = titleIn(posterior, moved.unit);
  const change =
    Math.abs(moved.to - moved.from) < LEAST_MOVE
      ? `Hardly anything moved; ${title} stays at ${formatPercent(moved.to)}`
      : `${title} ${moved.to >= moved.from ? "rose" : "fell"} from ${formatPercent(moved.from)} to ${formatPercent(moved.to)}`;
  if (observation < 0) return { reading: nameOf(id), unit: moved.unit, before: moved.from, after: moved.to, predicted: "", read: "", sentence: `${change}.` };
  const { table } = posterior.observations[observation];
  const { words: predicted, fits } = predictedFor(posterior, index, observation);
  const read = describeValue(reading, shownUnit(table));
  return {
    reading: nameOf(id),
    unit: moved.unit,
    before: moved.from,
    after: moved.to,
    predicted,
    read,
    sentence: `${change}: ${movedBy(predicted, read, { fits, rose: moved.to >= moved.from, word: typeof reading.value === "string" })}.`,
  };
}

/** Why a reading moved a unit: what fits and yet fell is what others predict more closely, what does not and yet rose what all else, taken together, predicts even less. */
function movedBy(predicted: string, read: string, { fits, rose, word }: { fits: boolean; rose: boolean; word: boolean }): string {
  // The word one expects is read all the same: it is only likelier elsewhere.
  if (word && !rose && predicted === read) return `${read} is likelier with others`;
  if (fits === rose) return `it would read ${predicted} here, you read ${read}`;
  return rose
    ? `you read ${read}, which all else taken together fits even less`
    : `it would read ${predicted} here, you read ${read}, which others fit more closely`;
}

function readingTitle(reading: Reading): string {
  const to = reading.black === undefined ? "" : ` to ${reading.black}`;
  return `${reading.meter} ${reading.red}${to}`;
}

/** What is said where nothing was found: with its probability only where that is what the readings say. */
function nothingFoundWords(opened: Case, { verdict, units }: Diagnosis): string {
  if (isSoundLikely(verdict)) return `Nothing wrong found in these circuits (${formatPercent(verdict.probability)})`;
  const named = (verdict.seen ?? verdict.open).flatMap((unit) => {
    const share = units.find((one) => one.unit === unit)?.probability;
    return share === undefined ? [] : [`${titleOf(opened, unit)} ${formatPercent(share)}`];
  });
  const first = verdict.seen === undefined ? "Nothing was settled" : "All that was measured is sound";
  return `${first}; not excluded: ${named.join(", ")}`;
}

/** The proof of where a job stands: what was read against what a sound circuit shows, what that clears, what is open. */
export function proofOf(job: DiagnosedJob, session: Session): Proof {
  const diagnosis = diagnoseJob(job, session);
  const opened = openCase(job, session);
  const { verdict } = diagnosis;
  const percent = formatPercent(verdict.probability);
  const name = verdict.unit === null ? "" : titleOf(opened, verdict.unit);
  const names = verdict.group.map((unit) => titleOf(opened, unit)).join(", ");
  const headlines: Record<typeof verdict.status, string> = {
    proven: verdict.group.length > 0 ? `Proven, one of: ${names} (${percent})` : `Proven: ${name} (${percent})`,
    narrowing: verdict.unit === null ? "Nothing stands out yet" : `Not proven yet; ${name} leads with ${percent}`,
    contradiction: "The readings contradict one another",
    "unknown-fault": "The readings fit no fault known here",
    "nothing-found": nothingFoundWords(opened, diagnosis),
  };
  const { model } = opened.clusters[0].inference;
  const own = (reading: Reading): typeof model =>
    opened.clusters.find(({ inference }) => inference.circuits.some(({ id }) => id === reading.circuit))?.inference.model ?? model;
  const nameOf = namesIn(job);
  const readings = opened.numbered.map(({ reading, id, where }) => {
    const expect = expectHealthy(own(reading), reading, where);
    const window = expect === null ? "" : (expect.word ?? formatWindow(expect.low, expect.high, expect.unit));
    return { id: nameOf(id), title: readingTitle(reading), read: describeValue(reading, expect?.unit ?? ""), window };
  });
  const cleared = verdict.refuted.map(({ unit, by }) => ({ unit, title: titleOf(opened, unit), by, sentence: whyNotIn(opened, unit, nameOf, by).sentence }));
  const lines = [
    ...readings.map(({ id, title, read, window }) => `${id}: ${title} = ${read}${window === "" ? "" : ` (sound: ${window})`}`),
    ...cleared.map(({ title, by }) => `${title} is cleared by ${by.join(", ")}.`),
    ...(verdict.separate === null ? [] : [verdict.separate]),
    ...(verdict.also === undefined
      ? []
      : [
          `A second fault is likely: ${titleOf(opened, verdict.also.unit)} (${formatPercent(verdict.also.probability)}). Repair the first, then measure again.`,
        ]),
  ];
  const open = verdict.open.map((unit) => ({ unit, title: titleOf(opened, unit) }));
  return { headline: headlines[verdict.status], status: verdict.status, lines, readings, cleared, open };
}
