import { diagnosedPart, failedReadings, formatPercent, provenUnits, unitKind } from "@fox-lamp/core";
import { circuitOfUnit } from "@fox-lamp/language";
import { Camera } from "lucide-react";
import { useMemo, useState } from "react";
import { useStorePhoto } from "../../../app/use-store-photo";
import { namedCircuits, namerOf } from "../../../circuit/names-of";
import { useAnalysis, useWindows } from "../../../circuit/use-analysis";
import { readingTitle } from "../../../circuit/wording";
import { messages } from "../../../messages";
import { FilePick } from "../../../ui/FilePick";
import { Block, Button, Select, TextArea, TextField } from "../../../ui/form";
import { useKept } from "../../../ui/kept";
import type { Work } from "../shared/JobFrame";
import { useDiagnosed } from "../shared/use-diagnosed";
import { compared, curveMeasurement, NO_PART, newTemperatureOf } from "./compare";
import { LookAlikes } from "./LookAlikes";
import { PartFields } from "./PartFields";
import { ACTS, type Act, oddsOf, oddsText, unitsOfJob, usualAct } from "./units";
import { NO_WIRING, WiringFields, wiringOf } from "./WiringFields";

const t = messages.repair;
/** Damaged wires from which the loom is changed where the shop has not decided. */
const USUAL_LOOM_FROM = 4;
/** What was worked on is none of the job's units: it is said in words. */
const ELSE = "";

/** Everything that is typed of one thing that was done; kept while one looks elsewhere. */
const NOTHING = {
  unit: null as string | null,
  act: null as Act | null,
  text: "",
  test: null as string | null,
  photo: null as string | null,
  part: NO_PART,
  wiring: NO_WIRING,
};

/** What was done so far, each with its part number. */
function Done({ work: { job, state } }: { work: Work }) {
  const nameOf = namerOf(job.circuits);
  return state.repairs.map(({ entry, text: says, unit: about, part, by }) => (
    <p key={entry} className="m-0 border-b border-line pb-2">
      ✓ {about === undefined ? "" : `${nameOf(about)}: `}
      {says}
      {part?.number ? <span className="readout"> {part.number}</span> : null}
      <span className="text-sm text-soft"> {by}</span>
    </p>
  ));
}

/** The odds of a part that nothing proves; null where it is proven, decided on, or no part of the job's circuits. */
function useOdds(work: Work, unit: string, fitted: boolean) {
  const { state } = work;
  const settled = [...provenUnits(state).flat(), ...state.decisions.filter(({ decision }) => decision === "override").map((made) => made.unit)];
  const open = fitted && unit !== ELSE && !settled.includes(unit);
  const diagnosed = useDiagnosed(work, open);
  const { analysis } = useAnalysis(diagnosed);
  return open && analysis ? oddsOf(unit, analysis.diagnosis) : null;
}

/** The tests that failed in a unit's circuit: the first of them will show that the repair works. */
function proofTestOf({ job, state }: Work, unit: string): string {
  const circuits = namedCircuits(job.circuits);
  const own = failedReadings(state).find(({ reading }) => job.circuits.length === 1 || reading.circuit === circuitOfUnit(unit));
  return own === undefined ? "" : readingTitle(own.reading, circuits);
}

