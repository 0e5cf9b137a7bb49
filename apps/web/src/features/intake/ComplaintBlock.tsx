import type { UseFormRegister } from "react-hook-form";
import { messages } from "../../messages";
import { Block, Chip, TextArea, TextField } from "../../ui/form";
import type { Form } from "./form";

const t = messages.intake;
const HINTS = Object.keys(t.hint);

interface Props {
  readonly register: UseFormRegister<Form>;
  readonly problem: string | undefined;
  readonly hints: readonly string[];
  readonly onHints: (hints: readonly string[]) => void;
  readonly passing: boolean;
  readonly onPassing: (on: boolean) => void;
}

/** The complaint in the customer's words, and what is known of the car's life. */
export function ComplaintBlock({ register, problem, hints, onHints, passing, onPassing }: Props) {
  return (
    <Block title={messages.job.complaint}>
      <div className="grid gap-3">
        <TextArea label={t.complaint} error={problem} {...register("complaint", { validate: (text) => text.trim() !== "" || messages.needed(t.complaint) })} />
        <div className="grid gap-3 md:grid-cols-2">
          <TextField label={t.when} {...register("when")} />
          <TextField label={t.previous} {...register("previous")} />
        </div>
        <fieldset className="m-0 flex flex-wrap gap-2 border-0 p-0">
          <legend className="mb-1 text-sm text-soft">{t.hints}</legend>
          {HINTS.map((hint) => (
            <Chip key={hint} on={hints.includes(hint)} onChange={(on) => onHints(on ? [...hints, hint] : hints.filter((other) => other !== hint))}>
              {t.hint[hint]}
            </Chip>
          ))}
          <Chip on={passing} onChange={onPassing}>
            {t.comesAndGoes}
          </Chip>
        </fieldset>
      </div>
    </Block>
  );
}
