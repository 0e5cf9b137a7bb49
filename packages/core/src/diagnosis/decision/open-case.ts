import type { Reading } from "@fox-lamp/language";
import { buildModel } from "../../circuit";
import { circuitsOfCode, type MatchedCode } from "../../codes";
import { hintsAmong } from "../../faults";
import { finished, lazy, type Steps } from "../../numeric";
import { weighPairs } from "../double-faults/pairs";
import { clustersOf } from "../hypotheses/clusters";
import { joinedByLeads } from "../hypotheses/joined";
import { liftedTogether } from "../hypotheses/lifted";
import { strapOhmsRead } from "../inference/body-strap";
import { withBooks } from "../inference/booked";
import { circumstancesOf } from "../inference/circumstances";
import type { WeighedCluster } from "../inference/cluster";
import { codeObservations, type KnownCodes, mostSaid, speakingCodes, watchedBy } from "../inference/code-evidence";
import { contenders } from "../inference/contenders";
import { assertCircuits, conditionsOf, type DiagnosedJob, knownFor, learntFor, numberReadings, openWorlds, weighedPart } from "../inference/diagnosed-job";
import type { Inference } from "../inference/inference";
import { leftOpenObservations } from "../inference/left-open";
import { movedBetween } from "../inference/moved-between";
import type { NamedReading } from "../inference/observe";
import { policyOf } from "../inference/policy";
import type { Session } from "../inference/session";
import { levelsBySteel, settledCircuit } from "../inference/settle";
import { symptomObservations } from "../inference/symptom-evidence";
import type { Circumstances, Observation } from "../likelihood/observation";
import { pairShare } from "../posterior/involved";
import { withSymptoms } from "../posterior/moved";
import { combine } from "../posterior/posterior";
import { comesAndGoes, doubtsOf, type OnProgress, type WeighedJob } from "../posterior/weighed-job";
import type { Case, Challenge } from "./case";
import { fitOf } from "./fit";
import { type Glance, hangsOn, likelierKinds } from "./kinds";
import { overtakenIn } from "./overtaken";
import { owedTests } from "./owed";
import { stakeOf } from "./stake";
import { type Standing, standingOf } from "./standing";
import { bareStatus } from "./status";

/**
 * Weighs a job's readings: circuits that share anything together, the rest apart, joined under one fault at most. Whoever leads is
 * challenged with two faults before it may be declared. What comes out never changes; readings are named by their place in the job.
 *
 * @param session what was weighed before is found again in it
 * @param onProgress told before each stretch of work
 * @throws BadInput for circuits or readings that cannot be
 */
export function openCase(job: DiagnosedJob, session: Session, onProgress: OnProgress = () => undefined): Case {
  const asked = weighedPart({ ...job, circuits: [...withBooks(job.circuits, job.readings ?? []).circuits] });
  return session.weighed(asked, () => {
    // The same kinds are asked for when nobody explains the readings and when a leader strains one.
    const kinds = new Map<string, WeighedJob>();
    const weighed = (kind: DiagnosedJob): WeighedJob => {
      const key = JSON.stringify(kind.circuits);
      const known = kinds.get(key) ?? weighJob(kind, session, () => undefined);
      kinds.set(key, known);
      return known;
    };
    const opened = underLikelierKinds(asked, weighJob(settled(asked, session), session, onProgress), weighed);
    const glance: Glance = (kind, beside) => kinds.get(JSON.stringify(kind.circuits)) ?? weighJob(kind, session, () => undefined, beside);
    const hangs = lazy(() => hangsOn(asked, opened, opened.standing(), glance));
    return { ...opened, hangs };
  });
}

/** The job judged under the kinds of circuit that explain its readings best, where those that were taken explain them badly. */
function underLikelierKinds(asked: DiagnosedJob, taken: WeighedJob, weigh: (job: DiagnosedJob) => WeighedJob): Case {
  const first = likelierKinds(asked, taken, weigh);
  const opened = judged(first);
  if (bareStatus(opened, opened.standing(), opened.stake()) !== "proven") return opened;
  const strained = new Map<string, readonly string[]>();
  for (const { circuit, parameters } of opened.standing().strained()) strained.set(circuit, [...(strained.get(circuit) ?? []), ...parameters]);
  const second = strained.size === 0 ? first : likelierKinds(asked, first, weigh, strained);
  return second === first ? opened : judged(second);
}

