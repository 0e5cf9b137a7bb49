import { type Diagnosis, inSentence, type Measurement, type NextTest, parseUnit, type RepairUnit, type Stake, unitKindOf } from "@fox-lamp/language";
import { parameterTitle, statedParameters } from "../../circuit";
import { lazy } from "../../numeric";
import { measurementOf, type Procedure } from "../../procedures";
import type { Case } from "../decision/case";
import { decidingReadings } from "../decision/deciding";
import { isMisfit } from "../decision/fit";
import { casesApart, openCase } from "../decision/open-case";
import { soundWeight, WRONG_MINUTES } from "../decision/stake";
import { openBesideSound, type Refuted } from "../decision/standing";
import { bareStatus } from "../decision/status";
import { statusOf, testsNow } from "../decision/what-now";
import { withBooks } from "../inference/booked";
import { type DiagnosedJob, type NameOf, namesIn, placeName } from "../inference/diagnosed-job";
import { isInPlug, offPlugs } from "../inference/found-off";
import { Session } from "../inference/session";
import { storedUnder } from "../posterior/causes";
import { involvedUnits, pairShare, partnerOf } from "../posterior/involved";
import type { CircuitPosterior } from "../posterior/posterior";
import { Clearing } from "../posterior/refutation";
import { isSeenOnly } from "../posterior/seen-only";
import { comesAndGoes, type OnProgress } from "../posterior/weighed-job";
import { ASK_MINUTES } from "../value-of-information/questions";
import { causeRules } from "./cause-rules";
import { nextTestOf } from "./next";
import { confirmOf, doubtfulOf, repairedIn, repairedOf, suspectsOf, type Told, titleIn } from "./reasons";
import { rulesFor, stepsOf } from "./steps";

/** A doubtful reading is more likely slipped than not. */
const DOUBTFUL = 0.5;
const MOST_NEXT = 12;
const MOST_SUSPECTS = 12;

/**
 * Diagnoses a job: weighs its readings by physics, ranks suspects and tests, and declares a verdict when it is proven.
 *
 * @param session what was computed before is found again in it; the result never depends on it
 * @param onProgress told before each stretch of work
 * @throws BadInput for circuits or readings that cannot be
 */
export function diagnoseJob(job: DiagnosedJob, session: Session = new Session(), onProgress: OnProgress = () => undefined): Diagnosis {
  const opened = openCase(job, session, onProgress);
  const { clusters, joint, readings } = opened;
  onProgress(clusters.length, 2 * clusters.length, "tests");
  const told = { readings, nameOf: namesIn(job) };
  const plugs = offPlugs(opened.numbered, opened.onlyCircuit);
  const doubtful = opened.doubts
    .filter(({ probability }) => probability > DOUBTFUL)
    .map(({ posterior, index, probability }) => doubtfulOf(posterior, index, probability, told));
  const apart = casesApart(opened);
  const all = [opened, ...apart].map((one) => ({ one, verdict: verdictOf(one, job, doubtful, told.nameOf) }));
  const isProven = ({ verdict: { status } }: (typeof all)[number]): boolean => status === "proven";
  const [first = { one: opened, verdict: verdictOf(opened, job, doubtful, told.nameOf) }] = [...all.filter(isProven), ...all.filter((one) => !isProven(one))];
  const { verdict } = first;
  const unfinished = all.find((one) => !isProven(one))?.one;
  const done = unfinished === undefined || verdict.status === "nothing-found";
  const tests = testsNow(unfinished ?? opened);
  const units = involvedUnits(joint);
  return {
    format: "fox-lamp/diagnosis@1",
    verdict,
    unexplained: unexplainedCodes(
      opened,
      all.filter(isProven).map((one) => one.verdict),
    ),
    ...(all.filter(isProven).length > 1 ? { verdicts: all.filter(isProven).map((one) => one.verdict) } : {}),
    units,
    healthy: Math.min(1, joint.healthy),
    unknown: Math.min(1, Math.max(...joint.circuits.map(({ unknown }) => unknown))),
    suspects: mergedSuspects(joint.circuits.flatMap((posterior) => suspectsOf(posterior, told))).slice(0, MOST_SUSPECTS),
    doubtful,
    ...bookedIn(job, told.nameOf),
    ...confirmedBy(
      all.filter(isProven).map(({ one }) => one),
      told,
    ),
    stake: done ? null : stakeWords(job, units[0] ?? null, opened.standing().posterior, tests[0]?.test.minutes ?? null),
    ...(done ? {} : asked(unfinished ?? opened)),
    next: done ? [] : tests.slice(0, MOST_NEXT).map(({ posterior, test, cause }): NextTest => nextTestOf(posterior, test, { cause, plugs })),
  };
}

