import { type CustomerReport, customerReport, formatPercent, type JobState } from "@fox-lamp/core";
import { type JobDetail, type Reading, type Shop, unitOfReading } from "@fox-lamp/language";
import { format } from "date-fns";
import type { Proven } from "../../../circuit/analysis.worker";
import { factWords } from "../../../circuit/facts";
import { limitsText } from "../../../circuit/limits";
import { namedCircuits } from "../../../circuit/names-of";
import { readingTitle, setupText, titleOf, valueText } from "../../../circuit/wording";
import { messages } from "../../../messages";
import { unitsAsWritten } from "../../../ui/display";
import { vehicleLine, vehicleName } from "../../../ui/vehicle";
import { printed, taskText } from "../shared/entry-text";

const t = messages.report;

/** A block of a report: a heading with lines, or with rows of a table. */
export interface Section {
  readonly title: string;
  readonly lines: readonly string[];
  readonly columns?: readonly string[];
  readonly rows?: readonly (readonly string[])[];
}

/** A report ready to be shown or printed: the same content as a screen and as a PDF. */
export interface ReportContent {
  readonly shop: string;
  readonly page: string;
  readonly vehicle: string;
  readonly vehicleDetails: string;
  readonly customer: readonly Section[];
  readonly technical: readonly Section[];
}

function customerSections(report: CustomerReport): Section[] {
  const section = (title: string, lines: readonly string[]): Section[] => (lines.length === 0 ? [] : [{ title, lines: lines.map(unitsAsWritten) }]);
  return [
    ...section(t.complaint, report.told),
    { title: t.found, lines: report.wrong.length > 0 ? report.wrong : [t.notYet] },
    ...section(t.how, report.how),
    ...section(t.done, report.done),
    ...section(t.checked, report.checked),
    ...section(t.besides, report.besides),
    ...section(t.advised, report.advised),
    ...section(t.plan, report.plan === null ? [] : [report.plan]),
  ];
}

/** What was decided, as it was recorded: verdict, odds, when, by whom. */
function decided({ decisions }: JobState, nameOf: (unit: string) => string, time: (at: string) => string): string[] {
  return decisions.flatMap(({ decision, unit, probability, at, by }) => {
    const odds = probability === undefined ? "" : ` (${formatPercent(probability)})`;
    if (decision === "proven" && unit) return [t.decided(`${nameOf(unit)}${odds}`, time(at), by)];
    return decision === "nothing-found" ? [t.nothingFound(time(at), by)] : [];
  });
}

/** From when to when was measured, by whom: as the entries were made. */
function measuredWhen({ readings }: JobState, time: (at: string) => string): string[] {
  const moments = readings.map(({ at }) => at).sort();
  const [first, last] = [moments[0], moments.at(-1)];
  if (first === undefined || last === undefined) return [];
  const people = [...new Set(readings.map(({ by }) => by))].join(", ");
  return [first === last ? t.measuredAt(time(first), people) : t.measuredFrom(time(first), time(last), people)];
}

