import { genericCode } from "@fox-lamp/core/codes";
import { unitTitle } from "@fox-lamp/core/diagnosis";
import { formatPercent } from "@fox-lamp/core/units";
import type { JobDetail } from "@fox-lamp/language";
import { format } from "date-fns";
import { ArrowRight } from "lucide-react";
import { useMemo } from "react";
import { Link, useParams } from "react-router";
import { Brand, PersonSelect, ThemeButton } from "../../app/shell";
import { useJob } from "../../app/use-job";
import { messages } from "../../messages";
import { StageRail } from "../../ui/StageRail";
import { Label, Plain } from "../../ui/states";
import { vehicleLine, vehicleName } from "../../ui/vehicle";
import { Triage, useTriage } from "./Triage";

const t = messages.job;

function Fact({ name, value }: { name: string; value: string | undefined }) {
  if (!value) return null;
  return (
    <div className="flex justify-between gap-4 border-t border-line py-2 first:border-t-0">
      <dt className="text-soft">{name}</dt>
      <dd className="text-right">{value}</dd>
    </div>
  );
}

function printed(value: unknown): string {
  return typeof value === "string" || typeof value === "number" ? String(value) : JSON.stringify(value);
}

/** What an entry says, in a few words. */
function entryText(entry: JobDetail["entries"][number]): string {
  switch (entry.kind) {
    case "complaint":
    case "repair":
    case "verification":
    case "note":
      return entry.body.text;
    case "code":
      return entry.body.code;
    case "conditions":
      return Object.entries(entry.body)
        .map(([name, value]) => `${name} ${value}`)
        .join(", ");
    case "reading": {
      const { reading } = entry.body;
      return `${messages.bench.meter[reading.meter]} ${reading.red}${reading.black ? ` to ${reading.black}` : ""}: ${printed(reading.value)}`;
    }
    case "skip":
      return entry.body.reason;
    case "decision":
      return entry.body.unit ? `${entry.body.decision}: ${unitTitle(entry.body.unit)}` : entry.body.decision;
    case "stage":
      return messages.stages[entry.body.stage];
    case "retraction":
      return "";
  }
}

const MOST_RECORDED = 14;

/** The latest entries of a job: who did what, when. */
function History({ entries }: { entries: JobDetail["entries"] }) {
  return (
    <section>
      <Label>{t.history}</Label>
      <ol className="mt-2 list-none p-0">
        {[...entries]
          .reverse()
          .slice(0, MOST_RECORDED)
          .map((entry) => (
            <li key={entry.id} className="grid grid-cols-[7.5rem_5rem_1fr] gap-x-3 border-b border-line py-2 text-sm">
              <time dateTime={entry.at} className="readout whitespace-nowrap text-soft">
                {format(new Date(entry.at), "d MMM HH:mm")}
              </time>
              <span className="text-soft">{messages.kinds[entry.kind]}</span>
              <span className="min-w-0 break-words">
                {entryText(entry)} <span className="text-soft">{entry.by}</span>
              </span>
            </li>
          ))}
      </ol>
    </section>
  );
}

