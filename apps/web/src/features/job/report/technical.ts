import { codesAfter, formatPercent, formatQuantity, type JobState } from "@fox-lamp/core";
import { type JobDetail, type Part, type Reading, unitOfReading } from "@fox-lamp/language";
import type { Proven } from "../../../circuit/analysis.worker";
import { factWords } from "../../../circuit/facts";
import { limitsText } from "../../../circuit/limits";
import { leftOpenText, type NamedCircuit, namedCircuits } from "../../../circuit/names-of";
import { readingTitle, setupText, titleOf, valueText } from "../../../circuit/wording";
import { messages } from "../../../messages";
import { isSaid, type Section } from "../../../paper/section";
import { unitsAsWritten } from "../../../ui/display";
import { printed, taskText } from "../shared/entry-text";

const t = messages.report;

/** What the technicians' page is made from. */
interface Told {
  readonly job: JobDetail;
  readonly state: JobState;
  /** The proof; null where there is none. */
  readonly proven: Proven | null;
  /** A moment in the shop's language of dates. */
  readonly time: (at: string) => string;
  readonly views: readonly NamedCircuit[];
  readonly nameOf: (unit: string) => string;
}

/** Nothing that was measured is surer than this, whatever an older record says. */
const SUREST = 0.9999;

/** What was decided, as it was recorded: verdict, odds, when, by whom. */
function decided({ state: { decisions }, nameOf, time }: Told): string[] {
  return decisions.flatMap(({ decision, unit, probability, at, by }) => {
    const odds = probability === undefined ? "" : ` (${formatPercent(Math.min(probability, SUREST))})`;
    if (decision === "proven" && unit) return [t.decided(`${nameOf(unit)}${odds}`, time(at), by)];
    return decision === "nothing-found" ? [t.nothingFound(time(at), by)] : [];
  });
}

function verdictSection(told: Told): Section {
  const { job, state, proven } = told;
  const left = state.closing?.left;
  const recorded = decided(told);
  const open =
    left === undefined ? [] : [t.leftOpen(leftOpenText(left, job.circuits)), ...(left.test === undefined ? [] : [messages.check.separates(left.test.title)])];
  // What the readings say now, where nothing was recorded.
  const now = recorded.length === 0 && proven !== null ? [proven.proof.headline] : [];
  return { title: t.said, lines: [...recorded, ...open, ...(open.length > 0 ? [] : now)] };
}

/** From when to when was measured, by whom: as the entries were made. */
function measuredWhen({ state: { readings }, time }: Told): string[] {
  const moments = readings.map(({ at }) => at).sort();
  const [first, last] = [moments[0], moments.at(-1)];
  if (first === undefined || last === undefined) return [];
  const people = [...new Set(readings.map(({ by }) => by))].join(", ");
  return [first === last ? t.measuredAt(time(first), people) : t.measuredFrom(time(first), time(last), people)];
}

/** Where in a trace a reading was taken: its title, from when to when; nothing for one that was read elsewhere. */
function stretchText({ capture }: Reading, { captures }: JobState): string[] {
  const title = captures.find((one) => one.capture === capture?.id)?.title;
  return capture === undefined || title === undefined ? [] : [t.fromTrace(title, formatQuantity(capture.from, "s"), formatQuantity(capture.to, "s"))];
}

function readingSection(told: Told): Section {
  const { state, proven, views } = told;
  const windows = new Map(proven?.proof.readings.map(({ id, window }) => [id, window]));
  return {
    title: t.readings,
    lines: measuredWhen(told),
    columns: [t.number, t.reading, t.value, t.window],
    rows: state.readings.map(({ reading, was }) => [
      reading.id,
      [readingTitle(reading, views), setupText(reading.setup ?? {}, views), ...stretchText(reading, state)].join(", "),
      [valueText(reading.value, unitOfReading(reading)), ...was.map((value) => t.correctedFrom(valueText(value, unitOfReading(reading))))].join(" "),
      [windows.get(reading.id) ?? "", ...(reading.limits === undefined ? [] : [messages.bench.book(limitsText(reading.limits, unitOfReading(reading)))])]
        .filter((text) => text !== "")
        .join("; "),
    ]),
  };
}

/** Codes before with their freeze frames, and what became of them. */
function codeSection({ state, time }: Told): Section {
  const { asked, gone, stayed, foreseen, fresh } = codesAfter(state);
  const frameOf = (frame: Record<string, unknown> = {}): string =>
    Object.entries(frame)
      .map(([name, value]) => `${name} ${printed(value)}`)
      .join(", ");
  const after = state.rescan === null ? [] : [t.codesAfter(state.rescan.codes.map(({ code }) => code).join(", "))];
  const c = messages.check;
  const became = !asked
    ? after
    : [
        ...after,
        ...(gone.length > 0 ? [c.codesGone(gone.join(", "))] : []),
        ...(stayed.length > 0 ? [c.codesStayed(stayed.join(", "), foreseen.length === stayed.length)] : []),
        ...(fresh.length > 0 ? [c.codesFresh(fresh.join(", "))] : []),
      ];
  if (state.codes.length === 0 && state.rescan === null) return { title: t.codes, lines: [] };
  return {
    title: t.codes,
    lines: [
      ...(state.codes.length === 0 ? [t.noCodesBefore] : []),
      ...state.codes.map(({ code, status, freezeFrame }) => [code, status ?? "", frameOf(freezeFrame)].filter(Boolean).join("  ")),
      ...(state.cleared === null ? [] : [c.cleared(time(state.cleared.at))]),
      ...became,
    ],
  };
}

