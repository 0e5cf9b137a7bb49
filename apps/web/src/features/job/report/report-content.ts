import { type CustomerReport, customerReport, type JobState } from "@fox-lamp/core";
import type { JobDetail, Paper, Reading, SharedPage, Shop } from "@fox-lamp/language";
import type { Proven } from "../../../circuit/analysis.worker";
import { namedCircuits } from "../../../circuit/names-of";
import { readingTitle, setupText } from "../../../circuit/wording";
import { messages } from "../../../messages";
import type { Section } from "../../../paper/section";
import { dayIn, momentIn } from "../../../ui/dates";
import { unitsAsWritten } from "../../../ui/display";
import { vehicleLine, vehicleName } from "../../../ui/vehicle";
import { technicalSections } from "./technical";

const t = messages.report;

/** A report ready to be shown or printed: the same content as a screen and as a PDF. */
export interface ReportContent {
  readonly shop: string;
  /** Lines below the shop's name. */
  readonly letterhead: readonly string[];
  /** The shop's picture as a data address; null for none. */
  readonly logo: string | null;
  readonly paper: Paper;
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

/** The customer's page as it is shared: nothing else of the report. */
export function sharedPage({ shop, letterhead, logo, page, vehicle, vehicleDetails, customer }: ReportContent): SharedPage {
  return {
    shop,
    letterhead: letterhead.join("\n"),
    logo,
    page,
    vehicle,
    vehicleDetails,
    sections: customer.map(({ title, lines }) => ({ title, lines: [...lines] })),
  };
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
  const look = shop?.settings?.report;
  const language = look?.dates ?? "en-GB";
  const last = job.entries.at(-1)?.at;
  const mileage = state.mileageKm ?? job.vehicle.mileageKm;
  return {
    shop: shop?.name ?? "",
    letterhead: (look?.letterhead ?? "").split("\n").filter((line) => line.trim() !== ""),
    logo: look?.logo ?? null,
    paper: look?.paper ?? "A4",
    page: t.page(String(job.number), last === undefined ? "" : dayIn(language, last)),
    vehicle: vehicleName(job.vehicle),
    vehicleDetails: [vehicleLine(job.vehicle), job.vehicle.plate, mileage === undefined ? null : `${mileage.toLocaleString("en")} km`]
      .filter(Boolean)
      .join(", "),
    customer: customerSections(customerReport(job.circuits, state, proven?.proof ?? null, new Map(told))),
    technical: technicalSections(job, state, proven, (at) => momentIn(language, at)),
  };
}