function technicalSections(job: JobDetail, state: JobState, proven: Proven | null): Section[] {
  const views = namedCircuits(job.circuits);
  const nameOf = (unit: string): string => titleOf(unit, views);
  const time = (at: string): string => format(new Date(at), "d MMM yyyy HH:mm");
  const { proof = null } = proven ?? {};
  const windows = new Map(proof?.readings.map(({ id, window }) => [id, window]));
  const sections: Section[] = [];
  const verdicts = decided(state, nameOf, time);
  if (verdicts.length > 0) sections.push({ title: t.said, lines: verdicts });
  // What the readings say now, where nothing was recorded.
  else if (proof) sections.push({ title: t.said, lines: [proof.headline] });
  if (state.readings.length > 0) {
    sections.push({
      title: t.readings,
      lines: measuredWhen(state, time),
      columns: [t.number, t.reading, t.value, t.window],
      rows: state.readings.map(({ reading }) => [
        reading.id,
        `${readingTitle(reading, views)}, ${setupText(reading.setup ?? {}, views)}`,
        valueText(reading.value, unitOfReading(reading)),
        [windows.get(reading.id) ?? "", ...(reading.limits === undefined ? [] : [messages.bench.book(limitsText(reading.limits, unitOfReading(reading)))])]
          .filter((text) => text !== "")
          .join("; "),
      ]),
    });
  }
  if (proof && proof.cleared.length > 0)
    sections.push({ title: t.cleared, lines: proof.cleared.map(({ title, by, sentence }) => `${title} (${by.slice(0, 3).join(", ")}): ${sentence}`) });
  if (proof && proof.open.length > 0) sections.push({ title: t.open, lines: [proof.open.map(({ title }) => title).join(", ")] });
  const again = state.verifications.filter(({ of }) => of !== undefined);
  if (again.length > 0) sections.push({ title: t.beforeAfter, lines: again.map(({ text }) => unitsAsWritten(text)) });
  if (state.codes.length > 0) {
    const after = state.rescan === null ? [] : [t.codesAfter(state.rescan.codes.map(({ code }) => code).join(", "))];
    sections.push({
      title: t.codes,
      lines: [
        ...state.codes.map(({ code, status, freezeFrame }) => {
          const frame = Object.entries(freezeFrame ?? {}).map(([name, value]) => `${name} ${printed(value)}`);
          return [code, status ?? "", frame.join(", ")].filter(Boolean).join("  ");
        }),
        ...(state.cleared === null ? [] : [messages.check.cleared(time(state.cleared.at))]),
        ...after,
      ],
    });
  }
  const facts = factWords(state.facts, state.hints);
  if (facts.length > 0) sections.push({ title: messages.facts.title, lines: [facts.join(", ")] });
  if (state.battery) {
    const { restVolts, crankingVolts, measuredAmps, ratedAmps } = state.battery;
    const rated = measuredAmps === undefined ? "" : t.amperes(measuredAmps, ratedAmps);
    sections.push({ title: t.battery, lines: [`${t.rest(restVolts)}${crankingVolts === undefined ? "" : `, ${t.cranking(crankingVolts)}`}${rated}`] });
  }
  if (state.recordings.length > 0)
    sections.push({
      title: t.recordings,
      lines: state.recordings.map(({ title, seconds, findings }) => `${title}, ${Math.round(seconds)} s. ${findings.join(" ")}`),
    });
  const overrides = state.decisions.filter(({ decision }) => decision === "override");
  const parts = state.repairs.flatMap(({ text, part, at, by }) => [`${time(at)} ${by}: ${text}${part?.number ? ` (${part.number})` : ""}`]);
  const located = state.located.map(({ way, place, text }) => `${messages.repair.way[way]}: ${place}${text ? `, ${text}` : ""}`);
  sections.push({
    title: t.record,
    lines: [
      ...overrides.map(({ unit, probability }) => t.override(nameOf(unit ?? ""), formatPercent(probability ?? 0))),
      ...located,
      ...parts,
      ...state.notes.map(({ text, at, by }) => `${time(at)} ${by}: ${text}`),
      ...[...state.tasks.values()].filter(({ done }) => done).map(({ task, text }) => unitsAsWritten(`✓ ${taskText(task, views)}${text ? `: ${text}` : ""}`)),
    ],
  });
  return sections.filter(({ lines, rows }) => lines.length > 0 || (rows ?? []).length > 0);
}

/** A job's report, for the customer and for technicians. @param proven the proof; null while it is being written */
export function reportContent(job: JobDetail, state: JobState, shop: Shop | undefined, proven: Proven | null, outside: readonly string[]): ReportContent {
  const views = namedCircuits(job.circuits);
  const plain = setupText({});
  // Two readings at one point are told apart by what was done meanwhile.
  const named = (reading: Reading): string => {
    const how = setupText(reading.setup ?? {}, views);
    return how === plain ? readingTitle(reading, views) : `${readingTitle(reading, views)} (${how})`;
  };
  const told = state.readings.map(({ reading }) => [reading.id, { title: named(reading), outside: outside.includes(reading.id) }] as const);
  const last = job.entries.at(-1)?.at;
  const mileage = state.mileageKm ?? job.vehicle.mileageKm;
  return {
    shop: shop?.name ?? "",
    page: t.page(String(job.number), last === undefined ? "" : format(new Date(last), "d MMMM yyyy")),
    vehicle: vehicleName(job.vehicle),
    vehicleDetails: [vehicleLine(job.vehicle), job.vehicle.plate, mileage === undefined ? null : `${mileage.toLocaleString("en")} km`]
      .filter(Boolean)
      .join(", "),
    customer: customerSections(customerReport(job.circuits, state, proven?.proof ?? null, new Map(told))),
    technical: technicalSections(job, state, proven),
  };
}