function batterySection({ state: { battery, batteryBefore } }: Told): Section {
  const line = ({ restVolts, crankingVolts, measuredAmps, ratedAmps }: NonNullable<JobState["battery"]>): string => {
    const rated = measuredAmps === undefined ? "" : t.amperes(measuredAmps, ratedAmps);
    return `${t.rest(restVolts)}${crankingVolts === undefined ? "" : `, ${t.cranking(crankingVolts)}`}${rated}`;
  };
  const again = battery !== null && batteryBefore !== null;
  return { title: t.battery, lines: [...(again ? [t.batteryBefore(line(batteryBefore))] : []), ...(battery === null ? [] : [line(battery)])] };
}

/** A new part as it was compared: numbers, ohms at their temperature, how it was fitted. */
export function partWords(part: Part): string[] {
  const at = (degC: number | undefined): string => (degC === undefined ? "" : ` ${messages.repair.atTemperature(formatQuantity(degC, "degC")).trim()}`);
  const ohms = (name: string, value: Part["oldOhms"], degC?: number): string[] =>
    value === undefined ? [] : [`${name} ${value === "OL" ? "OL" : formatQuantity(value, "ohm")}${at(degC)}`];
  return [
    ...(part.number === undefined ? [] : [part.number]),
    ...(part.variant === undefined ? [] : [t.variant(part.variant)]),
    ...(part.source === undefined ? [] : [messages.repair.sources[part.source]]),
    ...ohms(t.oldPart, part.oldOhms, part.oldTemperature),
    ...ohms(t.newPart, part.newOhms, part.newTemperature),
    ...ohms(t.twinPart, part.twinOhms),
    ...(part.shape === false ? [t.otherShape] : []),
    ...(part.seal === undefined ? [] : [part.seal]),
    ...(part.torque === undefined ? [] : [t.torque(part.torque, part.torqueSource)]),
  ];
}

/** What was done to wires, as it was written down. */
function wiringWords({ wiring }: JobState["repairs"][number]): string[] {
  if (wiring === undefined) return [];
  const { stretch, wires, how, sleeve, routing } = wiring;
  return [
    ...(stretch === undefined ? [] : [stretch]),
    ...(wires === undefined ? [] : [t.wires(wires)]),
    ...(how === undefined ? [] : [messages.repair.wiringWays[how].toLowerCase()]),
    ...(sleeve === undefined ? [] : [sleeve]),
    ...(routing === undefined ? [] : [routing]),
  ];
}

/** What was done, by whom, when: what was decided before proof, what was found, what was fitted. */
function recordSection({ state, time, nameOf, views }: Told): Section {
  const overrides = state.decisions.filter(({ decision }) => decision === "override");
  const work = state.repairs.map((repair) => {
    const { text, part, at, by, test } = repair;
    const details = [...(part === undefined ? [] : partWords(part)), ...wiringWords(repair), ...(test === undefined ? [] : [t.shownBy(test)])];
    return `${time(at)} ${by}: ${text}${details.length > 0 ? ` (${details.join(", ")})` : ""}`;
  });
  return {
    title: t.record,
    lines: [
      ...overrides.map(({ unit, probability }) => t.override(nameOf(unit ?? ""), formatPercent(probability ?? 0))),
      ...state.located.map(({ way, place, text }) => `${messages.repair.way[way]}: ${place}${text ? `, ${text}` : ""}`),
      ...work,
      ...state.notes.map(({ text, at, by }) => `${time(at)} ${by}: ${text}`),
      ...[...state.tasks.values()].filter(({ done }) => done).map(({ task, text }) => unitsAsWritten(`✓ ${taskText(task, views)}${text ? `: ${text}` : ""}`)),
      ...(state.closing?.despite === undefined ? [] : [t.despite(state.closing.despite)]),
    ],
  };
}

/** Specifications the job's circuits were held against, where the sheet names where they are from. */
function sourceSection({ job, views }: Told): Section {
  return {
    title: t.sources,
    lines: job.circuits.flatMap(({ id, source }) =>
      typeof source === "string" && source !== "" ? [`${views.find((view) => view.id === id)?.title ?? id}: ${source}`] : [],
    ),
  };
}

/** The technicians' page: everything the record holds, block by block; blocks without content are left out. */
export function technicalSections(job: JobDetail, state: JobState, proven: Proven | null, time: (at: string) => string): Section[] {
  const views = namedCircuits(job.circuits);
  const told: Told = { job, state, proven, time, views, nameOf: (unit) => titleOf(unit, views) };
  const proof = proven?.proof ?? null;
  const facts = factWords(state.facts, state.hints);
  const sections: Section[] = [
    verdictSection(told),
    readingSection(told),
    { title: t.cleared, lines: (proof?.cleared ?? []).map(({ unit, by, sentence }) => `${told.nameOf(unit)} (${by.slice(0, 3).join(", ")}): ${sentence}`) },
    { title: t.open, lines: (proof?.open ?? []).length === 0 ? [] : [(proof?.open ?? []).map(({ unit }) => told.nameOf(unit)).join(", ")] },
    {
      title: t.beforeAfter,
      lines: state.verifications
        .filter(({ check }) => check === "repeat" || check === "desired")
        .map(({ text, fits }) => `${unitsAsWritten(text)}${fits === undefined ? "" : fits ? `: ${messages.check.fits}` : `: ${messages.check.fitsNot}`}`),
    },
    codeSection(told),
    { title: messages.facts.title, lines: facts.length === 0 ? [] : [facts.join(", ")] },
    batterySection(told),
    { title: t.recordings, lines: state.recordings.map(({ title, seconds, findings }) => `${title}, ${Math.round(seconds)} s. ${findings.join(" ")}`) },
    sourceSection(told),
    recordSection(told),
    { title: t.photos, lines: [], pictures: state.photos.map(({ photo, caption }) => ({ source: `/api/jobs/${job.id}/photos/${photo}`, caption })) },
  ];
  return sections.filter(isSaid);
}
