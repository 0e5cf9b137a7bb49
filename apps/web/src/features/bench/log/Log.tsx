import type { Analysis, CircuitView, JobReading } from "@fox-lamp/core";
import type { Diagnosis, Expect, Reading, ShopSettings, Value } from "@fox-lamp/language";
import { Undo2 } from "lucide-react";
import { type ReactNode, useState } from "react";
import type { Stretch } from "../../../app/TraceLink";
import { messages } from "../../../messages";
import { Label } from "../../../ui/states";
import { LogRow } from "./LogRow";

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
  /** Shows the stretch of trace a reading was taken from. */
  readonly onTrace: (stretch: Stretch) => void;
  readonly onCorrect: (taken: JobReading, value: Value, unit?: string) => void;
  readonly onTakeBack: (entry: string) => void;
  readonly policy: ShopSettings["policy"] | undefined;
}

/** What has been measured, the latest first: value, healthy window, minutes, what is in doubt; any of it can be corrected or taken back. */
export function Log({
  job,
  readings,
  windows,
  calculators,
  limitNotes,
  split,
  keep,
  doubtful,
  circuits,
  onUndo,
  onTrace,
  onCorrect,
  onTakeBack,
  policy,
}: Props) {
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
              className="min-h-11 w-full rounded-md border border-edge bg-panel px-2 text-ink"
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
          const { entry, reading } = taken;
          return (
            <LogRow
              key={entry}
              job={job}
              taken={taken}
              window={windows[reading.id]}
              calculator={calculators[reading.id]}
              split={split(reading)}
              keep={keep(reading)}
              notes={limitNotes[reading.id] ?? []}
              doubt={doubtful.find((candidate) => candidate.reading === reading.id)}
              circuits={circuits}
              policy={policy}
              open={open === entry}
              onOpen={(now) => setOpen(now ? entry : null)}
              onTrace={onTrace}
              onCorrect={onCorrect}
              onTakeBack={onTakeBack}
            />
          );
        })}
      </ol>
    </section>
  );
}
