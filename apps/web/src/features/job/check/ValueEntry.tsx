import { isWordMeter, type Measurement, unitOfReading, type Value } from "@fox-lamp/language";
import { useState } from "react";
import { reasonOf, useReadInstrumentsMutation } from "../../../app/api";
import { valueTyped, wordsOf } from "../../../circuit/typed";
import { messages } from "../../../messages";
import { unitLabel } from "../../../ui/display";
import { Button } from "../../../ui/form";
import { useKept } from "../../../ui/kept";

const t = messages.check;

interface Props {
  readonly job: string;
  readonly measurement: Measurement;
  readonly label: string;
  /** Whether the instrument of a virtual car can be read. */
  readonly connected: boolean;
  readonly onValue: (value: Value) => void;
}

/** A value of a test, entered as on the bench: shorthand, units, lowest to highest, words, or read from the instrument. */
export function ValueEntry({ job, measurement, label, connected, onValue }: Props) {
  const [read, { isLoading }] = useReadInstrumentsMutation();
  const [text, setText] = useKept(`again ${job} ${JSON.stringify(measurement)}`, "");
  const [problem, setProblem] = useState<string | null>(null);
  const words = wordsOf(measurement);
  const keep = (value: Value): void => {
    onValue(value);
    setText("");
    setProblem(null);
  };
  const instrument = async (): Promise<void> => {
    const answer = await read({ job, measurements: [measurement] });
    if ("error" in answer) setProblem(reasonOf(answer.error) ?? messages.bench.instrumentFailed);
    else if (answer.data.values[0] !== undefined) keep(answer.data.values[0]);
  };
  const take = (): void => {
    const typed = valueTyped(text, measurement);
    if (typed.ok) keep(typed.value);
    else setProblem(typed.message);
  };
  return (
    <>
      <form
        className="mt-2 flex flex-wrap gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          take();
        }}
      >
        {!isWordMeter(measurement.meter) && (
          <>
            <input
              aria-label={label}
              value={text}
              autoComplete="off"
              onChange={(event) => setText(event.target.value)}
              placeholder={measurement.record === undefined ? unitLabel(unitOfReading(measurement)) : messages.bench.lowToHigh}
              aria-invalid={problem !== null}
              className="readout min-h-11 w-40 rounded-lg border border-edge bg-well px-3 text-ink placeholder:text-soft"
            />
            <Button type="submit" disabled={text.trim() === ""}>
              {t.save}
            </Button>
          </>
        )}
        {words.map((word) => (
          <Button key={word} onClick={() => keep(word)}>
            {messages.bench.findings[word] ?? word}
          </Button>
        ))}
        {connected && (
          <Button disabled={isLoading} onClick={() => void instrument()}>
            {t.read}
          </Button>
        )}
      </form>
      {problem !== null && (
        <p role="alert" className="m-0 mt-1 text-sm text-ember">
          {problem}
        </p>
      )}
    </>
  );
}
