import type { JobState } from "@fox-lamp/core";
import { Link } from "react-router";
import { messages } from "../../messages";
import { Block } from "../../ui/form";

const t = messages.traces;

interface Props {
  readonly captures: JobState["captures"];
  readonly shown: string | undefined;
  /** Where a capture has an address of its own; null where it is only shown. */
  readonly addressOf: ((capture: string) => string) | null;
  readonly onShow: (capture: string) => void;
}

/** The captures of a job, each a way to itself. */
export function StoredList({ captures, shown, addressOf, onShow }: Props) {
  if (captures.length === 0) return null;
  return (
    <Block title={t.stored}>
      <ul className="m-0 flex list-none flex-wrap gap-2 p-0">
        {captures.map(({ capture, title, seconds, findings, known }) => {
          const look = `grid min-h-11 content-center rounded-xl border px-3 py-1 text-left no-underline ${capture === shown ? "border-lamp" : "border-edge"}`;
          const what = (
            <>
              <span className="text-ink">{known ? t.knownGood(title) : title}</span>
              <span className="text-sm text-soft">{t.stands(seconds, findings.length)}</span>
            </>
          );
          return (
            <li key={capture}>
              {addressOf === null ? (
                <button type="button" aria-pressed={capture === shown} onClick={() => onShow(capture)} className={look}>
                  {what}
                </button>
              ) : (
                <Link to={addressOf(capture)} aria-current={capture === shown ? "page" : undefined} className={look}>
                  {what}
                </Link>
              )}
            </li>
          );
        })}
      </ul>
    </Block>
  );
}
