import { isWordMeter, type Meter, type NextTest, unitOfReading, type Value } from "@fox-lamp/language";
import { ArrowLeftRight, Delete, Radio } from "lucide-react";
import { type FormEvent, type RefObject, useState } from "react";
import { valueTyped, wordsOf } from "../../../circuit/typed";
import { messages } from "../../../messages";
import { unitLabel } from "../../../ui/display";
import { useKeypad } from "../../../ui/room";

interface Props {
  readonly test: NextTest;
  /** A further unit a number may be typed in (scan data in degC). */
  readonly also: string | undefined;
  readonly text: string;
  readonly onText: (text: string) => void;
  readonly onTake: (value: Value, unit?: string) => void;
  readonly busy: boolean;
  readonly inputRef: RefObject<HTMLInputElement | null>;
  /** Reads the connected instrument; null where none is connected. */
  readonly onRead: (() => void) | null;
  readonly reading: boolean;
  /** The last number taken at the same points in the same state, to be entered again; null where there is none. */
  readonly same: string | null;
}

const KEYS: readonly string[] = ["7", "8", "9", "k", "4", "5", "6", "m", "1", "2", "3", "M", ".", "0", "-", "OL"];
/** A recording has two numbers: the last key puts "to" between them. */
const SPAN_KEYS: readonly string[] = [...KEYS.slice(0, -1), " to "];

/** One field for the reading: shorthand and units, words as buttons, a keypad where fingers are used. */
export function Entry({ test, also, text, onText, onTake, busy, inputRef, onRead, reading, same }: Props) {
  const [problem, setProblem] = useState<string | null>(null);
  const keypad = useKeypad();
  const words = wordsOf(test);
  const submit = (event: FormEvent): void => {
    event.preventDefault();
    const typed = valueTyped(text, test, also);
    setProblem(typed.ok ? null : typed.message);
    if (typed.ok) onTake(typed.value, typed.unit);
  };
  const change = (next: string): void => {
    setProblem(null);
    onText(next);
  };
  return (
    <div>
      {!isWordMeter(test.meter) && (
        <form onSubmit={submit} className="grid grid-cols-4 gap-1.5 lg:grid-cols-[1fr_auto] lg:gap-2.5">
          <NumberField {...{ test, also, text, inputRef }} onText={change} wrong={problem !== null} wide={onRead === null} />
          {onRead !== null && <ReadButton meter={test.meter} off={reading || busy} onRead={onRead} className="px-2 lg:order-3 lg:col-span-2 lg:h-11" short />}
          {keypad && <Keypad keys={test.record === undefined ? KEYS : SPAN_KEYS} onKey={(key) => change(key === "OL" ? "OL" : text + key)} />}
          <button type="submit" className="col-span-4 h-13 rounded-xl bg-lamp px-6 text-lg font-bold text-on-lamp lg:order-2 lg:col-span-1 lg:h-16">
            {messages.bench.take}
          </button>
        </form>
      )}
      {isWordMeter(test.meter) && onRead !== null && <ReadButton meter={test.meter} off={reading || busy} onRead={onRead} className="w-full px-3" />}
      {same !== null && (
        <button type="button" onClick={() => change(same)} className="mt-1.5 min-h-11 w-full rounded-lg border border-edge px-3 text-ink lg:mt-2">
          {messages.bench.sameAgain(same)}
        </button>
      )}
      <p id="entry-problem" role="alert" className="text-sm text-ember empty:hidden">
        {problem}
      </p>
      {words.length > 0 && (
        <div className="mt-2 flex flex-wrap gap-2">
          {words.map((word) => (
            <button
              key={word}
              type="button"
              disabled={busy}
              // The second half of a double click would answer the next test, which is there at once.
              onClick={({ detail }) => detail < 2 && onTake(word)}
              className={`rounded-xl border border-lamp px-4 font-bold text-ink disabled:opacity-60 ${isWordMeter(test.meter) ? "min-h-12 flex-auto basis-36 lg:min-h-14 bg-well py-1 text-lg leading-tight" : "min-h-11"}`}
            >
              {messages.bench.findings[word] ?? word}
            </button>
          ))}
        </div>
      )}
    </div>
  );
}

