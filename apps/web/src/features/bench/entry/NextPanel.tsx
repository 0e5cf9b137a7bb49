import { type CircuitView, formatPercent, formatQuantity } from "@fox-lamp/core";
import { type Expect, isWordMeter, meterWords, type NextTest, parseShorthand, parseSpan, unitOfReading, type Value } from "@fox-lamp/language";
import { TriangleAlert } from "lucide-react";
import { lazy, type ReactNode, type RefObject, Suspense, useState } from "react";
import type { OnShelf } from "../../../app/use-shelf-limits";
import { alongTitles, leadText, rangeText, scopeText, setupText, testTitle, titleOf } from "../../../circuit/wording";
import { messages } from "../../../messages";
import { minutesText } from "../../../ui/display";
import type { Book } from "../desk";
import { ConnectorFaces } from "../drawing/ConnectorFace";
import { BookLimits } from "./BookLimits";
import { Entry } from "./Entry";
import { Gauge } from "./Gauge";

const t = messages.bench;

interface Props {
  readonly circuit: CircuitView | undefined;
  readonly circuits: readonly CircuitView[];
  readonly tests: readonly NextTest[];
  readonly test: NextTest;
  readonly engineering: Expect | undefined;
  readonly text: string;
  readonly onText: (text: string) => void;
  readonly onTake: (value: Value, unit?: string) => void;
  readonly onChoose: (test: string) => void;
  readonly onSkip: (reason: string) => void;
  readonly busy: boolean;
  readonly inputRef: RefObject<HTMLInputElement | null>;
  readonly othersOpen: boolean;
  readonly onOthers: (open: boolean) => void;
  readonly skipOpen: boolean;
  readonly onSkipping: (open: boolean) => void;
  readonly onOwn: () => void;
  /** Another cavity of the connector was touched. */
  readonly onCavity: (point: string) => void;
  /** Leaves a test of one's own; null where none is at hand. */
  readonly onLeaveOwn: (() => void) | null;
  readonly onRead: (() => void) | null;
  readonly reading: boolean;
  readonly same: string | null;
  readonly book: Book;
  readonly shelf: OnShelf | null;
  readonly onBook: (book: Book) => void;
  /** The circuit's drawing, between the test and its entry, where it has no column of its own. */
  readonly drawing: ReactNode;
  /** The shop's limit for a ground drop, volts; null where the test is none. */
  readonly limit: number | null;
}

function Lead({ colour, label, main, detail, how }: { colour: "red" | "black"; label: string; main: string; detail: string; how: string }) {
  return (
    <li className="flex gap-2 lg:gap-3">
      <span
        aria-hidden="true"
        className="mt-0.5 size-4 shrink-0 rounded-full lg:mt-1"
        style={colour === "red" ? { background: "var(--lead-red)" } : { border: "4px solid var(--lead-black)" }}
      />
      <span>
        <span className="sr-only">{label}: </span>
        <span className="font-bold">{main}</span>
        {detail && <span className="text-soft"> {detail}</span>}
        {how && <span className="text-soft max-lg:sr-only">, {how}</span>}
      </span>
    </li>
  );
}

const testMenus = () => import("./TestMenus");
const TestMenus = lazy(async () => ({ default: (await testMenus()).TestMenus }));

/** The menus' buttons while nobody went for them: what opens is loaded then. */
function ClosedMenus({ onOthers, onSkipping }: Pick<Props, "onOthers" | "onSkipping">) {
  const ahead = { onPointerEnter: () => void testMenus(), onFocus: () => void testMenus() };
  return (
    <div className="flex gap-2">
      {[
        { name: t.others, open: onOthers },
        { name: t.cannot, open: onSkipping },
      ].map(({ name, open }) => (
        <button
          key={name}
          type="button"
          aria-haspopup="dialog"
          aria-expanded={false}
          className="h-11 flex-1 rounded-lg border border-edge text-ink"
          onClick={() => open(true)}
          {...ahead}
        >
          {name}
        </button>
      ))}
    </div>
  );
}

