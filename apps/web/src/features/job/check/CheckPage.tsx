import { diagnosedPart, failedReadings, type JobReading, lackingFor } from "@fox-lamp/core";
import { type Code, type Expect, type Measurement, OUTCOMES, type Outcome, unitOfReading, type Value } from "@fox-lamp/language";
import { format } from "date-fns";
import { useMemo, useState } from "react";
import { Link, useNavigate } from "react-router";
import { reasonOf, useReadInstrumentsMutation, useScanMutation } from "../../../app/api";
import { valueTyped } from "../../../circuit/typed";
import { useWindows } from "../../../circuit/use-analysis";
import { readingTitle, setupText, valueText, windowText, within } from "../../../circuit/wording";
import { messages } from "../../../messages";
import { unitLabel } from "../../../ui/display";
import { Block, Button, Select, TextArea } from "../../../ui/form";
import { toast } from "../../../ui/toast";
import { CodeList } from "../shared/CodeList";
import { codesIn } from "../shared/codes-text";
import { JobFrame, type Work } from "../shared/JobFrame";

const t = messages.check;

/** A reading's test without its value. */
function measurementIn({ reading }: JobReading): Measurement {
  const { circuit, meter, red, black, setup, unit, record, coupling } = reading;
  return {
    meter,
    red,
    ...(circuit === undefined ? {} : { circuit }),
    ...(black === undefined ? {} : { black }),
    ...(setup === undefined ? {} : { setup }),
    ...(unit === undefined ? {} : { unit }),
    ...(record === undefined ? {} : { record }),
    ...(coupling === undefined ? {} : { coupling }),
  };
}

/** One failed test, before and after. */
function Again({ taken, expect, work }: { taken: JobReading; expect: Expect | null | undefined; work: Work }) {
  const { job, state, enter } = work;
  const { reading } = taken;
  const unit = unitOfReading(reading);
  const circuits = job.circuits.map(({ id, title = id }) => ({ id, title }));
  const [read, { isLoading }] = useReadInstrumentsMutation();
  const [text, setText] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const done = state.verifications.filter(({ of }) => of === taken.entry).at(-1);
  const keep = (value: Value): void => {
    const fits = within(value, expect);
    enter({
      kind: "verification",
      body: {
        text: `${readingTitle(reading, circuits)}: ${valueText(reading.value, unit)} before, ${valueText(value, unit)} after`,
        check: "repeat",
        of: taken.entry,
        measurement: measurementIn(taken),
        before: reading.value,
        value,
        ...(fits === null ? {} : { fits }),
      },
    });
    setText("");
  };
  const instrument = async (): Promise<void> => {
    const answer = await read({ job: job.id, measurements: [measurementIn(taken)] });
    if ("error" in answer) {
      toast.error(reasonOf(answer.error) ?? messages.bench.instrumentFailed);
      return;
    }
    if (answer.data.values[0] !== undefined) keep(answer.data.values[0]);
  };
  const take = (): void => {
    const typed = valueTyped(text, reading);
    setProblem(typed.ok ? null : typed.message);
    if (typed.ok) keep(typed.value);
  };
  const after = done?.value;
  return (
    <li className="border-t border-line py-3 first:border-t-0">
      <p className="m-0 font-bold">
        <span className="readout text-soft">{reading.id}</span> {readingTitle(reading, circuits)}
      </p>
      <p className="m-0 text-sm text-soft">{setupText(reading.setup ?? {})}</p>
      <dl className="m-0 mt-2 grid grid-cols-3 gap-2 text-center">
        {[
          { name: t.before, value: valueText(reading.value, unit), tone: "text-ember" },
          { name: t.after, value: after === undefined ? "–" : valueText(after, unit), tone: done?.fits === false ? "text-ember" : "text-calm" },
          { name: t.sound, value: windowText(expect), tone: "text-lamp" },
        ].map(({ name, value, tone }) => (
          <div key={name} className="rounded-lg border border-line px-2 py-1.5">
            <dt className="text-sm text-soft">{name}</dt>
            <dd className={`readout m-0 font-bold ${tone}`}>{value}</dd>
          </div>
        ))}
      </dl>
      {done && (
        <p className={`m-0 mt-1 text-sm ${done.fits === false ? "text-ember" : "text-calm"}`}>{done.fits === false ? `✕ ${t.fitsNot}` : `✓ ${t.fits}`}</p>
      )}
      <form
        className="mt-2 flex flex-wrap gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          take();
        }}
      >
        <input
          aria-label={`${t.after}: ${readingTitle(reading, circuits)}`}
          value={text}
          onChange={(event) => setText(event.target.value)}
          placeholder={unitLabel(unit)}
          className="readout min-h-11 w-32 rounded-lg border border-line bg-well px-3 text-ink placeholder:text-soft"
        />
        <Button type="submit" disabled={text.trim() === ""}>
          {t.save}
        </Button>
        {job.simulated && (
          <Button disabled={isLoading} onClick={() => void instrument()}>
            {t.read}
          </Button>
        )}
      </form>
      {problem !== null && (
        <p role="alert" className="m-0 mt-1 text-sm text-ember">
          {problem}
        </p>
      )}
    </li>
  );
}

