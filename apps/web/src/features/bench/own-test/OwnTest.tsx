import type { CircuitView } from "@fox-lamp/core";
import { KEY_STATES, type Meter, pointWord, STIMULI } from "@fox-lamp/language";
import { useState } from "react";
import { useOwnTest } from "../../../circuit/use-analysis";
import { messages } from "../../../messages";
import { Combo } from "../../../ui/Combo";
import { Button, Chip, Select, TextField } from "../../../ui/form";
import { Modal } from "../../../ui/Modal";
import type { OwnScene } from "../desk";
import type { Bench } from "../use-bench";
import {
  canRecord,
  type Draft,
  type DraftProblem,
  draftFor,
  draftFrom,
  hasBlack,
  hasPlace,
  hasRed,
  measurementOfDraft,
  OWN_METERS,
  plugsOf,
  pointsOf,
  type Start,
  seenOptions,
  stimulusPlaces,
  withMeter,
} from "./draft";
import { LeadBoard } from "./LeadBoard";
import { Prediction } from "./Prediction";
import { PutIn } from "./PutIn";

const t = messages.bench;
const own = messages.ownTest;

interface Props {
  readonly bench: Pick<Bench, "circuit" | "diagnosed">;
  /** Leads that were put on before it was opened; null where none were. */
  readonly start: Start | null;
  readonly circuits: readonly CircuitView[];
  readonly onOpen: (open: boolean) => void;
  readonly onMeasure: (scene: OwnScene) => void;
}

/** What the parts of the form need of the draft. */
interface Drafting {
  readonly draft: Draft;
  readonly circuit: CircuitView;
  readonly circuits: readonly CircuitView[];
  readonly problem: DraftProblem | null;
  readonly set: (part: Partial<Draft>) => void;
}

/** The instrument, and where its leads go or what it is pointed at. */
function Reading({ draft, circuit, circuits, set, onMeter }: Drafting & { onMeter: (meter: Meter) => void }) {
  const points = pointsOf(circuit, circuits);
  const { meter } = draft;
  return (
    <>
      <div className="grid gap-3 sm:grid-cols-2">
        <Combo label={own.instrument} value={meter} options={OWN_METERS.map((each) => ({ value: each, label: t.meter[each] }))} onChange={onMeter} />
        {!hasRed(meter) && (
          <Combo
            label={meter === "notice" ? own.seen.notice : meter === "listen" ? own.seen.listen : own.seen.look}
            value={draft.seen}
            options={seenOptions(meter, circuit)}
            onChange={(seen) => set({ seen })}
          />
        )}
        {hasRed(meter) && (
          <Combo
            label={meter === "scan" ? own.value : own.red}
            value={draft.red}
            options={points}
            placeholder={pointWord(draft.red)}
            onChange={(red) => set({ red })}
          />
        )}
        {hasBlack(meter) && <Combo label={own.black} value={draft.black} options={points} onChange={(black) => set({ black })} />}
        {canRecord(meter) && (
          <div className="self-end">
            <Chip on={draft.record} onChange={(record) => set({ record })}>
              {own.record}
            </Chip>
          </div>
        )}
      </div>
      {hasRed(meter) && meter !== "scan" && (
        <LeadBoard circuit={circuit} red={draft.red} black={hasBlack(meter) ? draft.black : null} onPut={(lead, point) => set({ [lead]: point })} />
      )}
    </>
  );
}

/** What is unplugged, on this circuit and on others. */
function Plugs({ draft, circuit, circuits, set }: Drafting) {
  const plugs = plugsOf(circuit, circuits);
  const others = plugs.filter(({ value }) => value.includes(":"));
  const toggle = (place: string, on: boolean): void => set({ open: on ? [...draft.open, place] : draft.open.filter((other) => other !== place) });
  return (
    <fieldset className="m-0 grid gap-2 border-0 p-0">
      <legend className="mb-1 text-sm text-soft">{own.unplugged}</legend>
      <div className="flex flex-wrap gap-2">
        {plugs
          .filter(({ value }) => !value.includes(":") || draft.open.includes(value))
          .map(({ value, label, group }) => (
            <Chip key={value} on={draft.open.includes(value)} onChange={(on) => toggle(value, on)}>
              {value.includes(":") ? `${label}, ${group}` : label}
            </Chip>
          ))}
      </div>
      {others.some(({ value }) => !draft.open.includes(value)) && (
        <Combo
          label={own.otherPlug}
          value=""
          options={others.filter(({ value }) => !draft.open.includes(value))}
          placeholder={own.nothing}
          onChange={(place) => toggle(place, true)}
        />
      )}
    </fieldset>
  );
}