/** The one thing to do next: where the leads go, what to expect, the entry, what each outcome would mean. */
export function NextPanel(props: Props) {
  const { circuit, circuits, tests, test, engineering, text, onText, onTake, onChoose, onSkip, busy, inputRef, othersOpen, onOthers, skipOpen, onSkipping } =
    props;
  // Once opened the menus stay, so that the focus finds its way back to their button.
  const [opened, setOpened] = useState(false);
  if (!opened && (othersOpen || skipOpen)) setOpened(true);
  const closed = <ClosedMenus onOthers={onOthers} onSkipping={onSkipping} />;
  const typed = parseShorthand(text);
  const span = test.record === undefined ? null : parseSpan(text);
  const value = span?.ok ? span.value.max - span.value.min : typed.ok && typeof typed.value === "number" ? typed.value : null;
  // A number typed with the sensor's own unit moves the gauge to that unit.
  const gauge = typed.ok && engineering && typed.unit === engineering.unit ? { expect: engineering } : { expect: test.expect, also: engineering };
  const minutes = minutesText(test.minutes);
  const range = rangeText(test);
  const red = leadText(circuit, test.red, test.setup, circuits);
  const black = test.black === null ? null : leadText(circuit, test.black, test.setup, circuits);
  const title = testTitle(test, circuits);
  return (
    <section aria-label={t.next(minutes, test.cause)} className="flex flex-col gap-1.5 lg:gap-3.5">
      <div>
        <p className="m-0 text-sm leading-tight text-soft max-lg:sr-only">{test === tests[0] ? t.next(minutes, test.cause) : t.chosen(minutes)}</p>
        <h2 className="mt-0.5 text-lg font-bold leading-tight lg:text-xl">{title}</h2>
      </div>
      {meterWords(test.meter).leads && (
        <ul className="m-0 flex list-none flex-wrap gap-x-4 gap-y-0.5 p-0 text-sm lg:grid lg:gap-y-1 lg:text-base">
          <Lead colour="red" label={t.red} {...red} />
          {black && <Lead colour="black" label={t.black} {...black} />}
        </ul>
      )}
      {circuit && (
        <div className="flex flex-wrap gap-3 empty:hidden max-lg:order-2">
          <ConnectorFaces circuit={circuit} test={test} onTouch={props.onCavity} />
        </div>
      )}
      <p className="m-0 text-sm leading-tight text-soft lg:leading-normal">
        {t.meter[test.meter]}
        {range === null ? "" : `, ${range}`}, {setupText(test.setup, circuits)}
        {test.needs.includes("helper") && <span className="font-bold text-ink"> {t.helper}</span>}
        {test.scope && <span className="block">{scopeText(test.scope)}</span>}
        {test.along && <span className="block text-ink">{t.along(alongTitles(test.along, circuits))}</span>}
      </p>
      {test.cautions.map((caution) => (
        <p key={caution} className="m-0 flex gap-3 rounded-xl bg-caution px-3 py-2 text-sm">
          <TriangleAlert size={18} className="mt-0.5 shrink-0 text-lamp" aria-hidden="true" />
          {caution}
        </p>
      ))}
      {props.limit !== null && <p className="readout m-0 text-sm text-soft">{t.shopLimit(formatQuantity(props.limit, "V"))}</p>}
      {!isWordMeter(test.meter) && test.outcomes.length > 0 && <Gauge {...gauge} value={value} record={test.record !== undefined} />}
      {!isWordMeter(test.meter) && (
        <div className="grid max-lg:order-2">
          <BookLimits key={test.test} unit={unitOfReading(test)} book={props.book} shelf={props.shelf} onBook={props.onBook} />
        </div>
      )}
      {test.outcomes.length === 0 && <p className="m-0 text-sm text-soft">{test.cause === "kind" ? test.why : messages.ownTest.unforeseen}</p>}
      {props.drawing}
      <div className="max-lg:sticky max-lg:bottom-0 max-lg:z-10 max-lg:-mx-4 max-lg:order-1 max-lg:border-t max-lg:border-line max-lg:bg-panel max-lg:px-4 max-lg:py-2">
        <Entry
          test={test}
          also={engineering?.unit}
          text={text}
          onText={onText}
          onTake={onTake}
          busy={busy}
          inputRef={inputRef}
          onRead={props.onRead}
          reading={props.reading}
          same={props.same}
        />
      </div>
      {test.outcomes.length > 0 && (
        <div className="max-lg:order-2">
          <h3 className="sr-only">{t.outcomes}</h3>
          <dl className="m-0 grid grid-cols-[auto_1fr] gap-x-4 gap-y-1.5 text-sm">
            {test.outcomes.map((outcome) => (
              <div key={outcome.label} className="contents">
                <dt className={`readout ${outcome.key === "expected" ? "text-lamp" : "text-ink"}`}>{t.findings[outcome.label] ?? outcome.label}</dt>
                <dd className="m-0 text-soft">
                  {outcome.units
                    .slice(0, 2)
                    .map(({ unit, title: name, probability }) => `${unit === "" ? name : titleOf(unit, circuits)} ${formatPercent(probability)}`)
                    .join("; ") || "rare"}
                </dd>
              </div>
            ))}
          </dl>
        </div>
      )}
      <p className="m-0 text-sm text-soft max-lg:order-2">{test.proves}</p>
      {props.onLeaveOwn !== null && (
        <button type="button" onClick={props.onLeaveOwn} className="min-h-11 rounded-lg border border-edge px-4 text-ink max-lg:order-2">
          {messages.ownTest.leave}
        </button>
      )}
      <div className="max-lg:order-2">
        {opened ? (
          <Suspense fallback={closed}>
            <TestMenus
              tests={tests}
              circuits={circuits}
              onChoose={onChoose}
              onSkip={onSkip}
              othersOpen={othersOpen}
              onOthers={onOthers}
              skipOpen={skipOpen}
              onSkipping={onSkipping}
              onOwn={props.onOwn}
            />
          </Suspense>
        ) : (
          closed
        )}
      </div>
    </section>
  );
}
