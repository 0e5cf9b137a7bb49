import type { ReactNode } from "react";
import { messages } from "../../../messages";
import { Chip, Select, TextField } from "../../../ui/form";
import type { Compared, PartDraft } from "./compare";

const t = messages.repair;

interface Props {
  readonly title: string;
  readonly draft: PartDraft;
  readonly onDraft: (part: Partial<PartDraft>) => void;
  readonly against: Compared;
  /** This shop fits original parts only. */
  readonly originalOnly: boolean;
  /** What the shelf's look-alikes say of it. */
  readonly lookAlikes?: ReactNode;
}

type TextKey = { [K in keyof PartDraft]: PartDraft[K] extends string ? K : never }[keyof PartDraft];

/** The new part against the old one, its twin and the specification: what it is, what it measures, how it is fitted. */
export function PartFields({ title, draft, onDraft, against, originalOnly, lookAlikes }: Props) {
  const { problems, hint, outside, beside } = against;
  const field = (name: Exclude<TextKey, "source">, label: string, more: { readonly error?: string | undefined; readonly hint?: string | undefined } = {}) => (
    <TextField label={label} value={draft[name]} onChange={(event) => onDraft({ [name]: event.target.value })} {...more} />
  );
  return (
    <fieldset className="m-0 mb-3 mt-2 grid gap-3 border-0 p-0 sm:grid-cols-2">
      <legend className="mb-2 font-bold">
        {t.part}: {title}
      </legend>
      {field("number", t.partNumber)}
      {field("variant", t.variant)}
      <Select
        label={t.source}
        value={draft.source}
        options={[
          ["original", t.sources.original],
          ["other", t.sources.other],
        ]}
        onChange={(source) => onDraft({ source })}
        hint={draft.source === "other" && originalOnly ? t.originalOnly : undefined}
      />
      {field("twinOhms", t.twinOhms, { error: problems.twinOhms })}
      {field("oldOhms", t.oldOhms, { error: problems.oldOhms })}
      {field("oldTemperature", t.oldTemperature, { error: problems.oldTemperature })}
      {field("newOhms", t.newOhms, { error: problems.newOhms ?? (outside ? hint : undefined), hint })}
      {field("newTemperature", t.newTemperature, { error: problems.newTemperature })}
      {beside.length > 0 && (
        <ul className="m-0 list-none p-0 text-sm sm:col-span-2">
          {beside.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      )}
      {lookAlikes}
      <div className="sm:col-span-2">
        <Chip on={draft.same} onChange={(same) => onDraft({ same })}>
          {t.shape}
        </Chip>
        {!draft.same && (
          <p role="alert" className="mb-0 mt-1 text-sm text-ember">
            {t.differs}
          </p>
        )}
      </div>
      {field("seal", t.seal)}
      <span className="hidden sm:block" />
      {field("torque", t.torque)}
      {field("torqueSource", t.torqueSource)}
    </fieldset>
  );
}