/** The readings proven verdicts hang on, with their words. */
function confirmedBy(proven: readonly Case[], told: Told): Pick<Diagnosis, "confirm"> {
  const confirm = proven.flatMap((one) => {
    const { posterior } = one.standing();
    return posterior === null ? [] : decidingReadings(one, one.standing(), one.fit()).map((deciding) => confirmOf(posterior, deciding, told));
  });
  return confirm.length === 0 ? {} : { confirm };
}

/** Published limits of readings that count as values of a sheet; nothing where none do. */
function bookedIn({ circuits, readings = [] }: DiagnosedJob, nameOf: NameOf): Pick<Diagnosis, "booked"> {
  const { booked } = withBooks(circuits, readings);
  return booked.length === 0 ? {} : { booked: booked.map(({ reading, ...value }) => ({ reading: nameOf(placeName(reading)), ...value })) };
}

/** More than so many questions are not asked at once. */
const MOST_ASKED = 3;

/** What to look up, where that would tell something: the first of the parameters that would do, in the words of its circuit's family. */
function asked(opened: Case): Pick<Diagnosis, "ask"> {
  const { questions, strained } = opened.standing();
  const telling = questions();
  const proven = bareStatus(opened, opened.standing(), opened.stake()) === "proven" && opened.owed().length === 0;
  // What the verdict hangs on comes before what would merely help.
  const needed = (proven ? [...strained(), ...opened.hangs()] : []).map(({ circuit, parameters }) => {
    const alike = telling.find((one) => one.circuit === circuit && one.parameters.some((name) => parameters.includes(name)));
    return { circuit, parameters, gainBits: alike?.gainBits ?? 1 };
  });
  const ask = [...needed, ...telling]
    .filter(({ circuit, parameters }, at, all) => all.findIndex((one) => one.circuit === circuit && one.parameters[0] === parameters[0]) === at)
    .slice(0, MOST_ASKED)
    .flatMap(({ circuit, parameters: [parameter = ""], gainBits }) => {
      const part = opened.joint.circuits.find(({ inference }) => inference.circuits.some(({ id }) => id === circuit));
      const title = part === undefined ? "" : parameterTitle(part.inference.circuitOf(circuit).family, parameter);
      return title === "" ? [] : [{ circuit, parameter, title, gainBits, minutes: ASK_MINUTES }];
    });
  return ask.length === 0 ? {} : { ask };
}

/** A code a verdict explains would have been set by it so often at least. */
const EXPLAINS = 0.3;

/** The stored codes that no proven unit would have set; empty while nothing is proven. */
function unexplainedCodes({ clusters, job }: Case, proven: readonly Diagnosis["verdict"][]): string[] {
  if (proven.length === 0) return [];
  const units = new Set(proven.flatMap(({ unit, group, also }) => [unit, ...group, also?.unit]));
  return (job.codes ?? []).flatMap(({ code }) => {
    const explained = clusters.some((cluster) => {
      const stored = storedUnder(cluster, code);
      return cluster.inference.grid.units.some((unit, index) => unit.split("&").some((member) => units.has(member)) && stored[index] >= EXPLAINS);
    });
    return explained ? [] : [code];
  });
}

/** Kinds of units that are replaced, not repaired. */
const PARTS: readonly string[] = ["sensor", "coil", "heater", "module", "battery"];

/** Parameters that are a winding's ohms, named as the unit they belong to. */
const WINDINGS = ["coil", "heater"] as const;