function Repeats({ work }: { work: Work }) {
  const { job, state, shop } = work;
  const failed = failedReadings(state);
  const diagnosed = useMemo(() => (job.circuits.length === 0 ? null : diagnosedPart(job, state, shop?.settings ?? null)), [job, state, shop]);
  const windows = useWindows(failed.length === 0 ? null : diagnosed, failed.map(measurementIn));
  return (
    <Block title={t.repeat}>
      {failed.length === 0 && <p className="m-0 text-soft">{t.noRepeat}</p>}
      <ol className="m-0 list-none p-0">
        {failed.map((taken, index) => (
          <Again key={taken.entry} taken={taken} expect={windows?.[index]} work={work} />
        ))}
      </ol>
    </Block>
  );
}

function CodesAgain({ work }: { work: Work }) {
  const { job, state, enter } = work;
  const [scan, { isLoading }] = useScanMutation();
  const [typed, setTyped] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  if (state.codes.length === 0) return <Block title={t.codes}>{t.noCodes}</Block>;
  const clear = async (): Promise<void> => {
    if (job.simulated) {
      const answer = await scan({ job: job.id, do: "clear" });
      if ("error" in answer) {
        setProblem(reasonOf(answer.error) ?? messages.states.failed);
        return;
      }
    }
    enter({ kind: "cleared", body: { codes: state.codes.map(({ code }) => code) } });
  };
  const keep = (codes: Code[]): void => void enter({ kind: "rescan", body: { codes } });
  const rescan = async (): Promise<void> => {
    const answer = await scan({ job: job.id, do: "codes" });
    if ("error" in answer) {
      setProblem(reasonOf(answer.error) ?? messages.states.failed);
      return;
    }
    keep(answer.data.codes ?? []);
  };
  const type = (): void => {
    const { codes, problem: wrong } = codesIn(typed);
    setProblem(wrong);
    if (wrong === null) keep(codes);
  };
  const again = state.cleared !== null && state.rescan !== null && state.rescan.at >= state.cleared.at ? state.rescan : null;
  return (
    <Block title={t.codes}>
      <div className="grid gap-3 sm:grid-cols-2">
        <div>
          <p className="mb-1 mt-0 text-sm text-soft">{t.before}</p>
          <CodeList codes={state.codes.map(({ freezeFrame: _frame, ...code }) => code)} />
        </div>
        <div>
          <p className="mb-1 mt-0 text-sm text-soft">{t.after}</p>
          {again === null ? "–" : again.codes.length === 0 ? <p className="m-0 font-bold text-calm">✓ {t.stayedAway}</p> : <CodeList codes={again.codes} />}
        </div>
      </div>
      <div className="mt-3 flex flex-wrap items-center gap-2">
        {state.cleared === null ? (
          <Button disabled={isLoading} onClick={() => void clear()}>
            {t.clear}
          </Button>
        ) : (
          <>
            <span className="text-sm text-soft">{t.cleared(format(new Date(state.cleared.at), "d MMM HH:mm"))}</span>
            {job.simulated ? (
              <Button disabled={isLoading} onClick={() => void rescan()}>
                {t.rescan}
              </Button>
            ) : (
              <>
                <input
                  aria-label={messages.codes.paste}
                  placeholder={messages.codes.paste}
                  value={typed}
                  onChange={(event) => setTyped(event.target.value)}
                  className="readout min-h-11 flex-1 rounded-lg border border-line bg-well px-3 text-ink placeholder:text-soft"
                />
                <Button onClick={typed.trim() === "" ? () => keep([]) : type}>{typed.trim() === "" ? messages.codes.none : t.save}</Button>
              </>
            )}
          </>
        )}
      </div>
      {problem !== null && (
        <p role="alert" className="mb-0 mt-2 rounded-lg bg-caution px-3 py-2">
          {problem}
        </p>
      )}
    </Block>
  );
}