/** The job with what its sheets mean where they are silent, as far as the readings tell. */
function settled(job: DiagnosedJob, session: Session): DiagnosedJob {
  const { circuits, readings = [] } = job;
  const only = circuits.length > 1 ? undefined : circuits[0]?.id;
  const ownOf = (id: string): Reading[] => readings.filter((reading) => (reading.circuit ?? only) === id);
  const meant = circuits.map((circuit) => {
    const own = ownOf(circuit.id);
    const shared = circuits.filter(({ id }) => Object.values(circuit.shares ?? {}).includes(id));
    return session.settled([circuit, shared, own], () => settledCircuit(circuit, circuits, own, session.meaning));
  });
  const levels = new Map(
    meant.flatMap((circuit) => {
      const own = ownOf(circuit.id);
      return levelsBySteel(circuit, meant, own, session.meaning).flatMap((reading, index): (readonly [Reading, Reading])[] => {
        const before = own[index];
        return before === undefined ? [] : [[before, reading]];
      });
    }),
  );
  if (job.readings === undefined) return { ...job, circuits: meant };
  const told = readings.map((reading) => levels.get(reading) ?? reading);
  if (job.intermittent === true) return { ...job, circuits: meant, readings: told };
  const models = lazy(() => new Map(buildModel(meant).circuits.map((circuit) => [circuit.id, circuit])));
  return { ...job, circuits: meant, readings: [...movedBetween(told, ({ circuit }) => models().get(circuit ?? only ?? "") ?? null)] };
}

/**
 * Readings and codes weighed on single faults, each set of circuits for itself.
 * @param beside the same readings weighed under other kinds of the circuits: what could not weigh anything beside them is left out
 */
function weighJob(job: DiagnosedJob, session: Session, onProgress: OnProgress, beside: WeighedJob | null = null): WeighedJob {
  const numbered = numberReadings(job);
  assertCircuits(job, numbered);
  const onlyCircuit = job.circuits.length > 1 ? "" : (job.circuits[0]?.id ?? "");
  const model = buildModel(job.circuits);
  const policy = policyOf(job.policy);
  const hints = hintsAmong(job.hints ?? []);
  const owner = ({ reading }: NamedReading): string => reading.circuit ?? onlyCircuit;
  const taken = numbered.map((named) => ({ owner: owner(named), reading: named.reading }));
  const asks = (job.asks ?? []).map((measurement) => ({ owner: measurement.circuit ?? onlyCircuit, measurement }));
  const measured = [...taken.map(({ owner: circuit, reading }) => ({ owner: circuit, measurement: reading })), ...asks];
  const sets = clustersOf(model, [liftedTogether(model, taken), ...joinedByLeads(measured)]);
  const strapOhms = strapOhmsRead(
    taken.map(({ reading }) => reading),
    model,
  );
  const matched = (code: string): readonly MatchedCode[] => circuitsOfCode(code, model.circuits);
  const clusters = sets.map((circuits, index): WeighedCluster => {
    onProgress(index, 2 * sets.length, circuits.map(({ title, id }) => title ?? id).join(", "));
    const ids = new Set(circuits.map(({ id }) => id));
    const own = numbered.filter((named) => ids.has(owner(named)));
    const conditions = Object.fromEntries(
      model.circuits.flatMap(({ id, built }) => {
        if (!ids.has(id)) return [];
        const said = conditionsOf(
          own.filter((named) => owner(named) === id),
          built.world,
        );
        return [[id, { ...said, ...knownFor(model, id, job.conditions ?? {}, job.outsideKPa) }]];
      }),
    );
    const open = openWorlds(own, (reading) => model.circuits.find(({ id }) => id === (reading.circuit ?? onlyCircuit)), conditions);
    const others = model.circuits.flatMap(({ id }) => (ids.has(id) ? [] : [id]));
    const learnt = learntFor(circuits, job.learnt);
    const inference = session.inference(circuits, { conditions, open, hints, learnt, policy, carId: model.carId, others, strapOhms }, "circuits");
    const like = beside?.clusters[index];
    return like?.inference === inference ? like : weighCluster(inference, own, job, onlyCircuit, matched, like);
  });
  return joined({ job, onlyCircuit, numbered }, clusters);
}

