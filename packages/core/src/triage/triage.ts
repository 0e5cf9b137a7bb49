import { type Circuit, type Code, circuitOfUnit, inSentence } from "@fox-lamp/language";
import { buildModel, type CircuitModel, type Model } from "../circuit";
import { circuitsOfCode, followsFrom, type GenericCode, genericCode } from "../codes";
import { causesIn, DEFAULT_ACCESS, type DiagnosedJob, openCase, Session, storedUnder, titleIn, type WeighedCluster } from "../diagnosis";
import { formatPercent } from "../units";

/** One code with what is known of it. */
export interface TriagedCode {
  readonly code: string;
  readonly status: string;
  /** What it says in plain words; null for a code this version does not know. */
  readonly title: string | null;
  /** The job's circuits it speaks of. */
  readonly circuits: readonly string[];
  /** Codes of the job that can have set it as their consequence. */
  readonly followsFrom: readonly string[];
  /** What it is beside what explains most codes. */
  readonly role: CodeRole;
}

/**
 * What a code is beside what explains most codes: of the circuit of the likeliest cause, of another circuit on the same line, set because of
 * another code, or apart, which this does not explain.
 */
export type CodeRole = "cause" | "same-line" | "consequence" | "apart";

/** One unit that could explain several codes. */
export interface CommonCause {
  readonly unit: string;
  readonly title: string;
  /** Probability among the causes of these codes. */
  readonly probability: number;
}

/** Codes that one fault could explain. */
export interface CodeGroup {
  readonly codes: readonly string[];
  readonly circuits: readonly string[];
  /** What the circuits have in common: a shared line, a place, or being one circuit. */
  readonly shared: readonly string[];
  /** Probability that one fault explains all of them, given that something in these circuits is wrong. */
  readonly probability: number;
  readonly causes: readonly CommonCause[];
  readonly sentence: string;
}

/** What codes and data say before anything is touched. */
export interface Triage {
  readonly codes: readonly TriagedCode[];
  readonly groups: readonly CodeGroup[];
  /** The circuits in the order they should be opened, with the reason. */
  readonly order: readonly { readonly circuit: string; readonly why: string }[];
  /** What explains most codes, as a tree; null without codes of the job's circuits. */
  readonly tree: Tree | null;
  /** Looks to take before touching anything. */
  readonly looks: readonly string[];
  /** The same looks, with where they are taken. */
  readonly lookAt: readonly Look[];
}

/** A circuit on what several share. */
export interface Branch {
  readonly circuit: string;
  readonly title: string;
  /** That the cause is a unit of this circuit alone, given that something of the tree is wrong. */
  readonly probability: number;
  /** Minutes to reach its sensor's connector. */
  readonly minutes: number;
  readonly codes: readonly string[];
}

/** What circuits share, with its branches. */
export interface Tree {
  /** What they share, in words; empty where it is one circuit. */
  readonly shared: readonly string[];
  /** That the cause is in what they share; null where they share nothing. */
  readonly trunk: { readonly title: string; readonly probability: number } | null;
  readonly branches: readonly Branch[];
}

/** Something to look at: where, with the question. The place is as in a look's `red`. */
export interface Look {
  readonly circuit: string;
  readonly at: string;
  readonly question: string;
}

/** A fault explains a code when it would have set it with at least this probability. */
const EXPLAINS = 0.4;
const MOST_CAUSES = 6;
const LEAST_CAUSE = 0.01;

function statusOf(code: Code): string {
  return code.status ?? "current";
}

function titleOf(model: Model, circuit: string): string {
  return model.circuits.find(({ id }) => id === circuit)?.circuit.title ?? circuit;
}