/** What leads, what belongs to it, what is refuted by what, and what to do now. */
function verdictOf(opened: Case, job: DiagnosedJob, doubtful: Diagnosis["doubtful"], nameOf: NameOf): Diagnosis["verdict"] {
  const { joint, numbered } = opened;
  const { group, refuted, open, beside, posterior, sober } = opened.standing();
  const status = statusOf(opened);
  const fit = opened.fit();
  // Nothing was found though somebody leads: a fault that comes and goes did not come, and whoever leads is only not excluded.
  const unfound = status === "nothing-found" && posterior !== null;
  const involved = involvedUnits(joint);
  const double = pairShare(joint) > 0.5;
  const leader = double ? (involved[0] ?? null) : null;
  const partner = leader === null ? null : partnerOf(joint, leader.unit);
  const separate = double ? null : separateWords(group, posterior);
  const condemned = leader === null ? group : [leader.unit];
  const anyone = posterior ?? joint.circuits[0];
  const order = new Map(numbered.map(({ id }, index) => [id, index]));
  // Of two faults neither is cleared, though each by itself explains too little.
  const both = new Set([leader?.unit, partner?.unit]);
  const beyond = unfound ? openBesideSound(joint) : [];
  // Nobody can say of a winding that it is as it should be while no sheet says how many ohms it should have.
  const unknowable = status === "nothing-found" ? windingsUnsaid(job, opened) : [];
  const alsoLikely = new Set(double ? alsoOpen(involved) : []);
  const isOpen = (unit: string): boolean => both.has(unit) || alsoLikely.has(unit) || unknowable.includes(unit) || beyond.includes(unit);
  const told = refuted.filter(({ unit }) => !unit.includes("&") && !isOpen(unit));
  const judgedUnits = unfound ? againstSound(opened, told) : told.map(({ unit, by }) => ({ unit, by: by() }));
  const cleared = judgedUnits.flatMap(({ unit, by }) => (by === null ? [] : [{ unit, by }]));
  const because = [...new Set(cleared.flatMap(({ by }) => by))].sort((a, b) => (order.get(a) ?? 0) - (order.get(b) ?? 0));
  const seen = unfound && !comesAndGoes(job) && isSeenOnly(posterior, group) ? [...group] : [];
  const off = offPlugs(numbered, opened.onlyCircuit).find((plug) => {
    const leading = unfound ? seen : condemned;
    return leading.length > 0 && leading.every((unit) => isInPlug(unit, plug));
  });
  const notExcluded = [...new Set([...(unfound ? group : []), ...open.map(({ unit }) => unit), ...beside, ...beyond, ...unknowable])].filter(
    (unit) => unit !== "",
  );
  const steps = stepsOf({
    status,
    names: condemned.flatMap((unit) => repairedIn(anyone, unit) ?? []),
    part: condemned.some((unit) => PARTS.includes(unitKindOf(unit) ?? "")),
    partner: partner === null ? null : titleIn(anyone, partner.unit),
    off: off === undefined ? null : off.connector,
    open: unfound
      ? notExcluded.map((unit) => titleIn(anyone, unit))
      : open.filter(({ unit }) => unit !== "").map(({ unit, posterior: own }) => titleIn(own, unit)),
    seen: seen.map((unit) => titleIn(anyone, unit)),
    doubtful,
    misfits: isMisfit(fit) ? fit.worst.map(nameOf) : [],
    separate,
    rules: [
      ...(posterior === null ? [] : causeRules(posterior, condemned[0] ?? "")),
      ...rulesFor(
        condemned,
        job.policy,
        new Map(job.circuits.map(({ id, family }) => [id, family])),
        (job.readings ?? []).some((reading) => reading["pierced"] === true),
      ),
    ],
  });
  return {
    status,
    unit: posterior === null || status === "nothing-found" ? null : (leader?.unit ?? group[0] ?? null),
    probability: leader?.probability ?? Math.min(1, unfound ? soundWeight(joint) : sober),
    group: double || unfound || group.length < 2 ? [] : [...group],
    open: double ? [...alsoLikely] : notExcluded,
    because: because.map(nameOf),
    // A plug that was found off is home: which of its terminals it was is nobody's question any more.
    separate: off === undefined ? separate : null,
    refuted: cleared.map(({ unit, by }) => ({ unit, by: by.map(nameOf) })),
    untested: judgedUnits.flatMap(({ unit, by }) => (by === null ? [unit] : [])),
    ...(seen.length === 0 ? {} : { seen }),
    ...(partner === null ? {} : { also: partner }),
    ...(steps.length === 0 ? {} : { steps }),
  };
}

/** Units of windings and heaters that a job's sheets say no ohms of: as their resistance may be anything, so may what is wrong with it. */
function windingsUnsaid({ circuits }: DiagnosedJob, { joint }: Case): string[] {
  const units = new Set(joint.circuits.flatMap(({ inference }) => inference.grid.units));
  return circuits.flatMap((circuit) => {
    const { origins } = statedParameters(circuit.with);
    return WINDINGS.filter((name) => (origins.get(name)?.from ?? "family") === "family" && units.has(`${circuit.id}/${name}`)).map(
      (name) => `${circuit.id}/${name}`,
    );
  });
}

/** What clears units against a sound car, where nobody leads. */
function againstSound({ joint }: Case, told: readonly Refuted[]): { unit: string; by: readonly string[] | null }[] {
  const clearings = joint.circuits.map((posterior) => ({ units: posterior.inference.grid.units, clearing: lazy(() => new Clearing(posterior, 0)) }));
  return told.map(({ unit }) => {
    const own = clearings.find(({ units }) => units.includes(unit));
    return { unit, by: own === undefined ? null : own.clearing().by(own.units.indexOf(unit)) };
  });
}