/** A job: complaint, vehicle, codes with their freeze frames, circuits, and what has been proven and done. */
export function JobPage() {
  const { id = "" } = useParams();
  const { job, state, missing, failed, retry } = useJob(id);
  const codes = useMemo(() => {
    if (!job) return null;
    // What the module itself says counts before anything is touched; what leads have read belongs to the bench.
    const readings = state.readings.flatMap(({ reading }) => (reading.meter === "scan" && (reading.setup?.open ?? []).length === 0 ? [reading] : []));
    return { circuits: job.circuits, codes: [...state.codes], hints: [...state.hints], readings };
  }, [job, state.codes, state.hints, state.readings]);
  const { triage, failure } = useTriage(codes);
  if (missing) return <Plain>{messages.states.noJob}</Plain>;
  if (failed && !job) return <Plain retry={retry}>{messages.states.failed}</Plain>;
  if (!job) return <Plain>{messages.states.loading}</Plain>;
  const { vehicle } = job;
  return (
    <>
      <header className="flex flex-wrap items-center gap-x-5 gap-y-2 border-b border-line px-4 py-2 lg:px-6">
        <Brand />
        <StageRail job={job.id} stage={state.stage} here="job" />
        <span className="ml-auto flex items-center gap-3">
          <PersonSelect />
          <ThemeButton />
        </span>
      </header>
      <main id="content" className="mx-auto grid w-full max-w-6xl flex-1 content-start gap-6 px-4 py-6 lg:grid-cols-[1fr_22rem] lg:px-6">
        <div className="space-y-6">
          <section>
            <Label as="p">
              {vehicleName(vehicle)} · {t.complaint}
            </Label>
            <h1 className="mb-0 mt-1 text-2xl font-bold leading-snug">{state.complaint}</h1>
            {state.when && (
              <p className="mb-0 mt-2 text-soft">
                {t.when}: {state.when}
              </p>
            )}
          </section>
          <section>
            <Label>{t.codes}</Label>
            {state.codes.length === 0 && <p className="text-soft">{t.noCodes}</p>}
            <ul className="mt-2 list-none space-y-2 p-0">
              {state.codes.map((code) => (
                <li key={code.code} className="rounded-xl border border-line bg-panel px-4 py-3">
                  <div className="flex flex-wrap items-baseline gap-3">
                    <span className="readout text-lg font-bold">{code.code}</span>
                    {code.status && <span className="text-sm text-soft">{code.status}</span>}
                    <span>{typeof code["text"] === "string" ? code["text"] : (genericCode(code.code)?.title ?? t.unknownCode)}</span>
                  </div>
                  {code.freezeFrame && (
                    <dl className="mt-2 flex flex-wrap gap-x-6 gap-y-1 text-sm">
                      <dt className="text-soft">{t.freeze}</dt>
                      {Object.entries(code.freezeFrame).map(([name, value]) => (
                        <dd key={name}>
                          {name} <span className="readout font-bold">{printed(value)}</span>
                        </dd>
                      ))}
                    </dl>
                  )}
                </li>
              ))}
            </ul>
          </section>
          {triage && <Triage triage={triage} titles={new Map(job.circuits.map(({ id: name, title }) => [name, title ?? name]))} />}
          {state.codes.length > 0 && !triage && <p className="text-sm text-soft">{failure ?? t.triageComputing}</p>}
          <section>
            <Label>{t.circuits}</Label>
            <ul className="mt-2 list-none space-y-2 p-0">
              {job.circuits.map((circuit) => (
                <li key={circuit.id} className="flex flex-wrap items-center gap-4 rounded-xl border border-line bg-panel px-4 py-3">
                  <div className="min-w-0 flex-1">
                    <div className="font-bold">{circuit.title ?? circuit.id}</div>
                    <div className="text-sm text-soft">
                      {Object.entries(circuit.cavities ?? {})
                        .map(([pin, cavity]) => `${pin} ${cavity}${circuit.colours?.[pin] ? ` ${circuit.colours[pin]}` : ""}`)
                        .join(" · ")}
                    </div>
                  </div>
                  <span className="readout text-sm text-soft">
                    {messages.yard.readings(state.readings.filter(({ reading }) => (reading.circuit ?? circuit.id) === circuit.id).length)}
                  </span>
                </li>
              ))}
            </ul>
            <Link to={`/jobs/${job.id}/bench`} className="mt-4 inline-flex h-12 items-center gap-2 rounded-xl bg-lamp px-6 font-bold text-on-lamp no-underline">
              {t.openBench} <ArrowRight size={18} aria-hidden="true" />
            </Link>
          </section>
          <History entries={job.entries} />
        </div>
        <aside className="space-y-6">
          <section className="rounded-xl border border-line bg-panel px-4 py-3">
            <Label>{t.vehicle}</Label>
            <dl className="mt-1">
              <Fact name={t.vehicle} value={vehicleLine(vehicle)} />
              <Fact name={t.mileage} value={vehicle.mileageKm === undefined ? undefined : `${vehicle.mileageKm.toLocaleString("en")} km`} />
            </dl>
          </section>
          <section className="rounded-xl border border-line bg-panel px-4 py-3">
            <Label>{t.proof}</Label>
            {state.decisions.length === 0 && <p className="mb-0 mt-2 text-soft">{t.nothingProven}</p>}
            {state.readings.length > 0 && (
              <Link to={`/jobs/${job.id}/proof`} className="mt-2 block text-sm text-ink underline decoration-lamp underline-offset-4">
                {messages.bench.proofPage}
              </Link>
            )}
            <ul className="mt-2 list-none space-y-2 p-0">
              {state.decisions.map((decision, index) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: decisions are append-only and never reordered
                <li key={index}>
                  <div className="font-bold">{decision.unit ? unitTitle(decision.unit) : decision.decision}</div>
                  {decision.unit && (
                    <div className="text-sm text-soft">
                      {decision.decision}
                      {decision.probability === undefined ? "" : `, ${formatPercent(decision.probability)}`}
                    </div>
                  )}
                </li>
              ))}
            </ul>
          </section>
          {[
            { name: t.repairs, lines: state.repairs },
            { name: t.checks, lines: state.verifications },
            { name: t.notes, lines: state.notes },
          ]
            .filter(({ lines }) => lines.length > 0)
            .map(({ name, lines }) => (
              <section key={name} className="rounded-xl border border-line bg-panel px-4 py-3">
                <Label>{name}</Label>
                <ul className="mt-2 list-none space-y-1 p-0">
                  {lines.map((line) => (
                    <li key={line}>{line}</li>
                  ))}
                </ul>
              </section>
            ))}
        </aside>
      </main>
    </>
  );
}
