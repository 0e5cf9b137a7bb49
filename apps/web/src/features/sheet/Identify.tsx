import {
  type AskedCavity,
  type CavityQuestion,
  type CavityReading,
  cavityQuestions,
  cavityWords,
  type Identification,
  identifyPins,
  readingsAtPins,
} from "@fox-lamp/core";
import { BadInput, type Circuit, type Reading } from "@fox-lamp/language";
import { X } from "lucide-react";
import { type FormEvent, useMemo, useState } from "react";
import { valueTyped } from "../../circuit/typed";
import { valueText } from "../../circuit/wording";
import { messages } from "../../messages";
import { Button, Select, TextField } from "../../ui/form";
import { Modal } from "../../ui/Modal";

const t = messages.sheet;
const MISFIT_SHOWN = 0.5;

interface Props {
  readonly circuit: Circuit;
  readonly open: boolean;
  readonly onOpen: (open: boolean) => void;
  /** Cavities by pin, and what was measured at them as readings of the job. */
  readonly onFill: (cavities: Record<string, string>, readings: readonly Reading[]) => void;
}

function identified(circuit: Circuit, cavities: readonly string[], readings: readonly CavityReading[]): Identification | string {
  try {
    return identifyPins(circuit, cavities, readings);
  } catch (error) {
    if (error instanceof BadInput) return error.message;
    throw error;
  }
}

/** Names of cavities as typed: each once, in their order. */
function namesIn(text: string): string[] {
  const names = text.trim().split(/[\s,;]+/u);
  return [...new Set(names.filter(Boolean))];
}

/** Guided measurement that finds out which cavity is which, in any order; what it settles fills the sheet. */
export function Identify({ circuit, open, onOpen, onFill }: Props) {
  const [names, setNames] = useState("");
  const [cavities, setCavities] = useState<readonly string[] | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const begin = (event: FormEvent): void => {
    event.preventDefault();
    const list = namesIn(names);
    const tried = identified(circuit, list, []);
    setProblem(typeof tried === "string" ? tried : null);
    if (typeof tried !== "string") setCavities(list);
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
        <Measuring
          circuit={circuit}
          cavities={cavities}
          onFill={(found, readings) => {
            onFill(found, readings);
            onOpen(false);
          }}
        />
      )}
    </Modal>
  );
}

