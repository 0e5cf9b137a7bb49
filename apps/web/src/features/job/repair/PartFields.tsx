import { formatWindow, specifiedOhms } from "@fox-lamp/core";
import { circuitOfUnit, type Part } from "@fox-lamp/language";
import { valueTyped } from "../../../circuit/typed";
import { messages } from "../../../messages";
import { Chip, Select, TextField } from "../../../ui/form";
import type { Work } from "../shared/JobFrame";

const t = messages.repair;

/** A new part as it is being described: ohms as typed. */
export interface PartDraft {
  readonly number: string;
  readonly source: "original" | "other";
  readonly same: boolean;
  readonly oldOhms: string;
  readonly newOhms: string;
}
export const NO_PART: PartDraft = { number: "", source: "original", same: true, oldOhms: "", newOhms: "" };

type Ohms = { readonly ok: true; readonly ohms: number | "OL" | null } | { readonly ok: false; readonly message: string };

/** A resistance as it is typed anywhere else: k and M, a unit, or OL; nothing where nothing is typed. */
function ohmsIn(text: string): Ohms {
  if (text.trim() === "") return { ok: true, ohms: null };
  const typed = valueTyped(text, { meter: "ohms", red: "" });
  if (!typed.ok) return typed;
  if (typed.value === "OL" || (typeof typed.value === "number" && typed.value >= 0)) return { ok: true, ohms: typed.value };
  return { ok: false, message: messages.notANumber(text) };
}

/** What a part that was fitted is held against: the old one and the specification. */
export interface Compared {
  /** The part for the record; null while something typed is no resistance. */
  readonly part: Part | null;
  /** Why the old or the new resistance is none. */
  readonly problems: { readonly oldOhms: string | undefined; readonly newOhms: string | undefined };
  /** The new part against the specification, in words; undefined where either is not known. */
  readonly hint: string | undefined;
  readonly outside: boolean;
  /** Whether there is anything on record by which it was compared and found right. */
  readonly matches: boolean;
}

/** Compares a new part with the old one and the specification of its circuit. */
export function compared({ number, source, same, oldOhms, newOhms }: PartDraft, unit: string, circuits: Work["job"]["circuits"]): Compared {
  const circuit = circuits.find(({ id }) => id === circuitOfUnit(unit));
  const window = circuit === undefined ? null : specifiedOhms(circuit, unit);
  const [before, after] = [ohmsIn(oldOhms), ohmsIn(newOhms)];
  const ohms = after.ok ? after.ohms : null;
  const outside = window !== null && ohms !== null && (ohms === "OL" || ohms < window[0] || ohms > window[1]);
  const hint = window === null || ohms === null ? undefined : (outside ? t.outside : t.inside)(formatWindow(window[0], window[1], "ohm"));
  const part =
    before.ok && after.ok
      ? {
          ...(number.trim() ? { number: number.trim() } : {}),
          source,
          shape: same,
          ...(before.ohms === null ? {} : { oldOhms: before.ohms }),
          ...(after.ohms === null ? {} : { newOhms: after.ohms }),
        }
      : null;
  const problems = { oldOhms: before.ok ? undefined : before.message, newOhms: after.ok ? undefined : after.message };
  return { part, problems, hint, outside, matches: same && !outside && ohms !== null };
}

interface Props {
  readonly title: string;
  readonly draft: PartDraft;
  readonly onDraft: (part: Partial<PartDraft>) => void;
  readonly against: Compared;
  /** This shop fits original parts only. */
  readonly originalOnly: boolean;
}

/** The new part against the old one: number, where it is from, resistance, shape. */
export function PartFields({ title, draft, onDraft, against, originalOnly }: Props) {
  const { problems, hint, outside } = against;
  return (
    <fieldset className="m-0 mb-3 mt-2 grid gap-3 border-0 p-0 sm:grid-cols-2">
      <legend className="mb-2 font-bold">
        {t.part}: {title}
      </legend>
      <TextField label={t.partNumber} value={draft.number} onChange={(event) => onDraft({ number: event.target.value })} />
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
      <TextField
        label={t.oldOhms}
        value={draft.oldOhms}
        onChange={(event) => onDraft({ oldOhms: event.target.value })}
        error={problems.oldOhms}
        className="readout"
      />
      <TextField
        label={t.newOhms}
        value={draft.newOhms}
        onChange={(event) => onDraft({ newOhms: event.target.value })}
        error={problems.newOhms ?? (outside ? hint : undefined)}
        hint={hint}
        className="readout"
      />
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
    </fieldset>
  );
}
