import { formatPercent, lackingFor, measurementOf, stillOutside } from "@fox-lamp/core";
import { type LeftOpen, OUTCOMES, type Outcome } from "@fox-lamp/language";
import { Link, useNavigate } from "react-router";
import { namedCircuits, namerOf } from "../../../circuit/names-of";
import { useAnalysis } from "../../../circuit/use-analysis";
import { testTitle } from "../../../circuit/wording";
import { messages } from "../../../messages";
import { Button, Chip, Select, TextArea } from "../../../ui/form";
import { useKept } from "../../../ui/kept";
import type { Work } from "../shared/JobFrame";
import { useDiagnosed } from "../shared/use-diagnosed";

const t = messages.check;

/** Suspects below this share are not offered as left open. */
const LEAST_OFFERED = 0.02;
const MOST_OFFERED = 6;
/** Suspects are taken along until so much of the probability is named. */
const ENOUGH = 0.9;

/** Who is still suspected, with the odds of this moment and the test that would tell them apart. */
function useOpenQuestion(work: Work, asked: boolean) {
  const diagnosed = useDiagnosed(work, asked);
  const { analysis } = useAnalysis(diagnosed);
  const suspects = (analysis?.diagnosis.units ?? []).filter(({ unit, probability }) => unit !== "none" && probability >= LEAST_OFFERED).slice(0, MOST_OFFERED);
  let named = 0;
  const likeliest = suspects.filter(({ probability }, index) => {
    const taken = index < 2 || named < ENOUGH;
    if (taken) named += probability;
    return taken;
  });
  return {
    suspects,
    likeliest: likeliest.map(({ unit }) => unit),
    test: analysis?.diagnosis.next[0] ?? null,
    computing: asked && analysis === null && diagnosed !== null,
  };
}

interface Draft {
  readonly outcome: Outcome;
  readonly text: string;
  readonly plan: string;
  readonly despite: string;
  /** The suspects that are left open; null = the likeliest ones. */
  readonly left: readonly string[] | null;
}

/** Says what is still outside, and asks why the job is closed all the same. */
function Despite({ work, value, onChange }: { work: Work; value: string; onChange: (text: string) => void }) {
  const outside = stillOutside(work.state);
  if (outside.length === 0) return null;
  return (
    <div className="rounded-lg bg-caution px-3 py-2">
      <p className="m-0 font-bold">{t.outside}</p>
      <ul className="mb-2 mt-1 list-none p-0 text-sm">
        {outside.map((one) => (
          <li key={one.kind === "test" ? one.entry : "codes"}>✕ {one.kind === "test" ? t.outsideTest(one.reading) : t.outsideCodes(one.codes.join(", "))}</li>
        ))}
      </ul>
      <TextArea label={t.despite} rows={2} value={value} onChange={(event) => onChange(event.target.value)} />
    </div>
  );
}

/** What is left undecided: who, with which odds, and what will tell them apart. */
function LeftOpenFields({
  work,
  question,
  left,
  onLeft,
}: {
  work: Work;
  question: ReturnType<typeof useOpenQuestion>;
  left: readonly string[];
  onLeft: (units: readonly string[]) => void;
}) {
  const nameOf = namerOf(work.job.circuits);
  const { suspects, test, computing } = question;
  return (
    <fieldset className="m-0 border-0 p-0" aria-busy={computing}>
      <legend className="mb-1 text-sm text-soft">{t.leftOpen}</legend>
      {computing && <p className="m-0 text-sm text-soft">{messages.bench.computing}</p>}
      <div className="flex flex-wrap gap-2">
        {suspects.map(({ unit, probability }) => (
          <Chip key={unit} on={left.includes(unit)} onChange={(on) => onLeft(on ? [...left, unit] : left.filter((one) => one !== unit))}>
            {nameOf(unit)} <span className="readout">{formatPercent(probability)}</span>
          </Chip>
        ))}
      </div>
      {test && <p className="mb-0 mt-2 text-sm">{t.separates(testTitle(test, namedCircuits(work.job.circuits)))}</p>}
    </fieldset>
  );
}