/** Key, engine speed, what is done meanwhile, and what is known of the moment. */
function State({ draft, circuit, problem, set }: Drafting) {
  const wheel = circuit.quantity === "level";
  return (
    <div className="grid gap-3 sm:grid-cols-2">
      <Select label={own.key} value={draft.key} options={KEY_STATES.map((key) => [key, t.key[key]] as const)} onChange={(key) => set({ key })} />
      {draft.key === "rev" && (
        <TextField
          label={own.rpm}
          value={draft.rpm}
          inputMode="numeric"
          onChange={(event) => set({ rpm: event.target.value })}
          error={problem?.field === "rpm" ? problem.message : undefined}
        />
      )}
      <Select
        label={own.stimulus}
        value={draft.stimulus}
        options={STIMULI.map((kind) => [kind, kind === "none" ? own.nothing : t.stimulus[kind]] as const)}
        onChange={(stimulus) => set({ stimulus, at: "" })}
      />
      {hasPlace(draft.stimulus) && (
        <Combo label={own.where} value={draft.at} options={[{ value: "", label: own.anywhere }, ...stimulusPlaces(circuit)]} onChange={(at) => set({ at })} />
      )}
      {wheel && (
        <Select
          label={own.steel}
          value={draft.steel}
          options={(["unknown", "at", "away"] as const).map((steel) => [steel, own.steels[steel]] as const)}
          onChange={(steel) => set({ steel })}
        />
      )}
      {wheel && (
        <Select
          label={own.level}
          value={draft.level}
          options={(["unknown", "high", "low"] as const).map((level) => [level, own.levels[level]] as const)}
          onChange={(level) => set({ level })}
        />
      )}
      {circuit.quantity === "position" && (
        <TextField
          label={own.position}
          value={draft.position}
          inputMode="decimal"
          onChange={(event) => set({ position: event.target.value })}
          error={problem?.field === "position" ? problem.message : undefined}
        />
      )}
    </div>
  );
}

/** Puts a test together freely and shows what it would read, and what that would tell, before anybody measures. */
export function OwnTest({ bench, start, circuits, onOpen, onMeasure }: Props) {
  const [draft, setDraft] = useState<Draft | null>(null);
  const first = circuits.find(({ id }) => id === (start?.circuit ?? bench.circuit?.id)) ?? circuits[0];
  const now = draft ?? (first ? (start === null ? draftFor(first) : draftFrom(start, first)) : null);
  const circuit = circuits.find(({ id }) => id === now?.circuit) ?? first;
  const made = now === null ? null : measurementOfDraft(now);
  const answer = useOwnTest(bench.diagnosed, made?.ok ? made.measurement : null);
  if (!circuit || !now || !made) return null;
  const problem = made.ok ? null : made.problem;
  const drafting: Drafting = { draft: now, circuit, circuits, problem, set: (part) => setDraft({ ...now, ...part }) };
  return (
    <Modal open onOpen={onOpen} title={own.title} lead={own.hint} width="wide">
      <div className="grid gap-4 lg:grid-cols-[1fr_20rem]">
        <div className="grid min-w-0 content-start gap-4">
          {circuits.length > 1 && (
            <Combo
              label={own.circuit}
              value={circuit.id}
              options={circuits.map(({ id, title }) => ({ value: id, label: title }))}
              onChange={(id) => {
                const next = circuits.find((candidate) => candidate.id === id);
                if (next) setDraft(draftFor(next));
              }}
            />
          )}
          <Reading {...drafting} onMeter={(meter) => setDraft(withMeter(now, meter, circuit))} />
          <State {...drafting} />
          <Plugs {...drafting} />
          <PutIn parts={now.add} circuit={circuit} circuits={circuits} problem={problem} onChange={(add) => drafting.set({ add })} />
        </div>
        <div className="grid content-start gap-4">
          <Prediction problem={problem} answer={answer} circuits={circuits} />
          <div className="sticky bottom-0 flex gap-2 bg-panel py-2">
            <Button
              weight="next"
              className="min-h-12 flex-1"
              disabled={!answer?.ok}
              onClick={() => {
                if (answer?.ok) onMeasure({ test: answer.test, engineering: answer.engineering, volts: answer.volts });
                onOpen(false);
              }}
            >
              {own.measure}
            </Button>
            <Button className="min-h-12" onClick={() => onOpen(false)}>
              {t.close}
            </Button>
          </div>
        </div>
      </div>
    </Modal>
  );
}
