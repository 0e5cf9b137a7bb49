import { FAMILY_NAMES, familyById } from "@fox-lamp/core";
import type { Circuit } from "@fox-lamp/language";
import { Link } from "react-router";
import { CardLink } from "../../app/CardLink";
import { messages } from "../../messages";
import { Block, Select, TextField } from "../../ui/form";
import type { DraftState } from "./use-draft";

const t = messages.sheet;
const JOINS = ["module", "S1", "S2", "S3"] as const;

interface Props {
  readonly state: DraftState;
  readonly job: { readonly id: string; readonly vehicleId: string };
  /** The job's other circuits. */
  readonly others: readonly Circuit[];
  /** Whether the circuit is on the sheet already: its name in the file stays. */
  readonly known: boolean;
  /** What is wrong with that name, once it counts. */
  readonly idProblem: string | undefined;
}

/** What kind of circuit it is, what it is called, what it shares, and how long its plugs take. */
export function FamilyBlock({ state, job, others, known, idProblem }: Props) {
  const { draft, family, set } = state;
  return (
    <Block title={t.family}>
      <div className="grid gap-3">
        <Select
          label={t.family}
          value={draft.family}
          hint={family?.summary}
          options={FAMILY_NAMES.map(({ id, title }) => [id, title] as const)}
          onChange={(next) => set({ family: next, parameters: {}, tolerance: "" })}
        />
        <Link to={`/shelf?vehicle=${job.vehicleId}`} className="inline-flex min-h-11 items-center text-sm text-soft underline underline-offset-4">
          {messages.specs.ofVehicle}
        </Link>
        <CardLink card={`family-${draft.family}`} words={messages.cards.aboutFamily} job={job.id} circuit={draft.id} />
        <div className="grid grid-cols-[1fr_8rem] gap-3">
          <TextField label={t.name} value={draft.title} onChange={(event) => set({ title: event.target.value })} />
          <TextField
            label={t.id}
            value={draft.id}
            placeholder="ect"
            autoCapitalize="none"
            readOnly={known}
            onChange={(event) => set({ id: event.target.value })}
            error={idProblem}
            className="readout"
          />
        </div>
        <Shared state={state} others={others} />
        <Access draft={draft} set={set} />
      </div>
    </Block>
  );
}

/** The reference it takes part in, and where it joins. */
function Shared({ state: { draft, family, set }, others }: Pick<Props, "state" | "others">) {
  const buses = others.filter(({ family: of }) => familyById(of)?.traits.kind === "reference");
  if (family?.referenceParameter === undefined || buses.length === 0) return null;
  return (
    <div className="grid grid-cols-[1fr_10rem] gap-3">
      <Select
        label={t.shared}
        value={draft.bus}
        options={[["", t.sharedNone], ...buses.map(({ id, title }) => [id, title ?? id] as const)]}
        onChange={(bus) => set({ bus })}
      />
      {draft.bus !== "" && (
        <Select
          label={t.join}
          value={draft.join}
          options={JOINS.map((join) => [join, join === "module" ? t.joinModule : join] as const)}
          onChange={(join) => set({ join })}
        />
      )}
    </div>
  );
}

/** Minutes to its plugs, and the plugs between them. */
function Access({ draft, set }: Pick<DraftState, "draft" | "set">) {
  return (
    <>
      <div className="grid grid-cols-2 gap-3">
        <TextField
          label={`${t.access} ${t.sensor}`}
          inputMode="decimal"
          value={draft.sensorMinutes}
          onChange={(event) => set({ sensorMinutes: event.target.value })}
          className="readout"
        />
        <TextField
          label={`${t.access} ${t.module}`}
          inputMode="decimal"
          value={draft.moduleMinutes}
          onChange={(event) => set({ moduleMinutes: event.target.value })}
          className="readout"
        />
      </div>
      <TextField label={t.inline} placeholder="C1 C2" value={draft.inline} onChange={(event) => set({ inline: event.target.value })} className="readout" />
    </>
  );
}