/** What was done, to what: any number of things, each chosen by whoever did it. A part that nothing proves is recorded with its odds. */
export function Repair({ work, units }: { work: Work; units: readonly string[] }) {
  const { job, state, shop, enter } = work;
  const nameOf = namerOf(job.circuits);
  const located = state.located.filter(({ way }) => way === "found").at(-1);
  const [draft, setDraft] = useKept(`repair ${job.id}`, NOTHING);
  const [problem, setProblem] = useState<string | null>(null);
  const unit = draft.unit ?? located?.unit ?? units.find((one) => !state.repairs.some((done) => done.unit === one)) ?? units[0] ?? ELSE;
  const act = draft.act ?? usualAct(unit, located?.unit === unit ? located.remedy : undefined);
  const change = (part: Partial<typeof NOTHING>): void => setDraft({ ...draft, ...part });
  const all = useMemo(() => unitsOfJob(job.circuits), [job.circuits]);
  const options = [
    ...units.filter((one) => !all.some(([known]) => known === one)).map((one) => [one, nameOf(one)] as const),
    ...all,
    [ELSE, t.somethingElse] as const,
  ];
  const fitted = act === "fitted" && unitKind(unit) !== "wire";
  const wired = unit !== ELSE && ["wire", "contact", "ground"].includes(unitKind(unit)) && act !== "cleaned";
  const circuit = job.circuits.find(({ id }) => id === circuitOfUnit(unit));
  const measured = curveMeasurement(unit, circuit, newTemperatureOf(draft.part));
  const windows = useWindows(measured === null ? null : diagnosedPart(job, state, null), measured === null ? [] : [measured]);
  const against = compared(draft.part, unit, job.circuits, windows?.[0] ?? null);
  const odds = useOdds(work, unit, fitted);
  const test = draft.test ?? (unit === ELSE ? "" : proofTestOf(work, unit));

  const { store, problem: photoProblem, storing } = useStorePhoto(work);
  const take = async (file: File): Promise<void> => {
    const photo = await store(file, unit === ELSE ? draft.text.trim() : nameOf(unit));
    if (photo !== null) change({ photo });
  };
  const save = (): void => {
    if (draft.text.trim() === "") {
      setProblem(messages.needed(t.inWords));
      return;
    }
    if (fitted && against.part === null) return;
    setProblem(null);
    if (odds !== null) {
      const { probability, lossMinutes } = odds;
      enter({ kind: "decision", body: { decision: "override", unit, probability, ...(lossMinutes === null ? {} : { lossMinutes }) } });
    }
    const wiring = wired ? wiringOf(draft.wiring) : undefined;
    enter({
      kind: "repair",
      body: {
        text: draft.text.trim(),
        act,
        ...(unit === ELSE ? {} : { unit }),
        ...(fitted && against.part !== null ? { part: against.part } : {}),
        ...(wiring === undefined ? {} : { wiring }),
        ...(test.trim() === "" ? {} : { test: test.trim() }),
        ...(draft.photo === null ? {} : { photo: draft.photo }),
      },
    });
    if (fitted && against.matches) enter({ kind: "task", body: { task: `compare-part ${unit}`, done: true, text: against.hint ?? "" } });
    setDraft(NOTHING);
  };
  return (
    <Block title={t.done}>
      <Done work={work} />
      <div className="mb-3 mt-2 grid gap-3 sm:grid-cols-2">
        <Select label={t.worked} value={unit} options={options} onChange={(next) => change({ unit: next, act: null, test: null })} />
        <Select label={t.act} value={act} options={ACTS.map((each) => [each, t.acts[each]] as const)} onChange={(next) => change({ act: next })} />
      </div>
      {fitted && (
        <PartFields
          title={unit === ELSE ? t.somethingElse : nameOf(unit)}
          draft={draft.part}
          onDraft={(part) => change({ part: { ...draft.part, ...part } })}
          against={against}
          originalOnly={shop?.settings.policy.part === "original"}
          lookAlikes={<LookAlikes unit={unit} vehicle={job.vehicleId} circuits={job.circuits} draft={draft.part} />}
        />
      )}
      {wired && (
        <WiringFields
          draft={draft.wiring}
          onDraft={(wiring) => change({ wiring: { ...draft.wiring, ...wiring } })}
          loomFrom={shop?.settings.policy.changeLoomFrom ?? USUAL_LOOM_FROM}
        />
      )}
      {odds !== null && (
        <p role="status" className="m-0 mb-3 rounded-lg bg-caution px-3 py-2 text-sm">
          {oddsText(nameOf(unit), odds, formatPercent)} {t.gateRisk}
        </p>
      )}
      <TextArea label={t.inWords} value={draft.text} onChange={(event) => change({ text: event.target.value })} error={problem ?? undefined} />
      <div className="mt-3">
        <TextField label={t.willShow} value={test} onChange={(event) => change({ test: event.target.value })} />
      </div>
      <div className="mt-3 flex flex-wrap items-center gap-3">
        <FilePick label={t.photoOf} accept="image/*" disabled={storing} onFile={(file) => void take(file)}>
          <Camera size={18} aria-hidden="true" /> {t.photoOf}
        </FilePick>
        {draft.photo !== null && <span className="text-sm">✓ {t.photoTaken}</span>}
        {photoProblem !== null && (
          <p role="alert" className="m-0 text-sm text-ember">
            {photoProblem}
          </p>
        )}
      </div>
      <Button weight={state.repairs.length > 0 ? "other" : "next"} onClick={save} className="mt-3">
        {t.save}
      </Button>
    </Block>
  );
}
