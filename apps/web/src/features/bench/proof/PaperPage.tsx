import { formatPercent } from "@fox-lamp/core";
import { isWordMeter, meterWords, unitOfReading } from "@fox-lamp/language";
import { Printer } from "lucide-react";
import { Link, useParams } from "react-router";
import { DeadEnd } from "../../../app/DeadEnd";
import { usePerson } from "../../../app/session";
import { Brand } from "../../../app/shell";
import { wordsOf } from "../../../circuit/typed";
import { useAnalysis } from "../../../circuit/use-analysis";
import { alongTitles, leadText, setupText, testTitle, titleOf, windowText } from "../../../circuit/wording";
import { messages } from "../../../messages";
import { unitLabel } from "../../../ui/display";
import { PlainPage } from "../../../ui/states";
import { vehicleLine, vehicleName } from "../../../ui/vehicle";
import { useBenchJob } from "../use-bench-job";

const t = messages.paper;
const MOST_TESTS = 8;

/** The next tests as a sheet of paper: where the leads go, what is wanted, and a blank for what was read. */
export function PaperPage() {
  const { id = "" } = useParams();
  const { job, state, missing, diagnosed } = useBenchJob(id);
  const person = usePerson();
  const { analysis, failure } = useAnalysis(diagnosed);
  if (missing) return <DeadEnd>{messages.states.noJob}</DeadEnd>;
  if (failure !== null) return <DeadEnd>{failure}</DeadEnd>;
  if (!job || !analysis) return <PlainPage>{messages.bench.computing}</PlainPage>;
  const { diagnosis, circuits } = analysis;
  return (
    <div className="min-h-full bg-white text-black print:bg-white">
      <header className="flex items-center gap-4 border-b border-black/20 px-6 py-2 print:hidden" data-theme="day">
        <Brand />
        <Link to={`/jobs/${id}/bench`} className="ml-auto text-ink underline">
          {t.back}
        </Link>
        <button type="button" onClick={() => print()} className="flex h-11 items-center gap-2 rounded-lg bg-lamp px-4 font-bold text-on-lamp">
          <Printer size={18} aria-hidden="true" /> {t.print}
        </button>
      </header>
      <main id="content" className="mx-auto max-w-3xl px-6 py-6 print:p-0">
        <h1 className="m-0 text-2xl font-bold">{t.title}</h1>
        <p className="m-0 mt-1">
          {vehicleName(job.vehicle)}, {vehicleLine(job.vehicle)}. {state.complaint}
        </p>
        <p className="m-0 mt-1 text-sm">{t.hint}</p>
        <p className="m-0 mt-2 text-sm">
          {diagnosis.units
            .slice(0, 4)
            .map(({ unit, probability }) => `${titleOf(unit, circuits)} ${formatPercent(probability)}`)
            .join(", ")}
        </p>
        <ol className="mt-4 list-none p-0">
          {diagnosis.next.slice(0, MOST_TESTS).map((test, index) => {
            const circuit = circuits.find((candidate) => candidate.id === test.circuit);
            const leads = meterWords(test.meter).leads ? [test.red, test.black] : [];
            return (
              <li
                key={test.test}
                className="grid break-inside-avoid grid-cols-[2rem_1fr] gap-x-4 gap-y-2 sm:grid-cols-[2rem_1fr_11rem] print:grid-cols-[2rem_1fr_11rem] border-t border-black/40 py-3"
              >
                <span className="readout text-xl font-bold">{index + 1}</span>
                <div>
                  <p className="m-0 font-bold">{testTitle(test, circuits)}</p>
                  {leads.map((lead, position) => {
                    if (lead === null) return null;
                    const { main, detail, how } = leadText(circuit, lead, test.setup, circuits);
                    return (
                      <p key={lead} className="m-0 text-sm">
                        {position === 0 ? messages.bench.red : messages.bench.black}: {[main, detail, how].filter((text) => text !== "").join(", ")}
                      </p>
                    );
                  })}
                  <p className="m-0 text-sm">
                    {messages.bench.meter[test.meter]}, {setupText(test.setup)}
                  </p>
                  {test.along && <p className="m-0 text-sm">{messages.bench.along(alongTitles(test.along, circuits))}</p>}
                  {test.cautions.map((caution) => (
                    <p key={caution} className="m-0 text-sm">
                      ! {caution}
                    </p>
                  ))}
                </div>
                <div className="col-start-2 sm:col-start-3 print:col-start-3">
                  <p className="readout m-0 whitespace-nowrap text-sm">{windowText(test.expect, test.record !== undefined)}</p>
                  <p className="m-0 mt-5 border-b border-black text-right">{isWordMeter(test.meter) ? "" : unitLabel(unitOfReading(test))}</p>
                  <p className="m-0 text-xs">
                    {isWordMeter(test.meter)
                      ? wordsOf(test)
                          .map((word) => messages.bench.findings[word] ?? word)
                          .join(" / ")
                      : t.read}
                  </p>
                </div>
              </li>
            );
          })}
        </ol>
        <p className="mt-4 text-sm">{t.order}</p>
        <p className="mt-6 text-sm">
          {t.by}: {person} ______________ {t.date}: ______________
        </p>
      </main>
    </div>
  );
}
