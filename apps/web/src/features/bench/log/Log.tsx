import { type Analysis, type CircuitView, formatQuantity, type JobReading } from "@fox-lamp/core";
import { type Diagnosis, type Expect, type Reading, type ShopSettings, unitOfReading, type Value } from "@fox-lamp/language";
import { CircleHelp, Pencil, Trash2, Undo2 } from "lucide-react";
import { type ReactNode, useState } from "react";
import { CalculatorLink } from "../../../app/CalculatorLink";
import { TraceLink } from "../../../app/TraceLink";
import { isWithin, limitsText } from "../../../circuit/limits";
import { groundLimit, readingTitle, setupText, valueText, windowText, within } from "../../../circuit/wording";
import { messages } from "../../../messages";
import { minutesText } from "../../../ui/display";
import { Label } from "../../../ui/states";
import { ValueForm } from "../entry/ValueForm";

const t = messages.bench;

interface Props {
  readonly job: string;
  readonly readings: readonly JobReading[];
  readonly windows: Readonly<Record<string, Expect | null>>;
  readonly calculators: Analysis["calculators"];
  /** Where limits of the shelf disagree about a reading. */
  readonly split: (reading: Reading) => string | null;
  /** The way onto the shelf for a reading that is as it should be. */
  readonly keep: (reading: Reading) => ReactNode;
  readonly limitNotes: Analysis["limitNotes"];
  readonly doubtful: Diagnosis["doubtful"];
  readonly circuits: readonly CircuitView[];
  readonly onUndo: (() => void) | null;
  readonly onCorrect: (taken: JobReading, value: Value, unit?: string) => void;
  readonly onTakeBack: (entry: string) => void;
  readonly policy: ShopSettings["policy"] | undefined;
}

const ICON = "grid size-11 place-items-center rounded-lg text-soft hover:text-ink";

/** What has been measured, the latest first: value, healthy window, minutes, what is in doubt; any of it can be corrected or taken back. */
export function Log({ job, readings, windows, calculators, limitNotes, split, keep, doubtful, circuits, onUndo, onCorrect, onTakeBack, policy }: Props) {
  const [only, setOnly] = useState("");
  const [open, setOpen] = useState<string | null>(null);
  const shown = only === "" ? readings : readings.filter(({ reading }) => reading.circuit === only);
  return (
    <section aria-label={t.readings}>
      <div className="flex items-center gap-3">
        <Label>{t.readings}</Label>
        {circuits.length > 1 && (
          <label className="min-w-0 text-sm text-soft">
            <span className="sr-only">{t.onlyCircuit}</span>
            <select
              value={only}
              onChange={(event) => setOnly(event.target.value)}
              className="min-h-11 w-full rounded-md border border-line bg-panel px-2 text-ink"
            >
              <option value="">{t.allCircuits}</option>
              {circuits.map(({ id, title }) => (
                <option key={id} value={id}>
                  {title}
                </option>
              ))}
            </select>
          </label>
        )}
        <span className="flex-1" />
        {onUndo && (
          <button type="button" onClick={onUndo} className="flex min-h-11 items-center gap-2 rounded-lg px-2 text-sm text-soft hover:text-ink">
            <Undo2 size={16} aria-hidden="true" /> {t.undo}
          </button>
        )}
      </div>
      {shown.length === 0 && <p className="text-soft">{t.noReadings}</p>}
      <ol reversed className="mt-1 list-none p-0 lg:max-h-[32rem] lg:overflow-y-auto">
        {[...shown].reverse().map((taken) => {
          const { entry, reading, minutes, was } = taken;
          const window = windows[reading.id];
          const fits = within(reading.value, window);
          const limit = groundLimit(
            reading,
            circuits.find(({ id }) => id === (reading.circuit ?? circuits[0]?.id)),
            policy,
          );
          const overLimit = limit !== null && typeof reading.value === "number" && Math.abs(reading.value) > limit;
          const doubt = doubtful.find((candidate) => candidate.reading === reading.id);
          return (
            <li
              key={entry}
              className="grid grid-cols-[2rem_1fr_auto] items-start gap-x-3 border-b border-line py-2 sm:grid-cols-[2rem_minmax(9rem,1fr)_minmax(auto,19rem)_4rem_auto]"
            >
              <span className="readout text-sm text-soft">{reading.id}</span>
              <span>
                {readingTitle(reading, circuits)}
                <span className="block text-sm text-soft">{setupText(reading.setup ?? {}, circuits)}</span>
                <CalculatorLink job={job} opened={calculators[reading.id]} />
                <TraceLink job={job} reading={reading} />
                {fits === true && keep(reading)}
              </span>
              <span className={`readout text-right font-bold ${fits === false ? "text-ember" : ""}`}>
                {fits === false && <span aria-hidden="true">! </span>}
                {valueText(reading.value, unitOfReading(reading))}
                <span className="sr-only">{fits === null ? "" : fits ? ", as it should be" : ", outside the window"}</span>
                {was.length > 0 && (
                  <span className="block text-xs font-normal text-soft line-through">
                    {was.map((value) => valueText(value, unitOfReading(reading))).join(" ")}
                  </span>
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
                <button
                  type="button"
                  className={ICON}
                  aria-label={t.correctReading(reading.id)}
                  title={t.correctReading(reading.id)}
                  onClick={() => setOpen(open === entry ? null : entry)}
                >
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
              {split(reading) !== null && <p className="col-span-full m-0 mt-1.5 rounded-lg bg-caution px-3 py-2 text-sm">{split(reading)}</p>}
              {limitNotes[reading.id]?.map(({ code, sentence }) => (
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
              {open === entry && (
                <div className="col-span-full mt-2">
                  <ValueForm
                    reading={reading}
                    label={t.correctTo(reading.id)}
                    submit={t.correct}
                    onValue={(value, unit) => {
                      onCorrect(taken, value, unit);
                      setOpen(null);
                    }}
                    onClose={() => setOpen(null)}
                  />
                </div>
              )}
            </li>
          );
        })}
      </ol>
    </section>
  );
}
