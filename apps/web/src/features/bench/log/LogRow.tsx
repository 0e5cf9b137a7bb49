import { type Analysis, type CircuitView, formatQuantity, type JobReading } from "@fox-lamp/core";
import { type Diagnosis, type Expect, type ShopSettings, unitOfReading, type Value } from "@fox-lamp/language";
import { CircleHelp, Pencil, Trash2 } from "lucide-react";
import type { ReactNode } from "react";
import { CalculatorLink } from "../../../app/CalculatorLink";
import { type Stretch, TraceLink } from "../../../app/TraceLink";
import { isWithin, limitsText } from "../../../circuit/limits";
import { groundLimit, readingTitle, setupText, valueText, windowText, within } from "../../../circuit/wording";
import { messages } from "../../../messages";
import { minutesText } from "../../../ui/display";
import { ValueForm } from "../entry/ValueForm";

const t = messages.bench;

interface Props {
  readonly job: string;
  readonly taken: JobReading;
  readonly window: Expect | null | undefined;
  readonly calculator: Analysis["calculators"][string] | undefined;
  /** Where limits of the shelf disagree about it. */
  readonly split: string | null;
  /** The way onto the shelf, where it is as it should be. */
  readonly keep: ReactNode;
  readonly notes: Analysis["limitNotes"][string];
  readonly doubt: Diagnosis["doubtful"][number] | undefined;
  readonly circuits: readonly CircuitView[];
  readonly policy: ShopSettings["policy"] | undefined;
  /** Whether it is being corrected. */
  readonly open: boolean;
  readonly onOpen: (open: boolean) => void;
  /** Shows the stretch of trace it was taken from. */
  readonly onTrace: (stretch: Stretch) => void;
  readonly onCorrect: (taken: JobReading, value: Value, unit?: string) => void;
  readonly onTakeBack: (entry: string) => void;
}

const ICON = "grid size-11 place-items-center rounded-lg text-soft hover:text-ink";

/** One reading of the log: value, healthy window, minutes, what is in doubt; it can be corrected or taken back. */
export function LogRow({ job, taken, window, calculator, split, keep, notes, doubt, circuits, policy, open, onOpen, onTrace, onCorrect, onTakeBack }: Props) {
  const { entry, reading, minutes, was } = taken;
  const fits = within(reading.value, window);
  const limit = groundLimit(
    reading,
    circuits.find(({ id }) => id === (reading.circuit ?? circuits[0]?.id)),
    policy,
  );
  const overLimit = limit !== null && typeof reading.value === "number" && Math.abs(reading.value) > limit;
  return (
    <li className="grid grid-cols-[2rem_1fr_auto] items-start gap-x-3 border-b border-line py-2 sm:grid-cols-[2rem_minmax(9rem,1fr)_fit-content(19rem)_4rem_auto]">
      <span className="readout text-sm text-soft">{reading.id}</span>
      <span>
        {readingTitle(reading, circuits)}
        <span className="block text-sm text-soft">{setupText(reading.setup ?? {}, circuits)}</span>
        <CalculatorLink job={job} opened={calculator} />
        <TraceLink job={job} reading={reading} onShow={onTrace} />
        {fits === true && keep}
      </span>
      <span className={`readout text-right font-bold ${fits === false ? "text-ember" : ""}`}>
        {fits === false && <span aria-hidden="true">! </span>}
        {valueText(reading.value, unitOfReading(reading))}
        <span className="sr-only">{fits === null ? "" : fits ? ", as it should be" : ", outside the window"}</span>
        {was.length > 0 && (
          <span className="block text-xs font-normal text-soft line-through">{was.map((value) => valueText(value, unitOfReading(reading))).join(" ")}</span>
        )}
        {window && (
          <span className="block max-w-36 text-sm font-normal text-soft sm:max-w-none">
            <span className="font-sans">{t.wanted}</span> {windowText(window, reading.record !== undefined)}
          </span>
        )}
        {reading.limits && (
          <span className={`block text-sm font-normal ${isWithin(reading.value, reading.limits) === false ? "text-ember" : "text-soft"}`}>
            {t.book(limitsText(reading.limits, unitOfReading(reading)))}
          </span>
        )}
        {overLimit && <span className="block text-sm font-normal text-ember">{t.overLimit(formatQuantity(limit, "V"))}</span>}
      </span>
      <span className="readout hidden whitespace-nowrap text-right text-sm text-soft sm:block">{minutes > 0 ? minutesText(minutes) : ""}</span>
      <span className="col-span-2 col-start-2 flex justify-end sm:col-span-1 sm:col-start-auto">
        <button type="button" className={ICON} aria-label={t.correctReading(reading.id)} title={t.correctReading(reading.id)} onClick={() => onOpen(!open)}>
          <Pencil size={16} aria-hidden="true" />
        </button>
        <button
          type="button"
          className={ICON}
          aria-label={t.takeBackReading(reading.id)}
          title={t.takeBackReading(reading.id)}
          onClick={() => onTakeBack(entry)}
        >
          <Trash2 size={16} aria-hidden="true" />
        </button>
      </span>
      {split !== null && <p className="col-span-full m-0 mt-1.5 rounded-lg bg-caution px-3 py-2 text-sm">{split}</p>}
      {notes.map(({ code, sentence }) => (
        <p key={code} className={`col-span-full m-0 mt-1.5 text-sm ${code === "counts" ? "text-soft" : "rounded-lg bg-caution px-3 py-2"}`}>
          {sentence}
        </p>
      ))}
      {doubt && (
        <p className="col-span-full mt-1.5 flex gap-2 rounded-lg bg-caution px-3 py-2 text-sm">
          <CircleHelp size={17} className="mt-0.5 shrink-0 text-lamp" aria-hidden="true" />
          <span>
            {t.doubtful}: {doubt.why}
          </span>
        </p>
      )}
      {open && (
        <div className="col-span-full mt-2">
          <ValueForm
            reading={reading}
            label={t.correctTo(reading.id)}
            submit={t.correct}
            onValue={(value, unit) => {
              onCorrect(taken, value, unit);
              onOpen(false);
            }}
            onClose={() => onOpen(false)}
          />
        </div>
      )}
    </li>
  );
}
