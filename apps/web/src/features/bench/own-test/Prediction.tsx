import { type CircuitView, formatPercent } from "@fox-lamp/core";
import type { NextTest } from "@fox-lamp/language";
import { TriangleAlert } from "lucide-react";
import type { OwnAnswer } from "../../../circuit/use-analysis";
import { titleOf, windowText } from "../../../circuit/wording";
import { messages } from "../../../messages";
import { gainText, minutesText } from "../../../ui/display";
import type { DraftProblem } from "./draft";

const t = messages.bench;
const own = messages.ownTest;

interface Props {
  /** What keeps the draft from being a test; null where it is one. */
  readonly problem: DraftProblem | null;
  /** null while it is computed. */
  readonly answer: OwnAnswer | null;
  readonly circuits: readonly CircuitView[];
}

/** What a test would read and tell, before anybody measures. */
export function Prediction({ problem, answer, circuits }: Props) {
  return (
    <div className="min-h-28 rounded-xl border border-line p-4" aria-live="polite">
      {problem !== null && <p className="text-ember">{problem.message}</p>}
      {problem === null && answer === null && <p className="text-soft">{t.computing}</p>}
      {problem === null && answer !== null && !answer.ok && <p className="text-ember">{answer.problem.message}</p>}
      {problem === null && answer?.ok && <Foreseen test={answer.test} circuits={circuits} />}
    </div>
  );
}

/** Below this nobody has to go anywhere, minutes. */
const AT_HAND = 0.05;

/** What of a test's time is the way to its leads: after a first test at a connector the next one there costs seconds. */
function wayText({ wayMinutes }: NextTest): string {
  if (wayMinutes === undefined) return "";
  return wayMinutes < AT_HAND ? own.there : own.way(minutesText(wayMinutes));
}

function Foreseen({ test, circuits }: { test: NextTest; circuits: readonly CircuitView[] }) {
  const window = windowText(test.expect, test.record !== undefined);
  return (
    <>
      <p className="font-bold">{test.title}</p>
      {window !== "" && <p className="readout mt-1 text-lg text-lamp">{window}</p>}
      {test.outcomes.length === 0 && <p className="mt-1 text-soft">{own.unforeseen}</p>}
      <dl className="mt-2 grid grid-cols-[auto_1fr] gap-x-4 gap-y-1 text-sm">
        {test.outcomes.map((outcome) => (
          <div key={outcome.label} className="contents">
            <dt className="readout">
              {t.findings[outcome.label] ?? outcome.label} <span className="text-soft">{formatPercent(outcome.probability)}</span>
            </dt>
            <dd className="text-soft">
              {outcome.units
                .slice(0, 2)
                .map(({ unit, probability }) => `${unit === "" ? t.nothingWrong : titleOf(unit, circuits)} ${formatPercent(probability)}`)
                .join(", ") || t.nothingWrong}
            </dd>
          </div>
        ))}
      </dl>
      <p className="mt-2 text-sm text-soft">{[own.price(minutesText(test.minutes), gainText(test.gainBits)), wayText(test)].filter(Boolean).join("; ")}</p>
      {test.cautions.map((caution) => (
        <p key={caution} className="mt-2 flex gap-2 text-sm">
          <TriangleAlert size={16} className="mt-0.5 shrink-0 text-lamp" aria-hidden="true" />
          {caution}
        </p>
      ))}
    </>
  );
}