/** Lines and places that circuits have in common. */
function sharedBy(model: Model, circuits: readonly CircuitModel[]): string[] {
  if (circuits.length < 2) return [];
  const found: string[] = [];
  const buses = new Set(circuits.flatMap(({ shares }) => shares.map(({ bus }) => bus)));
  for (const bus of buses) {
    const users = circuits.filter(({ id, shares }) => id === bus || shares.some((share) => share.bus === bus));
    if (users.length < 2) continue;
    for (const pin of ["ref", "gnd"] as const) {
      const joined = users.flatMap(({ shares }) => shares.filter((share) => share.bus === bus && share.busPin === pin));
      if (joined.length === 0) continue;
      const places = [...new Set(joined.map(({ at }) => at))];
      const where = places.every((place) => place === "module") ? "joined in the module" : `joined at ${places.join(", ")}`;
      found.push(`${pin === "ref" ? "the reference of" : "the ground of"} ${titleOf(model, bus)} (${where})`);
    }
  }
  const inline = circuits.map(({ circuit }) => new Set(circuit.inline ?? []));
  for (const place of inline[0] ?? []) if (inline.every((places) => places.has(place))) found.push(`connector ${place}`);
  const engine = circuits.filter(({ pins }) => pins.some(({ origin }) => origin === "engine"));
  if (engine.length === circuits.length) found.push("engine ground");
  for (const { first, second } of model.alike) {
    if (circuits.some(({ id }) => id === first) && circuits.some(({ id }) => id === second)) found.push(`alike connectors of ${first} and ${second}`);
  }
  return found;
}

