import { parseTyped } from "@fox-lamp/language";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { valueText } from "../../../circuit/wording";
import { messages } from "../../../messages";
import { Button, Chip, Select, TextArea, TextField } from "../../../ui/form";
import { useKept } from "../../../ui/kept";
import type { Work } from "../shared/JobFrame";

const t = messages.check;

/** The drive, with what was seen. */
export function Drive({ work: { job, state, enter } }: { work: Work }) {
  const [text, setText] = useKept(`drive ${job.id}`, "");
  const driven = state.verifications.filter(({ check }) => check === "drive").at(-1);
  return (
    <>
      {driven && <p className="m-0 mb-2">✓ {driven.text}</p>}
      <TextArea label={t.driven} placeholder={t.drivePlaceholder} rows={2} value={text} onChange={(event) => setText(event.target.value)} />
      <div className="mt-2 flex flex-wrap items-center gap-3">
        <Button
          disabled={text.trim() === ""}
          onClick={() => {
            enter({ kind: "verification", body: { text: text.trim(), check: "drive", fits: true } });
            setText("");
          }}
        >
          {messages.complaint.save}
        </Button>
        <Link to={`/jobs/${job.id}/codes`} className="text-ink underline decoration-lamp underline-offset-4">
          {messages.codes.recordDrive}
        </Link>
      </div>
    </>
  );
}

/** Whether the complaint is gone. */
export function ComplaintGone({ work: { job, state, enter } }: { work: Work }) {
  const navigate = useNavigate();
  const gone = state.verifications.filter(({ check }) => check === "complaint").at(-1);
  const back = (): void => {
    enter({ kind: "verification", body: { text: t.notFixed, check: "complaint", fits: false } }, { kind: "stage", body: { stage: "bench" } });
    void navigate(`/jobs/${job.id}/bench`);
  };
  return (
    <>
      <p className="m-0 mb-2 text-soft">{state.complaint}</p>
      <div className="flex flex-wrap gap-2">
        <Button
          aria-pressed={gone?.fits === true}
          onClick={() => enter({ kind: "verification", body: { text: t.complaintGone, check: "complaint", fits: true } })}
          className={gone?.fits === true ? "border-calm font-bold" : ""}
        >
          {gone?.fits === true ? "✓ " : ""}
          {t.gone}
        </Button>
        <Button onClick={back}>{t.there}</Button>
      </div>
    </>
  );
}

const NO_PAIR = { circuit: "", desired: "", actual: "", fits: true };

/** What the module wants beside what it sees, once it is repaired: the values at rest and under load. */
export function Desired({ work: { job, state, enter } }: { work: Work }) {
  const [pair, setPair] = useKept(`desired ${job.id}`, NO_PAIR);
  const [problem, setProblem] = useState<{ readonly desired?: string; readonly actual?: string }>({});
  const circuit = job.circuits.find(({ id }) => id === pair.circuit) ?? job.circuits[0];
  const save = (): void => {
    const [desired, actual] = [parseTyped(pair.desired), parseTyped(pair.actual)];
    setProblem({ ...(desired.ok ? {} : { desired: desired.message }), ...(actual.ok ? {} : { actual: actual.message }) });
    if (!desired.ok || !actual.ok || circuit === undefined) return;
    // Whatever the scan device shows it in: a number without its unit stays one.
    const said = ({ value, unit }: typeof desired): string => valueText(value, unit ?? "");
    enter({
      kind: "verification",
      body: { text: t.desiredText(circuit.title ?? circuit.id, said(desired), said(actual)), check: "desired", fits: pair.fits },
    });
    setPair(NO_PAIR);
  };
  return (
    <>
      <p className="mb-2 mt-0 text-sm text-soft">{t.desiredLead}</p>
      {state.verifications
        .filter(({ check }) => check === "desired")
        .map(({ entry, text, fits }) => (
          <p key={entry} className="m-0 mb-1">
            {fits === false ? "✕" : "✓"} {text}
          </p>
        ))}
      <div className="grid gap-3 sm:grid-cols-3">
        <Select
          label={messages.look.circuit}
          value={circuit?.id ?? ""}
          options={job.circuits.map(({ id, title }) => [id, title ?? id] as const)}
          onChange={(next) => setPair({ ...pair, circuit: next })}
        />
        <TextField
          label={t.desiredValue}
          className="readout"
          value={pair.desired}
          error={problem.desired}
          onChange={(event) => setPair({ ...pair, desired: event.target.value })}
        />
        <TextField
          label={t.actualValue}
          className="readout"
          value={pair.actual}
          error={problem.actual}
          onChange={(event) => setPair({ ...pair, actual: event.target.value })}
        />
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-3">
        <Chip on={pair.fits} onChange={(fits) => setPair({ ...pair, fits })}>
          {t.follows}
        </Chip>
        <Button disabled={pair.desired.trim() === "" || pair.actual.trim() === ""} onClick={save}>
          {t.save}
        </Button>
      </div>
    </>
  );
}