/** A job that is closed: how, and the ways on. */
function Closed({ work: { job, enter }, outcome }: { work: Work; outcome: Outcome }) {
  return (
    <>
      <p className="m-0 text-lg font-bold">{t.closed(t.outcome[outcome].toLowerCase())}</p>
      <div className="mt-3 flex flex-wrap gap-2">
        <Link to={`/jobs/${job.id}/report`} className="flex min-h-11 items-center rounded-xl bg-lamp px-4 font-bold text-on-lamp no-underline">
          {t.report}
        </Link>
        <Button onClick={() => enter({ kind: "stage", body: { stage: "check" } })}>{t.reopen}</Button>
      </div>
    </>
  );
}

function lackWord(code: string): string {
  return (t.lack as Readonly<Record<string, string>>)[code] ?? (messages.steps as Readonly<Record<string, string>>)[code] ?? code;
}

/** How a job ends: never silently. */
export function Close({ work }: { work: Work }) {
  const { job, state, steps, enter } = work;
  const navigate = useNavigate();
  const nothing = state.decisions.at(-1)?.decision === "nothing-found";
  const first: Draft = { outcome: nothing ? "not-reproduced" : "repaired", text: "", plan: "", despite: "", left: null };
  const [draft, setDraft] = useKept(`close ${job.id}`, first);
  const { outcome, text, plan, despite } = draft;
  const change = (part: Partial<Draft>): void => setDraft({ ...draft, ...part });
  const undecided = outcome === "undecided";
  const question = useOpenQuestion(work, undecided);
  if (state.stage === "closed" && state.closing) return <Closed work={work} outcome={state.closing.outcome} />;

  const chosen = draft.left ?? question.likeliest;
  const units = question.suspects.filter(({ unit }) => chosen.includes(unit));
  const left: LeftOpen | null =
    undecided && units.length > 0
      ? {
          job: job.number,
          units,
          ...(question.test ? { test: { title: question.test.title, measurement: measurementOf(question.test) } } : {}),
        }
      : null;
  const lacking = lackingFor(outcome, steps, { text, plan, despite, left }, stillOutside(state));
  const said = (name: "text" | "plan" | "despite"): Partial<Record<typeof name, string>> => (draft[name].trim() === "" ? {} : { [name]: draft[name].trim() });
  const close = (): void => {
    const done = enter(
      {
        kind: "closing",
        body: { outcome, ...said("text"), ...said("plan"), ...(outcome === "repaired" ? said("despite") : {}), ...(left === null ? {} : { left }) },
      },
      { kind: "waiting", body: { for: null } },
      { kind: "stage", body: { stage: "closed" } },
    );
    if (done.length === 0) return;
    setDraft(first);
    void navigate(`/jobs/${job.id}/report`);
  };
  return (
    <div className="grid gap-3">
      <Select
        label={t.ends}
        value={outcome}
        options={OUTCOMES.map((name) => [name, t.outcome[name]] as const)}
        onChange={(next) => change({ outcome: next })}
      />
      {undecided && <LeftOpenFields work={work} question={question} left={chosen} onLeft={(next) => change({ left: next })} />}
      <TextArea label={t.text[outcome]} rows={2} value={text} onChange={(event) => change({ text: event.target.value })} />
      {(outcome === "not-reproduced" || undecided) && (
        <TextArea label={t.plan} rows={3} value={plan} onChange={(event) => change({ plan: event.target.value })} />
      )}
      {outcome === "repaired" && <Despite work={work} value={despite} onChange={(next) => change({ despite: next })} />}
      {lacking.length > 0 && (
        <p className="m-0 text-sm">
          {t.lacking} <span className="text-soft">{lacking.map(lackWord).join(", ")}</span>
        </p>
      )}
      <Button weight="next" disabled={lacking.length > 0} onClick={close}>
        {t.closeButton}
      </Button>
    </div>
  );
}
