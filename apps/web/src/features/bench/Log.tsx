import type { JobReading } from "@fox-lamp/core/job";
import type { Diagnosis, Expect } from "@fox-lamp/language";
import { CircleHelp, Undo2 } from "lucide-react";
import { messages } from "../../messages";
import { Label } from "../../ui/states";
import { readingTitle, setupText, unitOf, valueText, windowText, within } from "./wording";

const t = messages.bench;

interface Props {
  readonly readings: readonly JobReading[];
  readonly windows: Readonly<Record<string, Expect | null>>;
  readonly doubtful: Diagnosis["doubtful"];
  readonly onUndo: (() => void) | null;
}

/** What has been measured, the latest first: value, healthy window, minutes, and what is in doubt. */
export function Log({ readings, windows, doubtful, onUndo }: Props) {
  return (
    <section aria-label={t.readings}>
      <div className="flex items-center justify-between">
        <Label>{t.readings}</Label>
        {onUndo && (
          <button type="button" onClick={onUndo} className="flex h-9 items-center gap-2 rounded-lg px-2 text-sm text-soft hover:text-ink">
            <Undo2 size={16} aria-hidden="true" /> {t.undo}
          </button>
        )}
      </div>
      {readings.length === 0 && <p className="text-soft">{t.noReadings}</p>}
      <ol reversed className="mt-1 list-none p-0">
        {[...readings].reverse().map(({ entry, reading, minutes }) => {
          const window = windows[reading.id];
          const fits = within(reading.value, window);
          const doubt = doubtful.find((candidate) => candidate.reading === reading.id);
          return (
            <li key={entry} className="grid grid-cols-[2rem_1fr_auto] gap-x-3 border-b border-line py-2.5 sm:grid-cols-[2rem_1fr_6rem_9.5rem_4.2rem]">
              <span className="readout text-sm text-soft">{reading.id}</span>
              <span>
                {readingTitle(reading)}
                <span className="block text-sm text-soft">{setupText(reading.setup ?? {})}</span>
              </span>
              <span className={`readout text-right font-bold ${fits === false ? "text-ember" : ""}`}>
                {valueText(reading, unitOf(reading))}
                <span className="sr-only">{fits === null ? "" : fits ? ", as wanted" : ", outside the window"}</span>
              </span>
              <span className="col-start-2 text-sm text-soft sm:col-start-auto">
                {window ? `${t.wanted} ${windowText(window, reading.record !== undefined)}` : ""}
              </span>
              <span className="readout whitespace-nowrap text-right text-sm text-soft">{minutes > 0 ? `${Number(minutes.toFixed(1))} min` : ""}</span>
              {doubt && (
                <p className="col-span-full mt-1.5 flex gap-2 rounded-lg bg-caution px-3 py-2 text-sm">
                  <CircleHelp size={17} className="mt-0.5 shrink-0 text-lamp" aria-hidden="true" />
                  <span>
                    {t.doubtful}: {doubt.why}
                  </span>
                </p>
              )}
            </li>
          );
        })}
      </ol>
    </section>
  );
}