/** Sets of circuits seen together, under one fault at most. */
function joined(of: Pick<WeighedJob, "job" | "onlyCircuit" | "numbered">, clusters: readonly WeighedCluster[]): WeighedJob {
  const { job, onlyCircuit, numbered } = of;
  const readings = new Map(numbered.map(({ id, reading }) => [id, reading]));
  for (const { codes } of clusters) for (const { observation, reading } of codes) readings.set(observation.id, reading);
  const joint = combine(clusters);
  return { job, onlyCircuit, numbered, readings, clusters, joint, doubts: doubtsOf(joint) };
}

/** The codes of a job as evidence; null where nobody knows what is stored. Codes that were cleared had no time to come back. */
function knownCodes({ codes = [], facts }: DiagnosedJob): KnownCodes | null {
  if (codes.length > 0) return { codes, absent: facts?.codes !== "cleared-before" };
  return facts?.codes === "none" ? { codes, absent: true } : null;
}

/** What readings and codes say of one set of circuits. @param like the same weighed under another kind of them, beside which it is seen */
function weighCluster(
  inference: Inference,
  own: readonly NamedReading[],
  job: DiagnosedJob,
  onlyCircuit: string,
  matched: (code: string) => readonly MatchedCode[],
  like?: WeighedCluster,
): WeighedCluster {
  const passing = comesAndGoes(job);
  const told = passing ? withSymptoms(own) : own;
  const speaking = speakingCodes(inference, knownCodes(job), matched);
  const known = (observations: readonly Observation[]): Circumstances => circumstancesOf(inference, told, observations, onlyCircuit, passing);
  const asked = inference.observe(own, []);
  const cells = like === undefined || passing || !isSaidAlike(asked, like) ? null : contenders(inference, asked, known(asked), like, mostSaid(speaking));
  const watched = watchedBy(inference, speaking);
  inference.complete([...asked, ...watched.still], cells);
  inference.complete(watched.moved, watched.shaken(cells));
  const moved = passing ? symptomObservations(inference, told, onlyCircuit) : [];
  const codes = [...codeObservations(inference, speaking, watched), ...leftOpenObservations(inference, job.facts?.leftOpen), ...moved];
  const observations = [...asked, ...codes.map(({ observation }) => observation)];
  const when = known(observations);
  const evidence = cells === null ? inference.weigh(observations, when) : inference.weighAmong(observations, when, cells);
  return { inference, own, observations, codes, matched, known: when, evidence };
}

/** Whether readings say the same things of one kind of circuits as of another. */
function isSaidAlike(asked: readonly Observation[], { observations, codes }: WeighedCluster): boolean {
  const readings = observations.slice(0, observations.length - codes.length);
  return asked.length === readings.length && asked.every(({ id, key }, index) => id === readings[index]?.id && key === readings[index]?.key);
}

/** Expected number of slipped readings among the circuits' own from which two faults are considered. */
const PAIR_FLAG = 0.5;
/** Pairs weighing less than this beside the best single faults are left out again. */
const PAIR_NOTICED = 0.2;
/** From this probability of a fault nobody knows two known ones are tried. */
const UNKNOWN_NOTICED = 0.25;
/** From this probability on something is wrong in a set of circuits, whatever is wrong elsewhere. */
const FAULTY = 0.9;
/** A reading is counted as slipped from this probability on. */
const COUNTED_SLIP = 0.2;

/** A weighed job with where it stands, after two faults have been tried where there is a cause to. */
function judged(weighed: WeighedJob): Case {
  const standing = lazy(() => standingOf(weighed));
  const suspected = comesAndGoes(weighed.job) ? null : (misfitting(weighed) ?? leading(weighed, standing()));
  if (suspected === null) return caseOf(weighed, standing, null);
  const { at, led } = suspected;
  const grown = finished(withPairs(weighed, at, led));
  if (grown === null) return caseOf(weighed, standing, null);
  if (pairShare(grown.joint) <= PAIR_NOTICED) return caseOf(weighed, standing, { at, posterior: grown.joint.circuits[at] });
  // Pairs that count are weighed with all others: whoever led alone may be one of the two, with another fault of its unit.
  const all = led === null ? grown : (finished(withPairs(weighed, at, null)) ?? grown);
  return caseOf(
    all,
    lazy(() => standingOf(all)),
    null,
  );
}

