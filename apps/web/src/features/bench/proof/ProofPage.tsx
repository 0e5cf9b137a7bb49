import { unitOfReading } from "@fox-lamp/language";
import { Printer } from "lucide-react";
import { useParams } from "react-router";
import { DeadEnd } from "../../../app/DeadEnd";
import { Brand, ThemeButton } from "../../../app/shell";
import { TraceLink } from "../../../app/TraceLink";
import { limitsText } from "../../../circuit/limits";
import { namedCircuits } from "../../../circuit/names-of";
import { useProof } from "../../../circuit/use-analysis";
import { readingTitle, setupText, titleOf } from "../../../circuit/wording";
import { messages } from "../../../messages";
import { StageRail } from "../../../ui/StageRail";
import { Label, PlainPage } from "../../../ui/states";
import { vehicleName } from "../../../ui/vehicle";
import { useBenchJob } from "../use-bench-job";

const t = messages.bench;

/** The proof as a page another technician can check: what was read against what a sound circuit shows, and what that clears. */
export function ProofPage() {
  const { id = "" } = useParams();
  const { job, state, missing, failed, retry, diagnosed } = useBenchJob(id);
  const proven = useProof(diagnosed);
  if (missing) return <DeadEnd>{messages.states.noJob}</DeadEnd>;
  if (failed && !job) return <DeadEnd retry={retry}>{messages.states.failed}</DeadEnd>;
  if (!job) return <PlainPage>{messages.states.loading}</PlainPage>;
  const circuits = namedCircuits(job.circuits);
  return (
    <>
      <header className="flex items-center gap-x-5 border-b border-line px-4 py-1.5 print:hidden lg:px-5">
        <Brand />
        <div className="hidden min-w-0 flex-1 md:block">
          <StageRail job={id} stage={state.stage} here="bench" />
        </div>
        <button type="button" onClick={() => window.print()} className="ml-auto flex h-11 items-center gap-2 rounded-lg border border-edge px-4 text-ink">
          <Printer size={18} aria-hidden="true" /> {t.print}
        </button>
        <ThemeButton />
      </header>
      <main id="content" className="mx-auto w-full max-w-4xl flex-1 space-y-6 px-4 py-6">
        <div>
          <Label as="p">
            {t.proofTitle} · {vehicleName(job.vehicle)} · {job.title}
          </Label>
          <h1 className="mb-0 mt-1 text-2xl font-bold leading-snug">{proven?.proof.headline ?? t.proofComputing}</h1>
          {state.complaint !== "" && <p className="mb-0 mt-2 text-soft">{state.complaint}</p>}
        </div>
        {proven && (
          <>
            <section>
              <Label>{t.proofReadings}</Label>
              <ol className="mt-2 list-none p-0">
                {proven.proof.readings.map(({ id: name, title, read, window }) => {
                  const taken = state.readings.find(({ reading }) => reading.id === name);
                  const move = proven.moves.find(({ reading }) => reading === name);
                  return (
                    <li key={name} className="border-t border-line py-2.5">
                      <div className="grid grid-cols-[2.5rem_1fr] gap-x-3 gap-y-1 sm:grid-cols-[2.5rem_1fr_auto]">
                        <span className="readout text-soft">{name}</span>
                        <span>
                          {taken ? readingTitle(taken.reading, circuits) : (t.battery[name] ?? title)}
                          <span className="block text-sm text-soft">{taken ? setupText(taken.reading.setup ?? {}, circuits) : ""}</span>
                          {taken?.reading.limits && (
                            <span className="block text-sm text-soft">
                              {messages.bench.book(limitsText(taken.reading.limits, unitOfReading(taken.reading)))}
                            </span>
                          )}
                          {taken && <TraceLink job={id} reading={taken.reading} />}
                        </span>
                        <span className="readout col-start-2 flex flex-wrap items-baseline gap-x-3 font-bold sm:col-start-3 sm:block sm:text-right">
                          {read}
                          {window !== "" && (
                            <span className="block text-sm font-normal text-soft">
                              {t.sound} {window}
                            </span>
                          )}
                        </span>
                      </div>
                      {move && <p className="mb-0 ml-[3.25rem] mt-1 text-sm text-soft">{move.sentence}</p>}
                    </li>
                  );
                })}
              </ol>
            </section>
            {proven.proof.cleared.length > 0 && (
              <section>
                <Label>{t.proofCleared}</Label>
                <ul className="mt-2 list-none space-y-2 p-0">
                  {proven.proof.cleared.map(({ unit, by, sentence }) => (
                    <li key={unit} className="text-sm">
                      <span className="font-bold">{titleOf(unit, circuits)}</span>{" "}
                      <span className="readout text-soft">{t.clearedBy(by.slice(0, 3).join(" "))}</span>
                      <span className="block text-soft">{sentence}</span>
                    </li>
                  ))}
                </ul>
              </section>
            )}
            {proven.proof.open.length > 0 && (
              <section>
                <Label>{t.proofOpen}</Label>
                <p className="mb-0 mt-1">{proven.proof.open.map(({ unit }) => titleOf(unit, circuits)).join(", ")}</p>
              </section>
            )}
          </>
        )}
      </main>
    </>
  );
}
