import type { JobDetail, Stage } from "@fox-lamp/language";
import { Command as CommandIcon, Megaphone } from "lucide-react";
import { AccountMenu, Brand, ThemeButton } from "../../app/shell";
import { messages } from "../../messages";
import { StageRail } from "../../ui/StageRail";
import { vehicleName } from "../../ui/vehicle";

const t = messages.bench;
const BUTTON = "grid size-11 place-items-center rounded-lg text-soft hover:text-ink";

interface Props {
  readonly job: JobDetail;
  readonly stage: Stage;
  readonly minutes: number;
  readonly onPalette: () => void;
  readonly onCallout: () => void;
}

/** Brand, the order of work, vehicle and time, and what can be opened from anywhere. */
export function BenchHeader({ job, stage, minutes, onPalette, onCallout }: Props) {
  return (
    <header className="flex items-center gap-x-3 gap-y-1 border-b border-line px-4 py-1.5 lg:px-5">
      <Brand />
      <div className="hidden min-w-0 md:block">
        <StageRail job={job.id} stage={stage} here="bench" />
      </div>
      <span className="min-w-0 flex-1 truncate text-soft md:text-right" title={`${vehicleName(job.vehicle)} ${job.title}`}>
        <span className="font-bold text-ink">{vehicleName(job.vehicle)}</span> {job.title}
      </span>
      <span className="readout hidden whitespace-nowrap text-soft sm:block">{Number(minutes.toFixed(0))} min</span>
      <button type="button" className={BUTTON} onClick={onCallout} aria-label={t.keys.callout} title={t.keys.callout}>
        <Megaphone size={20} aria-hidden="true" />
      </button>
      <button type="button" className={BUTTON} onClick={onPalette} aria-label={t.keys.palette} title={t.keys.palette}>
        <CommandIcon size={20} aria-hidden="true" />
      </button>
      <ThemeButton />
      <AccountMenu />
    </header>
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
