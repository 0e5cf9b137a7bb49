import { statedParameters } from "@fox-lamp/core";
import type { Circuit } from "@fox-lamp/language";
import { messages } from "../../../messages";

const t = messages.bench;
const KINDS = ["opening", "reference"] as const;
type PercentOfKind = (typeof KINDS)[number];

/** Families whose module reports a percentage that may be of either. */
const REPORTED_IN_PERCENT: readonly string[] = ["potentiometer-3w", "dual-track"];

/** Whether nobody has said yet what the percentage of a circuit's module is a share of. */
export function leavesPercentOpen(circuit: Circuit | undefined): circuit is Circuit {
  return circuit !== undefined && REPORTED_IN_PERCENT.includes(circuit.family) && !statedParameters(circuit.with).origins.has("percentOf");
}

/** The circuit with what its percentage is a share of. */
export function withPercentOf(circuit: Circuit, of: PercentOfKind): Circuit {
  return { ...circuit, with: { ...circuit.with, percentOf: of } };
}

interface Props {
  readonly circuit: Circuit | undefined;
  /** What is being typed. */
  readonly text: string;
  readonly onSay: (circuit: Circuit) => void;
}

/** Asked once of a job, when somebody types a percentage: whether the module means the opening or the reference. It goes on the sheet. */
export function PercentOf({ circuit, text, onSay }: Props) {
  if (!text.includes("%") || !leavesPercentOpen(circuit)) return null;
  return (
    <fieldset className="mt-2 flex flex-wrap items-center gap-2 border-0 p-0 text-sm">
      <legend className="float-left pr-2 text-soft">{t.percentOf}</legend>
      {KINDS.map((of) => (
        <button key={of} type="button" onClick={() => onSay(withPercentOf(circuit, of))} className="min-h-11 rounded-lg border border-edge px-3 text-ink">
          {t.percentKinds[of]}
        </button>
      ))}
    </fieldset>
  );
}
