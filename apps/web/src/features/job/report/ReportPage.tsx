import { Download, Printer } from "lucide-react";
import { useMemo, useState } from "react";
import { useAnalysis, useProof } from "../../../circuit/use-analysis";
import { within } from "../../../circuit/wording";
import { messages } from "../../../messages";
import { Paper } from "../../../paper/Paper";
import { Button } from "../../../ui/form";
import { saveAs } from "../../../ui/picture";
import { JobFrame, type Work } from "../shared/JobFrame";
import { useDiagnosed } from "../shared/use-diagnosed";
import { reportContent, sharedPage } from "./report-content";
import { ShareBlock } from "./ShareBlock";

const t = messages.report;

function ReportBody({ job, state, shop }: Work) {
  const diagnosed = useDiagnosed({ job, state, shop });
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
        <Button disabled={waiting} onClick={() => window.print()} className="flex items-center gap-2">
          <Printer size={18} aria-hidden="true" /> {messages.paper.print}
        </Button>
      </div>
      {said !== null && (
        <p role="alert" className="m-0 rounded-lg bg-caution px-3 py-2">
          {said}
        </p>
      )}
      {waiting && (
        <p role="status" className="m-0 rounded-lg bg-caution px-3 py-2">
          {t.computing}
        </p>
      )}
      <div className={`space-y-5 ${waiting ? "print:hidden" : ""}`}>
        <Paper head={content} title={t.customer} sections={content.customer} />
        <ShareBlock job={job.id} page={waiting ? null : sharedPage(content)} language={shop?.settings.report.dates ?? "en-GB"} />
        <Paper head={content} title={t.technical} sections={content.technical} />
      </div>
    </div>
  );
}

/** What was wrong, how it is known and what was done: a page for the customer, one for technicians, both as a PDF. */
export function ReportPage() {
  return <JobFrame here="closed">{(work) => <ReportBody {...work} />}</JobFrame>;
}
