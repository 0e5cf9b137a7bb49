import { diagnosedPart } from "@fox-lamp/core";
import { Download, Printer } from "lucide-react";
import { useMemo, useState } from "react";
import { useAnalysis, useProof } from "../../../circuit/use-analysis";
import { within } from "../../../circuit/wording";
import { messages } from "../../../messages";
import { Button } from "../../../ui/form";
import { saveAs } from "../../../ui/picture";
import { JobFrame, type Work } from "../shared/JobFrame";
import { type ReportContent, reportContent, type Section } from "./report-content";

const t = messages.report;

function Part({ section }: { section: Section }) {
  return (
    <section className="break-inside-avoid">
      <h3 className="mb-1 mt-4 text-sm font-bold text-lamp">{section.title}</h3>
      {section.lines.map((line) => (
        <p key={line} className="m-0 mb-1">
          {line}
        </p>
      ))}
      {section.rows && (
        <table className="w-full border-collapse text-sm">
          <thead>
            <tr className="text-left text-soft">
              {(section.columns ?? []).map((column) => (
                <th key={column} className="py-1 pr-3 font-normal">
                  {column}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {section.rows.map((row) => (
              <tr key={row.join("|")} className="border-t border-line align-top">
                {row.map((cell, index) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: the cells of a row never move
                  <td key={index} className={`py-1.5 pr-3 ${index === 1 ? "" : "readout"}`}>
                    {cell}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      )}
    </section>
  );
}

function Paper({ content, title, sections }: { content: ReportContent; title: string; sections: readonly Section[] }) {
  return (
    <article aria-label={title} className="rounded-2xl border border-line bg-panel px-6 py-5 print:break-after-page print:border-0">
      <header className="grid gap-x-6 gap-y-2 border-b-2 border-lamp pb-2 sm:flex sm:items-end sm:justify-between print:flex print:items-end print:justify-between">
        <div>
          <p className="m-0 font-bold">{content.shop}</p>
          <p className="m-0 text-sm text-soft">{content.page}</p>
        </div>
        <div className="sm:text-right print:text-right">
          <h2 className="m-0 text-xl font-bold">{content.vehicle}</h2>
          <p className="m-0 text-sm text-soft">{content.vehicleDetails}</p>
        </div>
      </header>
      <p className="mb-0 mt-3 text-sm text-soft">{title}</p>
      {sections.map((section) => (
        <Part key={section.title} section={section} />
      ))}
    </article>
  );
}

function ReportBody({ job, state, shop }: Work) {
  const diagnosed = useMemo(() => (job.circuits.length === 0 ? null : diagnosedPart(job, state, shop?.settings ?? null)), [job, state, shop]);
  const { analysis } = useAnalysis(diagnosed);
  const proven = useProof(diagnosed);
  const [busy, setBusy] = useState(false);
  const [said, setSaid] = useState<string | null>(null);
  const outside = useMemo(
    () => state.readings.filter(({ reading }) => within(reading.value, analysis?.windows[reading.id]) === false).map(({ reading }) => reading.id),
    [state.readings, analysis],
  );
  const content = reportContent(job, state, shop, proven, outside);
  const waiting = diagnosed !== null && state.readings.length > 0 && (proven === null || analysis === null);
  const save = async (): Promise<void> => {
    setBusy(true);
    setSaid(null);
    try {
      const { reportPdf } = await import("./report-pdf");
      const { file, plainFont } = await reportPdf(content);
      saveAs(file, `job-${job.number}-report.pdf`);
      if (plainFont) setSaid(t.fontFailed);
    } catch (error) {
      setSaid(`${t.failed}: ${error instanceof Error ? error.message : String(error)}`);
    } finally {
      setBusy(false);
    }
  };
  return (
    <div className="mx-auto max-w-4xl space-y-5" aria-busy={waiting}>
      <div className="flex flex-wrap items-center gap-2 print:hidden">
        <h1 className="m-0 mr-auto text-2xl font-bold">{t.title}</h1>
        <Button weight="next" disabled={busy || waiting} onClick={() => void save()} className="flex items-center gap-2">
          <Download size={18} aria-hidden="true" /> {busy ? t.making : t.pdf}
        </Button>
        <Button onClick={() => window.print()} className="flex items-center gap-2">
          <Printer size={18} aria-hidden="true" /> {messages.paper.print}
        </Button>
      </div>
      {said !== null && (
        <p role="alert" className="m-0 rounded-lg bg-caution px-3 py-2">
          {said}
        </p>
      )}
      <Paper content={content} title={t.customer} sections={content.customer} />
      <Paper content={content} title={t.technical} sections={content.technical} />
    </div>
  );
}

/** What was wrong, how it is known and what was done: a page for the customer, one for technicians, both as a PDF. */
export function ReportPage() {
  return <JobFrame here="closed">{(work) => <ReportBody {...work} />}</JobFrame>;
}
