import { type CavityReading, cavityWords, type Identification, identifyPins } from "@fox-lamp/core";
import { BadInput, type Circuit, parseShorthand } from "@fox-lamp/language";
import { type FormEvent, useState } from "react";
import { messages } from "../../messages";
import { Button, TextField } from "../../ui/form";
import { Modal } from "../../ui/Modal";

const t = messages.sheet;

interface Props {
  readonly circuit: Circuit;
  readonly open: boolean;
  readonly onOpen: (open: boolean) => void;
  readonly onFill: (cavities: Record<string, string>) => void;
}

function identified(circuit: Circuit, cavities: readonly string[], readings: readonly CavityReading[]): Identification | string {
  try {
    return identifyPins(circuit, cavities, readings);
  } catch (error) {
    if (error instanceof BadInput) return error.message;
    throw error;
  }
}

/** Guided measurement that finds out which cavity is which; what it settles fills the sheet. */
export function Identify({ circuit, open, onOpen, onFill }: Props) {
  const [names, setNames] = useState("");
  const [cavities, setCavities] = useState<readonly string[] | null>(null);
  const [readings, setReadings] = useState<readonly CavityReading[]>([]);
  const [text, setText] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const answer = cavities === null ? null : identified(circuit, cavities, readings);
  const found = typeof answer === "string" ? null : answer;
  const begin = (event: FormEvent): void => {
    event.preventDefault();
    const list = [
      ...new Set(
        names
          .trim()
          .split(/[\s,;]+/u)
          .filter(Boolean),
      ),
    ];
    const tried = identified(circuit, list, []);
    if (typeof tried === "string") {
      setProblem(tried);
      return;
    }
    setProblem(null);
    setReadings([]);
    setCavities(list);
  };
  const take = (event: FormEvent): void => {
    event.preventDefault();
    const next = found?.next;
    if (!next) return;
    const parsed = parseShorthand(text);
    if (!parsed.ok) {
      setProblem(parsed.message);
      return;
    }
    if (typeof parsed.value === "object" || (typeof parsed.value === "string" && parsed.value !== "OL")) {
      setProblem(messages.notANumber(text));
      return;
    }
    setProblem(null);
    setReadings([...readings, { cavity: next.cavity, question: next.question, value: parsed.value as number | "OL" }]);
    setText("");
  };
  const fill = (): void => {
    if (!found?.proven) return;
    onFill(Object.fromEntries(Object.entries(found.proven).map(([cavity, pin]) => [pin, cavity])));
    onOpen(false);
  };
  return (
    <Modal open={open} onOpen={onOpen} title={t.identifyTitle} lead={t.identifyLead}>
      {cavities === null ? (
        <form onSubmit={begin} className="grid gap-3">
          <TextField label={t.cavities} placeholder="A B C" value={names} onChange={(event) => setNames(event.target.value)} error={problem ?? undefined} />
          <Button type="submit" weight="next">
            {t.begin}
          </Button>
        </form>
      ) : (
        <div className="grid gap-4">
          {found && (
            <ul className="m-0 grid list-none gap-1 p-0">
              {cavityWords(found).map((words) => (
                <li key={words} className="rounded-lg border border-line px-3 py-2">
                  {words}
                </li>
              ))}
            </ul>
          )}
          {found && found.misfit > 0.5 && (
            <p role="alert" className="m-0 rounded-lg bg-caution px-3 py-2">
              {t.misfit}
            </p>
          )}
          {found?.next && (
            <form onSubmit={take} className="grid gap-2">
              <p className="m-0 font-bold">{found.next.title}</p>
              <p className="m-0 text-sm text-soft">{found.next.proves}</p>
              {found.next.cautions.map((caution) => (
                <p key={caution} className="m-0 rounded-lg bg-caution px-3 py-2 text-sm">
                  {caution}
                </p>
              ))}
              <TextField
                label={t.value}
                value={text}
                onChange={(event) => setText(event.target.value)}
                error={problem ?? undefined}
                className="readout text-2xl"
              />
              <Button type="submit" weight="next" disabled={text.trim() === ""}>
                {t.take}
              </Button>
            </form>
          )}
          {found?.proven && (
            <>
              <p className="m-0 font-bold text-calm">✓ {t.settled}</p>
              <Button weight="next" onClick={fill}>
                {t.fill}
              </Button>
            </>
          )}
          {found && !found.next && !found.proven && <p className="m-0 text-soft">{t.nothingMore}</p>}
        </div>
      )}
    </Modal>
  );
}
