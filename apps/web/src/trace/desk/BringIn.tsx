import { Upload } from "lucide-react";
import type { ReactNode } from "react";
import { Link } from "react-router";
import { messages } from "../../messages";
import { FilePick } from "../../ui/FilePick";
import { Button } from "../../ui/form";
import { TimeForm } from "./TimeForm";
import type { useFresh } from "./use-fresh";

const t = messages.traces;

interface Props {
  readonly job: string;
  readonly bringing: ReturnType<typeof useFresh>;
  /** Parts that wait on this device. */
  readonly left: number;
  /** What stands beside the choice of a file. */
  readonly children?: ReactNode;
}

/** Bringing a capture in: the choice of a file, how far its reading is, and what has to be said of it first. */
export function BringIn({ job, bringing, left, children }: Props) {
  const { fresh, reading, doubted, timeless, problem, open, stop } = bringing;
  return (
    <>
      <div className="flex flex-wrap items-end justify-between gap-3">
        {children}
        <div className="flex items-center gap-3">
          {reading !== null && (
            <>
              <progress max={1} value={reading.share} aria-label={t.reading(reading.name, Math.round(100 * reading.share))} className="w-32" />
              <Button onClick={stop}>{t.stop}</Button>
            </>
          )}
          <FilePick label={t.open} accept=".csv,.txt,.wav,text/csv,text/plain,audio/wav" disabled={reading !== null} onFile={(file) => void open(file)}>
            <Upload size={18} aria-hidden="true" /> {t.open}
          </FilePick>
        </div>
      </div>
      {problem !== null && (
        <p role="alert" className="m-0 rounded-lg bg-caution px-3 py-2">
          {problem}
        </p>
      )}
      {doubted !== null && (
        <div role="alert" className="flex flex-wrap items-center gap-3 rounded-lg bg-caution px-3 py-2">
          <span className="flex-1">{t.log(doubted.name)}</span>
          <Link to={`/jobs/${job}/codes`}>{t.logYes}</Link>
          <Button onClick={() => void open(doubted, true)}>{t.logNo}</Button>
        </div>
      )}
      {timeless !== null && <TimeForm key={timeless.file.name} timeless={timeless} onSaid={(said) => void open(timeless.file, true, said)} />}
      {fresh?.read.notes.map((note) => (
        <p key={note} className="m-0 rounded-lg border border-line px-3 py-2 text-sm text-soft">
          {note}
        </p>
      ))}
      {left > 0 && <p className="m-0 text-sm text-soft">{t.waiting(left)}</p>}
    </>
  );
}
