import type { JobDetail, Stage } from "@fox-lamp/language";
import { Activity, LayoutGrid, Megaphone } from "lucide-react";
import { JobHead } from "../../../app/JobHead";
import { messages } from "../../../messages";

const t = messages.bench;
const BUTTON = "size-11 place-items-center rounded-lg text-soft hover:text-ink";

interface Props {
  readonly job: JobDetail;
  readonly stage: Stage;
  readonly minutes: number;
  readonly onPalette: () => void;
  readonly onCallout: () => void;
  readonly onTraces: () => void;
}

/** The job's head, with the time spent and what can be opened from anywhere on the bench. */
export function BenchHeader({ job, stage, minutes, onPalette, onCallout, onTraces }: Props) {
  return (
    <JobHead job={job} stage={stage} here="bench">
      <span className="readout hidden whitespace-nowrap px-2 text-soft sm:block">{t.spent(Math.round(minutes))}</span>
      <button type="button" className={`${BUTTON} hidden sm:grid`} onClick={onTraces} aria-label={messages.pages.traces} title={messages.pages.traces}>
        <Activity size={20} aria-hidden="true" />
      </button>
      <button type="button" className={`${BUTTON} hidden sm:grid`} onClick={onCallout} aria-label={t.keys.callout} title={t.keys.callout}>
        <Megaphone size={20} aria-hidden="true" />
      </button>
      <button type="button" className={`${BUTTON} grid`} onClick={onPalette} aria-label={t.keys.palette} title={t.keys.palette}>
        <LayoutGrid size={20} aria-hidden="true" />
      </button>
    </JobHead>
  );
}

/** One-letter verbs, where there is a keyboard. */
export function KeyLine({ verbs }: { verbs: readonly { readonly key: string | null; readonly name: string }[] }) {
  return (
    <p className="mb-0 mt-4 hidden flex-wrap gap-x-4 gap-y-1.5 text-sm text-soft lg:flex">
      {verbs
        .filter(({ key }) => key !== null)
        .map(({ key, name }) => (
          <span key={name} className="flex items-center gap-1.5">
            <kbd className="readout rounded border border-line px-1.5">{key}</kbd> {name}
          </span>
        ))}
    </p>
  );
}
