import { useState } from "react";
import { messages } from "../../messages";
import { Block, Button, largeNumberIn, Select, TextField } from "../../ui/form";
import type { TimeAnswer, Timeless } from "./use-fresh";

const t = messages.traces;
const NONE = "";

/** A file that does not say when its samples were taken: somebody does, with its first rows before him. */
export function TimeForm({ timeless, onSaid }: { timeless: Timeless; onSaid: (said: TimeAnswer) => void }) {
  const { file, layout } = timeless;
  const [rate, setRate] = useState("");
  const [column, setColumn] = useState(NONE);
  const [wrong, setWrong] = useState(false);
  const read = (): void => {
    if (column !== NONE) {
      onSaid({ time: Number(column) });
      return;
    }
    const value = largeNumberIn(rate);
    if (value === null || value === undefined || !(value > 0)) setWrong(true);
    else onSaid({ rate: value });
  };
  return (
    <Block title={t.timeless(file.name)}>
      <div className="overflow-x-auto">
        <table className="readout text-sm">
          <caption className="text-left text-soft">{t.timelessRows}</caption>
          <thead>
            <tr>
              {layout.channels.map(({ index, title, unit }) => (
                <th key={index} scope="col" className="pr-6 text-left">
                  {title}, {unit}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {layout.sample.map((row, line) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: rows of a file have no other name
              <tr key={line}>
                {layout.channels.map(({ index }) => (
                  <td key={index} className="pr-6">
                    {row[index]}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      <form
        className="mt-3 grid gap-3 sm:grid-cols-3"
        onSubmit={(event) => {
          event.preventDefault();
          read();
        }}
      >
        <Select
          label={t.timelessColumn}
          options={[[NONE, t.timelessNone], ...layout.channels.map(({ index, title }) => [`${index}`, title] as const)]}
          value={column}
          onChange={setColumn}
        />
        {column === NONE && (
          <TextField
            label={t.timelessRate}
            inputMode="decimal"
            value={rate}
            error={wrong ? t.timelessWrong : undefined}
            onChange={(event) => {
              setRate(event.target.value);
              setWrong(false);
            }}
          />
        )}
        <Button type="submit" weight="next" className="self-end justify-self-start">
          {t.timelessRead}
        </Button>
      </form>
    </Block>
  );
}
