import { isWordMeter, type Reading, unitOfReading, type Value } from "@fox-lamp/language";
import { type FormEvent, useState } from "react";
import { valueTyped, wordsOf } from "../../../circuit/typed";
import { valueText } from "../../../circuit/wording";
import { messages } from "../../../messages";

const t = messages.bench;

interface Props {
  /** What is read: its meter, and the value it has. */
  readonly reading: Reading;
  readonly label: string;
  /** What the button says. */
  readonly submit: string;
  readonly onValue: (value: Value, unit?: string) => void;
  readonly onClose: () => void;
}

/** A field for another value of a reading: a number as it is typed everywhere, or one of the words its meter shows. */
export function ValueForm({ reading, label, submit, onValue, onClose }: Props) {
  const [text, setText] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const entered = (event: FormEvent): void => {
    event.preventDefault();
    const typed = valueTyped(text, reading);
    if (typed.ok) onValue(typed.value, typed.unit);
    else setProblem(typed.message);
  };
  return (
    <form onSubmit={entered} className="flex flex-wrap items-center gap-2 rounded-lg bg-well p-2">
      {!isWordMeter(reading.meter) && (
        <label className="relative min-w-40 flex-1">
          <span className="sr-only">{label}</span>
          <input
            // biome-ignore lint/a11y/noAutofocus: it was opened to be typed into
            autoFocus
            value={text}
            onChange={(event) => setText(event.target.value)}
            onKeyDown={(event) => event.key === "Escape" && onClose()}
            inputMode="decimal"
            autoComplete="off"
            placeholder={valueText(reading.value, unitOfReading(reading))}
            className="readout h-11 w-full rounded-lg border-2 border-lamp bg-panel px-3 text-lg text-ink"
          />
        </label>
      )}
      {wordsOf(reading).map((word) => (
        <button key={word} type="button" onClick={() => onValue(word)} className="h-11 rounded-lg border border-lamp px-3 text-ink">
          {t.findings[word] ?? word}
        </button>
      ))}
      {!isWordMeter(reading.meter) && (
        <button type="submit" className="h-11 rounded-lg bg-lamp px-4 font-bold text-on-lamp">
          {submit}
        </button>
      )}
      <button type="button" onClick={onClose} className="h-11 rounded-lg px-3 text-soft">
        {t.close}
      </button>
      {problem !== null && (
        <p role="alert" className="basis-full text-sm text-ember">
          {problem}
        </p>
      )}
    </form>
  );
}
