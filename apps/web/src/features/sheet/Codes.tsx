import { messages } from "../../messages";
import { Block, Field } from "../../ui/form";
import { CELL } from "./cell";
import type { DraftState } from "./use-draft";

const t = messages.sheet;
const CODE_KINDS = ["low", "high", "performance", "no-activity", "circuit", "correlation"] as const;

/** Which code the module sets for what on this circuit. */
export function Codes({ draft, set }: Pick<DraftState, "draft" | "set">) {
  return (
    <Block title={t.codes}>
      <div className="grid grid-cols-2 gap-3 sm:grid-cols-3">
        {CODE_KINDS.map((kind) => (
          <Field key={kind} label={t.codeKind[kind]}>
            {(wired) => (
              <input
                {...wired}
                value={draft.codes[kind] ?? ""}
                onChange={(event) => set({ codes: { ...draft.codes, [kind]: event.target.value.toUpperCase() } })}
                className={`readout ${CELL}`}
              />
            )}
          </Field>
        ))}
      </div>
    </Block>
  );
}