/** A test that can be done now, with its minutes, whatever it would tell. */
export interface PossibleMeasurement {
  readonly measurement: Measurement;
  readonly technique: Procedure["technique"];
  readonly minutes: number;
}

/** Every test that can be done now: what baselines choose from. */
export function possibleMeasurements(job: DiagnosedJob, session: Session): PossibleMeasurement[] {
  return openCase(job, session)
    .standing()
    .possible.flatMap((tests) =>
      tests.map(({ offered: { procedure }, minutes }) => ({ measurement: measurementOf(procedure), technique: procedure.technique, minutes })),
    );
}

/** Suspects of the same name once (a pair is tried at several severities), the likeliest first. */
function mergedSuspects(suspects: Diagnosis["suspects"]): Diagnosis["suspects"] {
  const byFault = new Map<string, Diagnosis["suspects"][number]>();
  for (const suspect of suspects) {
    const known = byFault.get(suspect.fault);
    if (known === undefined) byFault.set(suspect.fault, { ...suspect });
    else known.probability = Math.min(1, known.probability + suspect.probability);
  }
  return [...byFault.values()].sort((a, b) => b.probability - a.probability);
}

/** A probability as people say it: one time in so many, or so many times in ten. */
export function timesIn(probability: number): string {
  if (probability > 0.975) return "nearly always";
  if (probability > 0.55) return `${Math.min(9, Math.round(10 * probability))} times in 10`;
  return probability < 0.005 ? "less than 1 time in 200" : `1 time in ${Math.max(2, Math.round(1 / probability))}`;
}

/** What replacing or repairing the likeliest unit now would risk; null where nothing could be. */
function stakeWords(job: DiagnosedJob, first: Diagnosis["units"][number] | null, posterior: CircuitPosterior | null, nextMinutes: number | null): Stake | null {
  const repaired = first === null || posterior === null ? null : repairedIn(posterior, first.unit);
  if (first === null || posterior === null || repaired === null) return null;
  const wrong = 1 - first.probability;
  const lossMinutes = Number((wrong * WRONG_MINUTES).toFixed(1));
  const rate = job.policy?.["moneyPerHour"];
  const lossMoney = typeof rate === "number" && rate > 0 ? Number(((lossMinutes / 60) * rate).toFixed(2)) : null;
  const title = titleIn(posterior, first.unit);
  const currency = typeof job.policy?.["currency"] === "string" ? ` ${job.policy["currency"]}` : "";
  const loss = `${Math.max(1, Math.round(lossMinutes))} min${lossMoney === null ? "" : ` and ${Math.max(1, Math.round(lossMoney))}${currency}`}`;
  const next = nextMinutes === null ? "" : ` The next test takes about ${Math.max(1, Math.round(nextMinutes))} min.`;
  const verb = PARTS.includes(unitKindOf(first.unit) ?? "") ? "Replace" : "Repair";
  const sentence = `${verb} ${repairedOf(first.unit).length === 2 ? "" : "the "}${inSentence(repaired)} now: wrong ${timesIn(wrong)}, on average about ${loss} lost.${next}`;
  return { unit: first.unit, title, wrong, lossMinutes, nextMinutes, lossMoney, sentence };
}

/** Units that may be the second fault, or the only one. */
function alsoOpen(involved: Diagnosis["units"]): string[] {
  return involved.slice(1).flatMap(({ unit, probability }) => (probability > 0.02 ? [unit] : []));
}

function separateWords(group: readonly string[], posterior: CircuitPosterior | null): string | null {
  if (group.length < 2 || posterior === null) return null;
  const names = group.map((unit, index) => (index === 0 ? titleIn(posterior, unit) : inSentence(titleIn(posterior, unit))));
  const parsed = group.map(parseUnit);
  const some = (holds: (unit: RepairUnit) => boolean): boolean => parsed.some((unit) => unit !== null && holds(unit));
  const atModule = some((unit) => unit.kind === "contact" && unit.place === "module");
  const ways: string[] = [];
  if (atModule || some(({ kind }) => kind === "module")) ways.push("opening the module's connector and inspecting the bare pin");
  if (some(({ kind }) => kind === "contact") && !atModule) ways.push("inspecting the bare terminals");
  if (some(({ kind }) => kind === "sensor" || kind === "outside")) ways.push("fitting a known-good part, or an independent measurement of what it senses");
  if (ways.length === 0) ways.push("inspecting each by eye along its length");
  return `${names.join(", ")} read alike with these tests; ${ways.join(", or ")} would separate them.`;
}