/** The drive, and whether the complaint is gone. */
function Drive({ work }: { work: Work }) {
  const { job, state, enter } = work;
  const navigate = useNavigate();
  const [text, setText] = useState("");
  const driven = state.verifications.filter(({ check }) => check === "drive").at(-1);
  const gone = state.verifications.filter(({ check }) => check === "complaint").at(-1);
  const back = (): void => {
    enter({ kind: "verification", body: { text: t.notFixed, check: "complaint", fits: false } }, { kind: "stage", body: { stage: "bench" } });
    void navigate(`/jobs/${job.id}/bench`);
  };
  return (
    <>
      <Block title={t.drive}>
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
      </Block>
      <Block title={t.complaint}>
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
      </Block>
    </>
  );
}

/** How a job ends: never silently. */
function Close({ work }: { work: Work }) {
  const { job, state, steps, enter } = work;
  const navigate = useNavigate();
  const nothing = state.decisions.at(-1)?.decision === "nothing-found";
  const [outcome, setOutcome] = useState<Outcome>(nothing ? "not-reproduced" : "repaired");
  const [text, setText] = useState("");
  const [plan, setPlan] = useState("");
  const lacking = lackingFor(outcome, steps, { text, plan });
  const lackWord = (code: string): string =>
    code === "text" ? t.lackText : code === "plan" ? t.lackPlan : (messages.steps[code as keyof typeof messages.steps] ?? code);
  if (state.stage === "closed" && state.closing) {
    return (
      <Block title={t.close}>
        <p className="m-0 text-lg font-bold">{t.closed(t.outcome[state.closing.outcome].toLowerCase())}</p>
        <div className="mt-3 flex flex-wrap gap-2">
          <Link to={`/jobs/${job.id}/report`} className="flex min-h-11 items-center rounded-xl bg-lamp px-4 font-bold text-on-lamp no-underline">
            {t.report}
          </Link>
          <Button onClick={() => enter({ kind: "stage", body: { stage: "check" } })}>{t.reopen}</Button>
        </div>
      </Block>
    );
  }
  const close = (): void => {
    enter(
      { kind: "closing", body: { outcome, ...(text.trim() ? { text: text.trim() } : {}), ...(plan.trim() ? { plan: plan.trim() } : {}) } },
      { kind: "waiting", body: { for: null } },
      { kind: "stage", body: { stage: "closed" } },
    );
    void navigate(`/jobs/${job.id}/report`);
  };
  return (
    <Block title={t.close}>
      <div className="grid gap-3">
        <Select label={t.ends} value={outcome} options={OUTCOMES.map((name) => [name, t.outcome[name]] as const)} onChange={setOutcome} />
        <TextArea label={t.text[outcome]} rows={2} value={text} onChange={(event) => setText(event.target.value)} />
        {outcome === "not-reproduced" && <TextArea label={t.plan} rows={3} value={plan} onChange={(event) => setPlan(event.target.value)} />}
        {lacking.length > 0 && (
          <p className="m-0 text-sm">
            {t.lacking} <span className="text-soft">{lacking.map(lackWord).join(", ")}</span>
          </p>
        )}
        <Button weight="next" disabled={lacking.length > 0} onClick={close}>
          {t.closeButton}
        </Button>
      </div>
    </Block>
  );
}

/** The check after the repair: the failed test again, codes, a drive, the complaint; and the end of the job. */
export function CheckPage() {
  return (
    <JobFrame here="check">
      {(work) => (
        <div className="grid gap-5 lg:grid-cols-[1fr_24rem]">
          <div className="min-w-0 space-y-4">
            <h1 className="text-2xl font-bold">{t.title}</h1>
            <Repeats work={work} />
            <CodesAgain work={work} />
          </div>
          <div className="space-y-4">
            <Drive work={work} />
            <Close work={work} />
          </div>
        </div>
      )}
    </JobFrame>
  );
}
