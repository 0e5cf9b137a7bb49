import { ArrowRight, Pencil, Plus } from "lucide-react";
import { useMemo } from "react";
import { Link, useNavigate } from "react-router";
import { messages } from "../../../messages";
import { Block, Button } from "../../../ui/form";
import { CodeList } from "../shared/CodeList";
import { JobFrame, type Work } from "../shared/JobFrame";
import { LookForm } from "./LookForm";
import { Triage, useTriage } from "./Triage";

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

function TriageBody(work: Work) {
  const { job, state, enter } = work;
  const navigate = useNavigate();
  const asked = useMemo(() => {
    if (job.circuits.length === 0) return null;
    // What the module itself says and what was seen counts before anything is touched; what leads have read belongs to the bench.
    const readings = state.readings.flatMap(({ reading }) =>
      reading.meter === "look" || (reading.meter === "scan" && (reading.setup?.open ?? []).length === 0) ? [reading] : [],
    );
    return { circuits: job.circuits, codes: [...state.codes], hints: [...state.hints], readings };
  }, [job.circuits, state.codes, state.hints, state.readings]);
  const { triage, failure } = useTriage(asked);
  const toBench = (): void => {
    if (["complaint", "codes", "triage"].includes(state.stage)) enter({ kind: "stage", body: { stage: "bench" } });
    void navigate(`/jobs/${job.id}/bench`);
  };
  return (
    <div className="grid content-start gap-5 lg:grid-cols-[1fr_24rem]">
      <div className="min-w-0 space-y-4">
        <h1 className="text-2xl font-bold">{t.triage}</h1>
        {state.codes.length === 0 && <p className="text-soft">{t.noCodes}</p>}
        {triage && <Triage triage={triage} titles={new Map(job.circuits.map(({ id: name, title }) => [name, title ?? name]))} />}
        {state.codes.length > 0 && job.circuits.length > 0 && !triage && <p className="text-sm text-soft">{failure ?? t.triageComputing}</p>}
        {job.circuits.length === 0 && <p className="text-soft">{t.noCircuits}</p>}
        <LookForm {...work} />
      </div>
      <div className="space-y-4">
        <Sheet {...work} />
        {job.circuits.length === 0 ? (
          <Link to={`/jobs/${job.id}/sheet`} className="flex min-h-12 items-center justify-center rounded-xl bg-lamp px-4 font-bold text-on-lamp no-underline">
            {s.add}
          </Link>
        ) : (
          <Button weight="next" onClick={toBench} className="flex min-h-12 w-full items-center justify-center gap-2">
            {t.openBench} <ArrowRight size={18} aria-hidden="true" />
          </Button>
        )}
        {state.codes.length > 0 && (
          <Block title={t.codes}>
            <CodeList codes={state.codes} />
          </Block>
        )}
      </div>
    </div>
  );
}

/** Before touching anything: which codes one fault could explain, which circuit to prove first, what to look at. */
export function TriagePage() {
  return <JobFrame here="triage">{(work) => <TriageBody {...work} />}</JobFrame>;
}
