import { messages } from "../../../messages";
import type { Bench } from "../use-bench";

const t = messages.bench;

/** Why there is no diagnosis, and what is being computed once it takes longer than a moment; it can be stopped. */
export function Notices({ bench: { failure, progress, cancelled, cancel, again } }: { bench: Bench }) {
  return (
    <>
      {failure !== null && (
        <p role="alert" className="border-b border-line bg-caution px-5 py-3">
          {t.failed}: {failure}
        </p>
      )}
      {(progress || cancelled) && (
        <p role="status" className="flex flex-wrap items-center gap-x-4 gap-y-1 border-b border-line bg-panel px-5 py-2 text-sm">
          {progress && (
            <>
              <progress value={progress.done} max={progress.total} className="h-2 w-32 accent-[var(--lamp)]" />
              <span className="min-w-0 flex-1 truncate">{t.computingWhat(progress.what)}</span>
            </>
          )}
          {cancelled && <span className="flex-1">{t.cancelled}</span>}
          <button type="button" onClick={cancelled ? again : cancel} className="min-h-11 rounded-lg border border-edge px-3 font-bold text-ink">
            {cancelled ? t.computeAgain : t.cancel}
          </button>
        </p>
      )}
    </>
  );
}
