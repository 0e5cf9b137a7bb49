import { codesAfter } from "@fox-lamp/core";
import type { Code } from "@fox-lamp/language";
import { format } from "date-fns";
import { useState } from "react";
import { reasonOf, useScanMutation } from "../../../app/api";
import { messages } from "../../../messages";
import { Button } from "../../../ui/form";
import { useKept } from "../../../ui/kept";
import { CodeList } from "../shared/CodeList";
import { codesIn } from "../shared/codes-text";
import type { Work } from "../shared/JobFrame";

const t = messages.check;

function Problem({ children }: { children: string | null }) {
  if (children === null) return null;
  return (
    <p role="alert" className="mb-0 mt-2 rounded-lg bg-caution px-3 py-2">
      {children}
    </p>
  );
}

/** The codes are cleared, once they are saved. */
export function ClearCodes({ work: { job, state, enter } }: { work: Work }) {
  const [scan, { isLoading }] = useScanMutation();
  const [problem, setProblem] = useState<string | null>(null);
  const clear = async (): Promise<void> => {
    if (job.simulated) {
      const answer = await scan({ job: job.id, do: "clear" });
      if ("error" in answer) {
        setProblem(reasonOf(answer.error) ?? messages.states.failed);
        return;
      }
    }
    setProblem(null);
    enter({ kind: "cleared", body: { codes: state.codes.map(({ code }) => code) } });
  };
  if (state.codes.length === 0) return <p className="m-0 text-soft">{t.noCodes}</p>;
  return (
    <>
      <CodeList codes={state.codes.map(({ freezeFrame: _frame, ...code }) => code)} />
      <div className="mt-3 flex flex-wrap items-center gap-3">
        <Button disabled={isLoading} onClick={() => void clear()}>
          {state.cleared === null ? t.clear : t.clearAgain}
        </Button>
        {state.cleared !== null && <span className="text-sm text-soft">{t.cleared(format(new Date(state.cleared.at), "d MMM HH:mm"))}</span>}
      </div>
      <Problem>{problem}</Problem>
    </>
  );
}

/** Codes before and after, side by side, and what became of them. */
function SideBySide({ work: { state } }: { work: Work }) {
  const { asked, gone, stayed, foreseen, fresh } = codesAfter(state);
  const after = state.rescan?.codes ?? [];
  return (
    <>
      <div className="grid gap-3 sm:grid-cols-2">
        <div>
          <p className="mb-1 mt-0 text-sm text-soft">{t.before}</p>
          <CodeList codes={state.codes.map(({ freezeFrame: _frame, ...code }) => code)} />
        </div>
        <div>
          <p className="mb-1 mt-0 text-sm text-soft">{t.after}</p>
          {!asked ? "–" : after.length === 0 ? <p className="m-0 font-bold text-calm">✓ {t.stayedAway}</p> : <CodeList codes={after} />}
        </div>
      </div>
      {asked && after.length > 0 && (
        <ul className="mb-0 mt-2 list-none space-y-1 p-0 text-sm">
          {gone.length > 0 && <li className="text-calm">✓ {t.codesGone(gone.join(", "))}</li>}
          {stayed.length > 0 && <li className="text-ember">✕ {t.codesStayed(stayed.join(", "), foreseen.length === stayed.length)}</li>}
          {fresh.length > 0 && <li className="text-ember">✕ {t.codesFresh(fresh.join(", "))}</li>}
        </ul>
      )}
    </>
  );
}

/** The module is asked again after the drive. */
export function ReadAgain({ work }: { work: Work }) {
  const { job, state, enter } = work;
  const [scan, { isLoading }] = useScanMutation();
  const [typed, setTyped] = useKept(`rescan ${job.id}`, "");
  const [problem, setProblem] = useState<string | null>(null);
  const keep = (codes: Code[]): void => {
    enter({ kind: "rescan", body: { codes } });
    setTyped("");
    setProblem(null);
  };
  const rescan = async (): Promise<void> => {
    const answer = await scan({ job: job.id, do: "codes" });
    if ("error" in answer) setProblem(reasonOf(answer.error) ?? messages.states.failed);
    else keep(answer.data.codes ?? []);
  };
  const type = (): void => {
    const { codes, problem: wrong } = codesIn(typed);
    if (wrong === null) keep(codes);
    else setProblem(wrong);
  };
  return (
    <>
      <SideBySide work={work} />
      <div className="mt-3 flex flex-wrap items-center gap-2">
        {state.cleared === null && <p className="m-0 w-full text-sm text-soft">{t.clearBefore}</p>}
        {job.simulated ? (
          <Button disabled={isLoading} onClick={() => void rescan()}>
            {t.rescan}
          </Button>
        ) : (
          <>
            <input
              aria-label={messages.codes.paste}
              placeholder={messages.codes.paste}
              value={typed}
              onChange={(event) => setTyped(event.target.value)}
              className="readout min-h-11 min-w-0 flex-1 rounded-lg border border-edge bg-well px-3 text-ink placeholder:text-soft"
            />
            <Button onClick={typed.trim() === "" ? () => keep([]) : type}>{typed.trim() === "" ? messages.codes.none : t.save}</Button>
          </>
        )}
      </div>
      <Problem>{problem}</Problem>
    </>
  );
}