/** The field a number is typed into, with the unit it stands in. */
function NumberField({
  test,
  also,
  text,
  inputRef,
  onText,
  wrong,
  wide,
}: Pick<Props, "test" | "also" | "text" | "inputRef" | "onText"> & { wrong: boolean; wide: boolean }) {
  // A unit typed behind the number, a prefix of shorthand apart.
  const spelled = /[a-z%°]/iu.test(text);
  return (
    <div className={`relative min-w-0 lg:col-span-1 ${wide ? "col-span-4" : "col-span-3"}`}>
      <label>
        <span className="sr-only">{test.title}</span>
        <input
          ref={inputRef}
          value={text}
          onChange={(event) => onText(event.target.value)}
          inputMode={matchMedia("(pointer: coarse)").matches ? "none" : "decimal"}
          autoComplete="off"
          spellCheck={false}
          placeholder={test.record === undefined ? "" : messages.bench.lowToHigh}
          aria-invalid={wrong}
          aria-describedby="entry-problem"
          className="readout h-12 w-full rounded-xl border-2 border-lamp bg-well pl-4 pr-12 text-3xl font-bold text-ink placeholder:text-lg placeholder:font-normal lg:h-16"
        />
      </label>
      {also !== undefined && (
        <button
          type="button"
          aria-label={messages.bench.inUnit(unitLabel(spelled ? unitOfReading(test) : also))}
          onClick={() => onText(spelled ? text.replace(/\s*[^\d\s.,-]+$/u, "") : `${text} ${unitLabel(also)}`)}
          className={`absolute top-1/2 flex min-h-11 -translate-y-1/2 items-center gap-1 rounded-lg px-2 text-lg text-soft lg:right-2 ${text === "" ? "right-2" : "right-12"}`}
        >
          {!spelled && <span className="readout">{unitLabel(unitOfReading(test))}</span>}
          <ArrowLeftRight size={18} aria-hidden="true" />
        </button>
      )}
      {also === undefined && !spelled && (
        <span className={`readout pointer-events-none absolute top-1/2 -translate-y-1/2 text-lg text-soft lg:right-4 ${text === "" ? "right-4" : "right-14"}`}>
          {unitLabel(unitOfReading(test))}
        </span>
      )}
      {text !== "" && (
        <button
          type="button"
          tabIndex={-1}
          aria-label={messages.bench.rubOut}
          onClick={() => onText(text.slice(0, -1))}
          className="absolute right-1 top-1/2 grid size-11 -translate-y-1/2 place-items-center rounded-lg text-soft lg:hidden"
        >
          <Delete size={22} aria-hidden="true" />
        </button>
      )}
    </div>
  );
}

/** Reads the connected instrument. @param short on a phone the sign alone */
function ReadButton({ meter, off, onRead, className, short = false }: { meter: Meter; off: boolean; onRead: () => void; className: string; short?: boolean }) {
  const words = messages.bench.readInstrument(messages.bench.instrument[meter]);
  return (
    <button
      type="button"
      disabled={off}
      onClick={onRead}
      aria-label={words}
      className={`flex h-12 items-center justify-center gap-2 rounded-xl border border-lamp font-bold text-ink disabled:opacity-60 ${className}`}
    >
      <Radio size={20} aria-hidden="true" />
      <span className={short ? "hidden lg:inline" : ""}>{words}</span>
    </button>
  );
}

/** Keys for fingers. */
function Keypad({ keys, onKey }: { keys: readonly string[]; onKey: (key: string) => void }) {
  return keys.map((key) => (
    <button
      key={key}
      type="button"
      tabIndex={-1}
      aria-hidden="true"
      onClick={() => onKey(key)}
      className="readout h-[max(2.75rem,min(3rem,5.3dvh))] rounded-xl border border-line bg-ground text-2xl text-ink"
    >
      {key.trim()}
    </button>
  ));
}
