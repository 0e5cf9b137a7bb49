import type { DiagnosedJob } from "@fox-lamp/core";
import { ArrowRight, Pencil, Plus } from "lucide-react";
import { useMemo, useRef } from "react";
import { Link, useNavigate } from "react-router";
import type { Triaged } from "../../../circuit/analysis.worker";
import { useTriage } from "../../../circuit/use-analysis";
import { messages } from "../../../messages";
import { Block, Button } from "../../../ui/form";
import { JobFrame, type Work } from "../shared/JobFrame";
import { FoundBefore } from "./FoundBefore";
import { Looks } from "./Looks";
import { LeftOpenCard, ProveFirst } from "./ProveFirst";
import { Symptoms } from "./Symptoms";
import { Triage } from "./Triage";

const t = messages.job;
const s = messages.sheet;

/** The circuits on the job's sheet. */
function Sheet({ job, state }: Work) {
  const taken = (id: string): number => state.readings.filter(({ reading }) => (reading.circuit ?? id) === id).length;
  return (
    <Block
      title={t.circuits}
      aside={
        <Link to={`/jobs/${job.id}/sheet`} className="flex h-11 items-center gap-1.5 text-ink">
          <Plus size={18} aria-hidden="true" /> {s.add}
        </Link>
      }
    >
      <ul className="m-0 list-none p-0">
        {job.circuits.map((circuit) => (
          <li key={circuit.id} className="flex flex-wrap items-center gap-x-4 border-t border-line py-2 first:border-t-0">
            <div className="min-w-0 flex-1">
              <div className="font-bold">{circuit.title ?? circuit.id}</div>
              <div className="text-sm text-soft">
                {Object.entries(circuit.cavities ?? {})
                  .map(([pin, cavity]) => `${pin} ${cavity}${circuit.colours?.[pin] ? ` ${circuit.colours[pin]}` : ""}`)
                  .join(" · ")}
              </div>
              {taken(circuit.id) > 0 && <div className="text-sm text-soft">{messages.yard.readings(taken(circuit.id))}</div>}
            </div>
            <Link
              to={`/jobs/${job.id}/sheet/${encodeURIComponent(circuit.id)}`}
              aria-label={`${s.edit}: ${circuit.title ?? circuit.id}`}
              className="grid size-11 place-items-center text-soft"
            >
              <Pencil size={18} aria-hidden="true" />
            </Link>
          </li>
        ))}
      </ul>
    </Block>
  );
}

/** The job as it is weighed before anything is touched: what the module itself says and what was seen; what leads have read belongs to the bench. */
function useUntouched({ job, state }: Work): DiagnosedJob | null {
  return useMemo(() => {
    if (job.circuits.length === 0 || state.codes.length === 0) return null;
    const readings = state.readings.flatMap(({ reading }) =>
      reading.meter === "look" || (reading.meter === "scan" && (reading.setup?.open ?? []).length === 0) ? [reading] : [],
    );
    return { circuits: job.circuits, codes: [...state.codes], hints: [...state.hints], readings };
  }, [job.circuits, state.codes, state.hints, state.readings]);
}

function TriageBody(work: Work) {
  const { job, state, enter } = work;
  const navigate = useNavigate();
  const asked = useUntouched(work);
  const answer = useTriage(asked);
  // What is being weighed again stays on screen as it was.
  const shown = useRef<Triaged | null>(null);
  if (answer !== null) shown.current = answer;
  const triage = asked !== null && shown.current?.ok ? shown.current.triage : null;
  const failure = answer?.ok === false ? answer.problem.message : null;
  const toBench = (): void => {
    if (["complaint", "codes", "triage"].includes(state.stage)) enter({ kind: "stage", body: { stage: "bench" } });
    void navigate(`/jobs/${job.id}/bench`);
  };
  return (
    <div className="grid content-start gap-5 lg:grid-cols-[1fr_24rem]">
      <div className="grid min-w-0 content-start gap-4">
        <h1 className="m-0 text-2xl font-bold">{t.triage}</h1>
        {state.codes.length === 0 && <p className="m-0 text-soft">{t.noCodes}</p>}
        {triage && <Triage triage={triage} />}
        {asked !== null && !triage && <p className="m-0 text-sm text-soft">{failure ?? t.triageComputing}</p>}
        {job.circuits.length === 0 && <p className="m-0 text-soft">{t.noCircuits}</p>}
        <Looks looks={triage?.lookAt ?? []} work={work} />
      </div>
      <div className="space-y-4">
        <LeftOpenCard work={work} />
        {job.circuits.length === 0 ? (
          <Link to={`/jobs/${job.id}/sheet`} className="flex min-h-12 items-center justify-center rounded-xl bg-lamp px-4 font-bold text-on-lamp no-underline">
            {s.add}
          </Link>
        ) : (
          <>
            <ProveFirst work={work} triage={triage} />
            <Button onClick={toBench} className="flex min-h-12 w-full items-center justify-center gap-2">
              {t.openBench} <ArrowRight size={18} aria-hidden="true" />
            </Button>
          </>
        )}
        <FoundBefore {...work} />
        <Symptoms {...work} />
        <Sheet {...work} />
      </div>
    </div>
  );
}

/** Before touching anything: which codes one fault could explain, which circuit to prove first, what to look at. */
export function TriagePage() {
  return <JobFrame here="triage">{(work) => <TriageBody {...work} />}</JobFrame>;
}