function caseOf(weighed: WeighedJob, standing: () => Standing, challenge: Challenge | null): Case {
  return {
    ...weighed,
    challenge,
    standing,
    stake: lazy(() => stakeOf(weighed, standing())),
    owed: lazy(() => owedTests(weighed, standing(), challenge)),
    fit: lazy(() => fitOf(weighed, standing())),
    hangs: () => [],
  };
}

/** A set of circuits two faults are tried in; `led` are the units of whoever would be declared there, null where no single fault fits. */
interface Suspected {
  readonly at: number;
  readonly led: readonly string[] | null;
}

/** The circuits whose readings fit no single fault; null where all do. */
function misfitting(weighed: WeighedJob): Suspected | null {
  const { clusters, joint, doubts } = weighed;
  const slipped = clusters.map(() => 0);
  const corrected = overtakenIn(weighed);
  for (const { posterior, probability, id } of doubts)
    if (probability > COUNTED_SLIP && !corrected.has(id)) {
      const at = joint.circuits.indexOf(posterior);
      slipped[at] = (slipped[at] ?? 0) + probability;
    }
  // Readings that only a fault nobody knows explains may be explained by two that are known.
  joint.circuits.forEach(({ unknown }, at) => {
    if (unknown > UNKNOWN_NOTICED) slipped[at] = Math.max(slipped[at] ?? 0, 2 * unknown);
  });
  const worst = slipped.indexOf(Math.max(...slipped));
  return (slipped[worst] ?? 0) >= PAIR_FLAG ? { at: worst, led: null } : null;
}

/** The circuits of a unit that would be declared now; null where none would. */
function leading(weighed: WeighedJob, standing: Standing): Suspected | null {
  const { posterior, group } = standing;
  if (posterior === null || bareStatus(weighed, standing, stakeOf(weighed, standing)) !== "proven") return null;
  return { at: weighed.joint.circuits.indexOf(posterior), led: group };
}

/**
 * The sets of circuits besides the leader's in which something is wrong as well, each as a case of its own: circuits that share nothing are
 * concluded each for itself.
 */
export function casesApart(opened: Case): readonly Case[] {
  const { clusters, joint } = opened;
  const leading = opened.standing().posterior;
  if (leading === null || clusters.length < 2) return [];
  return clusters.flatMap((cluster, index) => {
    const posterior = joint.circuits[index];
    if (posterior === undefined || posterior === leading || posterior.units[0] > 1 - FAULTY) return [];
    return [judged(joined(opened, [cluster]))];
  });
}

/** The job with one set of circuits weighed on pairs of faults besides; null where no pair comes into question. */
function* withPairs(weighed: WeighedJob, at: number, led: readonly string[] | null): Steps<WeighedJob | null> {
  const { job, onlyCircuit, clusters } = weighed;
  const cluster = clusters[at];
  // Circuits that stand on pairs already are tried with no third fault.
  if (cluster === undefined || cluster.inference.grid.kind !== "own") return null;
  const pairs = yield* weighPairs(cluster, (inference) => weighCluster(inference, cluster.own, job, onlyCircuit, cluster.matched), led);
  if (pairs === null) return null;
  return joined(
    weighed,
    clusters.map((own) => (own === cluster ? pairs : own)),
  );
}

/**
 * Solves the pairs that would challenge whoever leads now, though nobody is about to be declared: when the next reading makes it so, most of
 * them are known.
 */
export function* challengeAhead(opened: Case): Steps<void> {
  const { clusters, joint, challenge, job } = opened;
  const { posterior, group } = opened.standing();
  const at = posterior === null ? -1 : joint.circuits.indexOf(posterior);
  const cluster = clusters[at];
  if (cluster === undefined || challenge !== null || comesAndGoes(job)) return;
  yield* withPairs(opened, at, group);
}
