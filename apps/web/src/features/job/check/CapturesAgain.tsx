import type { CaptureAgain } from "@fox-lamp/core";
import { Link } from "react-router";
import { messages } from "../../../messages";
import { findingInNames } from "../../../trace/channel-name";
import type { Work } from "../shared/JobFrame";

const t = messages.traces;
const LINK = "inline-flex min-h-11 items-center rounded-lg border border-edge px-3 text-ink no-underline";

/** Captures that showed the trouble before the repair: each is taken again, and the two are laid over one another. */
export function CapturesAgain({ work, due }: { work: Pick<Work, "job">; due: readonly CaptureAgain[] }) {
  const { circuits } = work.job;
  const page = `/jobs/${work.job.id}/traces`;
  return (
    <>
      <p className="m-0 text-soft">{t.againLead}</p>
      <ul className="m-0 list-none p-0">
        {due.map(({ before, after }) => (
          <li key={before.capture} className="mt-3 rounded-lg border border-line px-3 py-2">
            <p className="m-0 font-bold">{t.againTook(before.title)}</p>
            <p className="m-0 text-sm text-soft">{findingInNames(before.findings[0] ?? "", circuits)}</p>
            {after === null ? (
              <Link to={`${page}?again=${before.capture}`} className={`${LINK} mt-2 border-lamp`}>
                {t.againDo}
              </Link>
            ) : (
              <>
                <p className={`m-0 mt-1 ${after.findings.length === 0 ? "text-calm" : "text-ember"}`}>
                  {after.findings[0] === undefined
                    ? `\u2713 ${t.againSound(after.title)}`
                    : `\u2715 ${t.againStill(after.title, findingInNames(after.findings[0], circuits))}`}
                </p>
                <Link to={`${page}/${after.capture}?with=${work.job.id}/${before.capture}`} className={`${LINK} mt-2`}>
                  {t.againBeside}
                </Link>
              </>
            )}
          </li>
        ))}
      </ul>
    </>
  );
}