function countWord(count: number): string {
  return ["no", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten"][count] ?? String(count);
}

/** Groups the codes of one set of circuits by what explains them: the most codes one fault could explain, then the rest. */
function groupsOf(cluster: WeighedCluster, codes: readonly Omit<TriagedCode, "role">[]): CodeGroup[] {
  const { model } = cluster.inference;
  const ids = new Set(cluster.inference.circuits.map(({ id }) => id));
  let left = codes.filter((code) => code.circuits.some((id) => ids.has(id)));
  const causes = causesIn(cluster);
  const title = (unit: string): string => {
    const circuit = circuitOfUnit(unit);
    const name = titleIn({ inference: cluster.inference } as Parameters<typeof titleIn>[0], unit);
    return cluster.inference.circuits.length > 1 ? `${name} of ${cluster.inference.circuitOf(circuit).circuit.title ?? circuit}` : name;
  };
  const table = new Map(left.map(({ code }) => [code, storedUnder(cluster, code)]));
  const groups: CodeGroup[] = [];
  while (left.length > 0) {
    const sets = new Map<string, { codes: Omit<TriagedCode, "role">[]; members: typeof causes; probability: number }>();
    for (const cause of causes) {
      const own = left.filter(({ code }) => ((table.get(code) as Float64Array)[cause.index] as number) >= EXPLAINS);
      if (own.length === 0) continue;
      const key = own.map(({ code }) => code).join(" ");
      const entry = sets.get(key) ?? { codes: own, members: [], probability: 0 };
      entry.members.push(cause);
      entry.probability += cause.probability;
      sets.set(key, entry);
    }
    const best = [...sets.values()].sort((a, b) => b.codes.length * b.probability - a.codes.length * a.probability || b.probability - a.probability)[0];
    const chosen = best ?? { codes: left.slice(0, 1), members: causes, probability: 0 };
    const members = [...chosen.members].sort((a, b) => b.probability - a.probability).filter(({ probability }) => probability > LEAST_CAUSE);
    const circuits = cluster.inference.circuits.filter(({ id }) => chosen.codes.some((code) => code.circuits.includes(id)));
    const names = chosen.codes.map(({ code }) => code);
    const [first] = members;
    const lead = first === undefined ? "" : `, likeliest ${inSentence(title(first.unit))} (${formatPercent(first.probability)})`;
    const what = names.length === 1 ? `One code (${names[0]})` : `One fault could explain these ${countWord(names.length)} codes (${names.join(", ")})`;
    groups.push({
      codes: names,
      circuits: circuits.map(({ id }) => id),
      shared: sharedBy(model, circuits),
      probability: Math.min(1, chosen.probability),
      causes: members.slice(0, MOST_CAUSES).map(({ unit, probability }) => ({ unit, title: title(unit), probability })),
      sentence: `${what}${names.length === 1 ? "" : `: ${formatPercent(Math.min(1, chosen.probability))}`}${lead}.`,
    });
    left = left.filter((code) => !chosen.codes.includes(code));
  }
  return groups;
}

/**
 * Triage: what the codes and the module's data say before anything is touched. Codes are weighed as evidence by their setting
 * rules on the same hypotheses as readings; groups come from what one fault would set, not from a table of symptoms.
 *
 * @throws BadInput for circuits or readings that cannot be
 */
export function triageJob(job: DiagnosedJob, cache: Session = new Session()): Triage {
  const model = buildModel(job.circuits);
  const listed = job.codes ?? [];
  const generics = listed.flatMap(({ code }): GenericCode[] => {
    const generic = genericCode(code);
    return generic === null ? [] : [generic];
  });
  const known = listed.map((entry): Omit<TriagedCode, "role"> => {
    const generic = genericCode(entry.code);
    const matched = circuitsOfCode(entry.code, model.circuits);
    const own = matched.filter(({ kind }) => kind !== "consequence").map(({ circuit }) => circuit);
    return {
      code: entry.code,
      status: statusOf(entry),
      title: generic?.title ?? (matched[0] === undefined ? null : `${matched[0].circuit}: ${matched[0].kind}`),
      circuits: [...new Set(own)],
      followsFrom: generic === null ? [] : followsFrom(generic, generics).map(({ code }) => code),
    };
  });
  const opened = openCase(job, cache);
  const groups = opened.clusters
    .flatMap((cluster) => groupsOf(cluster, known))
    .sort((a, b) => b.codes.length - a.codes.length || b.probability - a.probability);
  const codes = known.map((code): TriagedCode => ({ ...code, role: roleOf(code, groups[0]) }));
  const lookAt = looksFor(model, groups);
  return {
    codes,
    groups,
    order: orderOf(job.circuits, groups, codes),
    tree: treeOf(model, groups[0], codes),
    looks: lookAt.map(({ question }) => question),
    lookAt,
  };
}

/** The circuits to open: those that explain most current codes first, consequences and history last. */
function orderOf(circuits: readonly Circuit[], groups: readonly CodeGroup[], codes: readonly TriagedCode[]): Triage["order"] {
  const order: { circuit: string; why: string }[] = [];
  const weight = (group: CodeGroup): number =>
    group.codes.reduce((sum, name) => sum + (codes.find(({ code }) => code === name)?.status === "history" ? 0.3 : 1), 0) * (0.5 + 0.5 * group.probability);
  for (const group of [...groups].sort((a, b) => weight(b) - weight(a))) {
    const [cause] = group.causes;
    const first = cause === undefined ? undefined : circuitOfUnit(cause.unit);
    const ids = [...new Set([...(first !== undefined && circuits.some(({ id }) => id === first) ? [first] : []), ...group.circuits])];
    for (const circuit of ids) {
      if (order.some((entry) => entry.circuit === circuit)) continue;
      const shared = group.shared.length === 0 ? "" : ` They share ${group.shared.join(", ")}.`;
      order.push({
        circuit,
        why: circuit === ids[0] ? `${group.sentence}${shared}` : `Belongs to the same group as ${circuits.find(({ id }) => id === ids[0])?.title ?? ids[0]}.`,
      });
    }
  }
  for (const { code, followsFrom: sources } of codes) {
    const owners = codes.filter((source) => sources.includes(source.code)).flatMap(({ circuits: own }) => own);
    const at = order.findIndex(({ circuit }) => owners.includes(circuit));
    const entry = order[at];
    if (entry !== undefined) order[at] = { ...entry, why: `${entry.why} ${code} can be a consequence of ${sources.join(", ")}: prove the cause first.` };
  }
  return order;
}

/** What a code is beside the group that explains most. */
function roleOf({ code, circuits, followsFrom: sources }: Omit<TriagedCode, "role">, top: CodeGroup | undefined): CodeRole {
  if (top?.codes.includes(code) === true) {
    const [cause] = top.causes;
    const own = cause === undefined ? undefined : circuitOfUnit(cause.unit);
    return own === undefined || circuits.includes(own) || top.codes.length === 1 ? "cause" : "same-line";
  }
  return sources.length > 0 ? "consequence" : "apart";
}

/** Minutes to reach a circuit's sensor. */
function reachOf({ circuit }: CircuitModel): number {
  return circuit.access?.["sensor"] ?? DEFAULT_ACCESS["sensor"] ?? 0;
}

/** The group that explains most as a tree: what its circuits share, and each of them as a branch. */
function treeOf(model: Model, top: CodeGroup | undefined, codes: readonly TriagedCode[]): Tree | null {
  if (top === undefined || top.circuits.length === 0) return null;
  const members = model.circuits.filter(({ id }) => top.circuits.includes(id));
  const buses = new Set(members.flatMap(({ shares }) => shares.map(({ bus }) => bus)));
  // All circuits that hang on what is shared are branches, those without a code too: they may be the one that drags it.
  const branches = model.circuits.filter(
    (circuit) => !buses.has(circuit.id) && (top.circuits.includes(circuit.id) || circuit.shares.some(({ bus }) => buses.has(bus))),
  );
  const total = top.causes.reduce((sum, { probability }) => sum + probability, 0);
  const shareOf = (belongs: (circuit: string) => boolean): number =>
    total === 0 ? 0 : top.causes.reduce((sum, { unit, probability }) => sum + (belongs(circuitOfUnit(unit)) ? probability : 0), 0) / total;
  const trunks = [...buses].map((bus) => titleOf(model, bus));
  const onBranch = new Set(branches.map(({ id }) => id));
  const title = trunks.length > 0 ? trunks.join(", ") : (top.shared[0] ?? "");
  return {
    shared: top.shared,
    trunk: title === "" ? null : { title, probability: shareOf((circuit) => !onBranch.has(circuit)) },
    branches: branches
      .map(
        (circuit): Branch => ({
          circuit: circuit.id,
          title: circuit.circuit.title ?? circuit.id,
          probability: shareOf((id) => id === circuit.id),
          minutes: reachOf(circuit),
          codes: codes.filter(({ circuits }) => circuits.includes(circuit.id)).map(({ code }) => code),
        }),
      )
      .sort((x, y) => y.probability - x.probability || x.minutes - y.minutes),
  };
}

/** What can be seen without unplugging: connectors seated, shared stretches of loom, grounds. */
function looksFor(model: Model, groups: readonly CodeGroup[]): Look[] {
  const [first] = groups;
  if (first === undefined) return [];
  const looks = first.circuits.map((id): Look => {
    const circuit = model.circuits.find((candidate) => candidate.id === id);
    return { circuit: id, at: "sensor", question: `Is the connector of ${circuit?.circuit.title ?? id} seated, dry and clean from outside?` };
  });
  const [at] = first.circuits;
  if (at === undefined) return looks;
  const shared = first.shared.map((what): Look => {
    const connector = /^connector (\S+)$/u.exec(what)?.[1];
    return {
      circuit: at,
      at: connector ?? "loom",
      question: `Follow what they share, ${what}: is there chafing, heat, oil, water, an earlier repair?`,
    };
  });
  const loom: Look = { circuit: at, at: "loom", question: "Follow its loom to the module: is there chafing, heat, oil, water, an earlier repair?" };
  return [...looks, ...(shared.length === 0 ? [loom] : shared)];
}