/** What was measured at the cavities so far, what it says, and the next measurement: the one proposed, or any other. */
function Measuring({ circuit, cavities, onFill }: Pick<Props, "circuit" | "onFill"> & { readonly cavities: readonly string[] }) {
  const [readings, setReadings] = useState<readonly CavityReading[]>([]);
  const [chosen, setChosen] = useState<{ readonly cavity: string; readonly question: CavityQuestion } | null>(null);
  const answer = useMemo(() => identified(circuit, cavities, readings), [circuit, cavities, readings]);
  if (typeof answer === "string") return <p role="alert">{answer}</p>;
  const { found, next, proven, misfit } = answer;
  const at = chosen ?? next ?? { cavity: cavities[0] ?? "", question: "volts-unplugged" as const };
  const questions = cavityQuestions(circuit, at.cavity);
  const asked = questions.find(({ question }) => question === at.question) ?? questions[0];
  const own = chosen === null && next !== null;
  const fill = (): void => onFill(Object.fromEntries(Object.entries(found).map(([cavity, pin]) => [pin, cavity])), readingsAtPins(circuit, found, readings));
  const titles = new Map(questions.map(({ question, title }) => [question, title.replace(/^Cavity \S+ /u, "")]));
  return (
    <div className="grid gap-4">
      <ul className="m-0 grid list-none gap-1 p-0" aria-label={t.soFar}>
        {cavityWords(answer).map((words) => (
          <li key={words} className="rounded-lg border border-line px-3 py-2">
            {words}
          </li>
        ))}
      </ul>
      {misfit > MISFIT_SHOWN && (
        <p role="alert" className="m-0 rounded-lg bg-caution px-3 py-2">
          {t.misfit}
        </p>
      )}
      {readings.length > 0 && (
        <ul className="m-0 grid list-none gap-1 p-0 text-sm" aria-label={t.measuredSoFar}>
          {readings.map(({ cavity, question, value }, index) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: the same may be measured twice
            <li key={index} className="flex items-center gap-2 border-b border-line">
              <span className="min-w-0 flex-1">
                {cavity}: {titles.get(question)}
              </span>
              <span className="readout whitespace-nowrap font-bold">{valueText(value, question === "ohms-to-ground" ? "ohm" : "V")}</span>
              <button
                type="button"
                className="grid size-11 place-items-center rounded-lg text-soft"
                aria-label={t.takeBackMeasured(cavity)}
                onClick={() => setReadings(readings.filter((_, other) => other !== index))}
              >
                <X size={18} aria-hidden="true" />
              </button>
            </li>
          ))}
        </ul>
      )}
      {proven ? (
        <p className="m-0 font-bold text-calm">✓ {t.settled}</p>
      ) : (
        asked && (
          <Question
            key={`${at.cavity} ${at.question} ${readings.length}`}
            asked={asked}
            proves={own ? (next?.proves ?? "") : ""}
            cavities={cavities}
            questions={questions.map(({ question }) => [question, titles.get(question) ?? question])}
            onChoose={setChosen}
            onTake={(reading) => {
              setReadings([...readings, reading]);
              setChosen(null);
            }}
          />
        )
      )}
      {!next && !proven && <p className="m-0 text-soft">{t.nothingMore}</p>}
      {Object.keys(found).length > 0 && (
        <Button weight={proven ? "next" : "other"} onClick={fill}>
          {proven ? t.fill : t.fillSoFar(Object.keys(found).length, cavities.length)}
        </Button>
      )}
    </div>
  );
}

interface QuestionProps {
  readonly asked: AskedCavity;
  readonly proves: string;
  readonly cavities: readonly string[];
  readonly questions: readonly (readonly [CavityQuestion, string])[];
  readonly onChoose: (at: { readonly cavity: string; readonly question: CavityQuestion }) => void;
  readonly onTake: (reading: CavityReading) => void;
}

/** One measurement at one cavity; both can be chosen. */
function Question({ asked, proves, cavities, questions, onChoose, onTake }: QuestionProps) {
  const { cavity, question, meter, record } = asked;
  const [text, setText] = useState("");
  const [problem, setProblem] = useState<string | null>(null);
  const take = (event: FormEvent): void => {
    event.preventDefault();
    const typed = valueTyped(text, { meter, red: "bat-", record });
    if (!typed.ok) setProblem(typed.message);
    else if (typeof typed.value === "string" && typed.value !== "OL") setProblem(messages.notANumber(text));
    else onTake({ cavity, question, value: typed.value as CavityReading["value"] });
  };
  return (
    <form onSubmit={take} className="grid gap-2">
      <p className="m-0 font-bold">{asked.title}</p>
      {proves !== "" && <p className="m-0 text-sm text-soft">{proves}</p>}
      <div className="grid gap-2 sm:grid-cols-[8rem_1fr]">
        <Select label={t.cavity} value={cavity} options={cavities.map((each) => [each, each] as const)} onChange={(to) => onChoose({ cavity: to, question })} />
        <Select label={t.measured} value={question} options={questions} onChange={(to) => onChoose({ cavity, question: to })} />
      </div>
      {asked.cautions.map((caution) => (
        <p key={caution} className="m-0 rounded-lg bg-caution px-3 py-2 text-sm">
          {caution}
        </p>
      ))}
      <TextField
        label={t.value}
        value={text}
        placeholder={record === undefined ? undefined : t.spanExample}
        onChange={(event) => setText(event.target.value)}
        error={problem ?? undefined}
        className="readout text-2xl"
      />
      <Button type="submit" weight="next" disabled={text.trim() === ""}>
        {t.take}
      </Button>
    </form>
  );
}
