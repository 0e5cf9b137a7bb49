import { familyById } from "@fox-lamp/core";
import type { Code } from "@fox-lamp/language";
import { ArrowRight } from "lucide-react";
import { useMemo, useState } from "react";
import { useNavigate } from "react-router";
import { reasonOf, useScanMutation } from "../../../app/api";
import { messages } from "../../../messages";
import { Block, Button, TextArea } from "../../../ui/form";
import { useKept } from "../../../ui/kept";
import { CodeList } from "../shared/CodeList";
import { codesIn } from "../shared/codes-text";
import { JobFrame, type Work } from "../shared/JobFrame";
import { Recordings } from "./Recordings";

const t = messages.codes;
const j = messages.job;

/** Codes from the adapter, typed or pasted; saved before anything is cleared. */
function Codes({ job, state, enter }: Work) {
  const [scan, { isLoading }] = useScanMutation();
  const [typed, setTyped] = useKept(`codes ${job.id}`, "");
  const [problem, setProblem] = useState<string | null>(null);
  const [said, setSaid] = useState<string | null>(null);
  const [typing, setTyping] = useState((!job.simulated && state.codes.length === 0) || typed !== "");
  const save = (codes: readonly Code[]): void => {
    if (codes.length > 0) enter(...codes.map((code) => ({ kind: "code" as const, body: code })));
    setSaid(codes.length === 0 ? t.nothingFound : t.saved(codes.length));
  };
  const read = async (): Promise<void> => {
    setProblem(null);
    const answer = await scan({ job: job.id, do: "codes" });
    if ("error" in answer) {
      setProblem(reasonOf(answer.error) ?? messages.states.failed);
      return;
    }
    save(answer.data.codes ?? []);
    if ((answer.data.codes ?? []).length === 0) enter({ kind: "rescan", body: { codes: [] } });
  };
  const understood = useMemo(() => codesIn(typed), [typed]);
  const add = (): void => {
    if (understood.problem !== null || understood.codes.length === 0) return;
    save(understood.codes);
    setTyped("");
  };
  const remove = (code: string): void => {
    const entry = [...job.entries].reverse().find((candidate) => candidate.kind === "code" && candidate.body.code === code);
    if (entry) enter({ kind: "retraction", body: { entry: entry.id } });
  };
  return (
    <Block title={j.codes}>
      {state.codes.length === 0 && <p className="mb-2 mt-0 text-soft">{j.noCodes}</p>}
      <CodeList codes={state.codes} {...(state.cleared === null ? { onRemove: remove } : {})} />
      <div className="mt-3 flex flex-wrap items-center gap-2">
        {job.simulated ? (
          <Button weight={state.codes.length === 0 ? "next" : "other"} disabled={isLoading} onClick={() => void read()}>
            {state.codes.length === 0 ? t.read : t.readAgain}
          </Button>
        ) : (
          <p className="m-0 w-full text-sm text-soft">{t.realCar}</p>
        )}
        {!typing && <Button onClick={() => setTyping(true)}>{t.paste}</Button>}
        {!typing && state.codes.length === 0 && state.rescan === null && (
          <Button weight="quiet" onClick={() => enter({ kind: "rescan", body: { codes: [] } })}>
            {t.none}
          </Button>
        )}
      </div>
      {typing && (
        <div className="mt-3 grid gap-2">
          <TextArea
            label={t.paste}
            hint={understood.problem === null ? t.pasteHint : undefined}
            error={understood.problem ?? undefined}
            placeholder={t.pastePlaceholder}
            value={typed}
            onChange={(event) => setTyped(event.target.value)}
            className="readout"
          />
          {understood.codes.length > 0 && (
            <section aria-label={t.understood}>
              <p className="mb-1 mt-0 text-sm text-soft">{t.understood}</p>
              <CodeList codes={understood.codes} />
            </section>
          )}
          <Button weight="next" disabled={understood.problem !== null || understood.codes.length === 0} onClick={add}>
            {understood.codes.length > 1 ? t.addAll(understood.codes.length) : t.add}
          </Button>
        </div>
      )}
      {problem !== null && !typing && (
        <p role="alert" className="mb-0 mt-2 rounded-lg bg-caution px-3 py-2">
          {problem}
        </p>
      )}
      {said !== null && (
        <p role="status" className="mb-0 mt-2 text-sm text-soft">
          {said}
        </p>
      )}
    </Block>
  );
}

/** Switches what the module can switch, to hear or see it answer. */
function Commands({ job, enter }: Work) {
  const [scan] = useScanMutation();
  const [said, setSaid] = useState<string | null>(null);
  const driven = job.circuits.filter(({ family }) => familyById(family)?.traits.kind === "valve");
  if (!job.simulated || driven.length === 0) return null;
  const command = async (circuit: string, on: boolean): Promise<void> => {
    const answer = await scan({ job: job.id, do: "command", circuit, on });
    if ("error" in answer) {
      setSaid(reasonOf(answer.error) ?? messages.states.failed);
      return;
    }
    setSaid(on ? t.commanded : null);
    if (on) enter({ kind: "note", body: { text: `${t.command}: ${circuit}` } });
  };
  return (
    <Block title={t.command}>
      <ul className="m-0 list-none p-0">
        {driven.map(({ id, title }) => (
          <li key={id} className="flex items-center gap-2 py-1">
            <span className="flex-1">{title ?? id}</span>
            <Button onClick={() => void command(id, true)}>{t.on}</Button>
            <Button onClick={() => void command(id, false)}>{t.off}</Button>
          </li>
        ))}
      </ul>
      {said !== null && (
        <p role="status" className="m-0 text-sm text-soft">
          {said}
        </p>
      )}
    </Block>
  );
}

/** Codes and the module's data, before anything is touched. */
export function CodesPage() {
  const navigate = useNavigate();
  return (
    <JobFrame here="codes">
      {(work) => {
        const { job, state, enter } = work;
        const goOn = (): void => {
          if (state.stage === "complaint" || state.stage === "codes") enter({ kind: "stage", body: { stage: "triage" } });
          void navigate(`/jobs/${job.id}/triage`);
        };
        return (
          <div className="grid gap-5 lg:grid-cols-[26rem_1fr]">
            <h1 className="m-0 text-2xl font-bold lg:col-span-2">{t.title}</h1>
            <div className="space-y-4">
              <Codes {...work} />
              <Commands {...work} />
              <Button weight="next" onClick={goOn} className="flex min-h-12 w-full items-center justify-center gap-2">
                {t.goOn} <ArrowRight size={18} aria-hidden="true" />
              </Button>
            </div>
            <Recordings {...work} />
          </div>
        );
      }}
    </JobFrame>
  );
}
