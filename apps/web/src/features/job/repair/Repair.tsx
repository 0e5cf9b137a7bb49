import { diagnosedPart, formatPercent, provenUnits } from "@fox-lamp/core";
import { useMemo, useState } from "react";
import { namerOf } from "../../../circuit/names-of";
import { useAnalysis } from "../../../circuit/use-analysis";
import { messages } from "../../../messages";
import { Block, Button, Select, TextArea } from "../../../ui/form";
import type { Work } from "../shared/JobFrame";
import { compared, NO_PART, PartFields } from "./PartFields";
import { ACTS, type Act, oddsOf, oddsText, unitsOfJob, usualAct } from "./units";

const t = messages.repair;
/** What was worked on is none of the job's units: it is said in words. */
const ELSE = "";

/** What was done, to what: any number of things, each chosen by whoever did it. A part that nothing proves is recorded with its odds. */
export function Repair({ work, units }: { work: Work; units: readonly string[] }) {
  const { job, state, shop, enter } = work;
  const nameOf = namerOf(job.circuits);
  const located = state.located.filter(({ way }) => way === "found").at(-1);
  const first = located?.unit ?? units[0] ?? ELSE;
  const [unit, setUnit] = useState(first);
  const [act, setAct] = useState<Act>(usualAct(first, located?.remedy));
  const [text, setText] = useState("");
  const [draft, setDraft] = useState(NO_PART);
  const [problem, setProblem] = useState<string | null>(null);
  const all = useMemo(() => unitsOfJob(job.circuits), [job.circuits]);
  const options = [
    ...units.filter((one) => !all.some(([known]) => known === one)).map((one) => [one, nameOf(one)] as const),
    ...all,
    [ELSE, t.somethingElse] as const,
  ];
  const against = compared(draft, unit, job.circuits);
  const fitted = act === "fitted";

  const diagnosed = useMemo(() => (job.circuits.length === 0 ? null : diagnosedPart(job, state, shop?.settings ?? null)), [job, state, shop]);
  const { analysis } = useAnalysis(diagnosed);
  const settled = [...provenUnits(state).flat(), ...state.decisions.filter(({ decision }) => decision === "override").map((made) => made.unit)];
  const odds = fitted && unit !== ELSE && !settled.includes(unit) && analysis ? oddsOf(unit, analysis.diagnosis) : null;

  const save = (): void => {
    if (text.trim() === "") {
      setProblem(messages.needed(t.inWords));
      return;
    }
    if (fitted && against.part === null) return;
    setProblem(null);
    if (odds !== null) {
      const { probability, lossMinutes } = odds;
      enter({ kind: "decision", body: { decision: "override", unit, probability, ...(lossMinutes === null ? {} : { lossMinutes }) } });
    }
    const about = unit === ELSE ? {} : { unit };
    enter({ kind: "repair", body: { text: text.trim(), act, ...about, ...(fitted && against.part !== null ? { part: against.part } : {}) } });
    if (fitted && against.matches) enter({ kind: "task", body: { task: `compare-part ${unit}`, done: true, text: against.hint ?? "" } });
    setText("");
    setDraft(NO_PART);
  };
  return (
    <Block title={t.done}>
      {state.repairs.map(({ entry, text: says, unit: about, part, by }) => (
        <p key={entry} className="m-0 border-b border-line pb-2">
          ✓ {about === undefined ? "" : `${nameOf(about)}: `}
          {says}
          {part?.number ? <span className="readout"> {part.number}</span> : null}
          <span className="text-sm text-soft"> {by}</span>
        </p>
      ))}
      <div className="mb-3 mt-2 grid gap-3 sm:grid-cols-2">
        <Select
          label={t.worked}
          value={unit}
          options={options}
          onChange={(next) => {
            setUnit(next);
            setAct(usualAct(next));
          }}
        />
        <Select label={t.act} value={act} options={ACTS.map((each) => [each, t.acts[each]] as const)} onChange={setAct} />
      </div>
      {fitted && (
        <PartFields
          title={unit === ELSE ? t.somethingElse : nameOf(unit)}
          draft={draft}
          onDraft={(change) => setDraft({ ...draft, ...change })}
          against={against}
          originalOnly={shop?.settings.policy.part === "original"}
        />
      )}
      {odds !== null && (
        <p role="status" className="m-0 mb-3 rounded-lg bg-caution px-3 py-2 text-sm">
          {oddsText(nameOf(unit), odds, formatPercent)} {t.gateRisk}
        </p>
      )}
      <TextArea label={t.inWords} value={text} onChange={(event) => setText(event.target.value)} error={problem ?? undefined} />
      <Button weight={state.repairs.length > 0 ? "other" : "next"} onClick={save} className="mt-3">
        {t.save}
      </Button>
    </Block>
  );
}
