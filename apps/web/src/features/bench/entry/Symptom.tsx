import { messages } from "../../../messages";

const t = messages.bench;
const ANSWERS = [
  [true, t.symptomAnswers.yes],
  [false, t.symptomAnswers.no],
  [null, t.symptomAnswers.unknown],
] as const;

/** Whether the complaint showed while the reading was taken. */
export function Symptom({ value, onChange }: { value: boolean | null; onChange: (value: boolean | null) => void }) {
  return (
    <fieldset className="mb-3 flex items-center gap-2 border-0 p-0 text-sm">
      <legend className="float-left pr-2 text-soft">{t.symptom}</legend>
      {ANSWERS.map(([answer, word]) => (
        <button
          key={word}
          type="button"
          aria-pressed={value === answer}
          onClick={() => onChange(answer)}
          className={`min-h-11 whitespace-nowrap rounded-lg border px-3 ${value === answer ? "border-lamp font-bold text-ink" : "border-edge text-soft"}`}
        >
          {word}
        </button>
      ))}
    </fieldset>
  );
}
