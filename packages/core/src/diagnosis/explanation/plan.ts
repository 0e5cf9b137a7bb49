import type { Plan } from "@fox-lamp/language";
import { scaleOf, wordsOf } from "../../instruments";
import { formatWindow } from "../../units";
import { openCase } from "../decision/open-case";
import { keyOf, type PlanBranch, type PlanStep, planOf } from "../decision/plan";
import type { RankedPart } from "../decision/standing";
import { statusOf } from "../decision/what-now";
import type { DiagnosedJob } from "../inference/diagnosed-job";
import type { Session } from "../inference/session";
import { titleIn } from "./reasons";

/** What a plan's outcome is called: a window in the test's own unit, or words. */
function labelOf({ test }: RankedPart, { from, to }: PlanBranch): string {
  const { axis } = test.outcomes;
  if (from >= axis.bins) return wordsOf(test.offered.probe)[from - axis.bins] ?? "";
  const { fromScale, unit } = scaleOf(test.offered.probe);
  const low = from === 0 ? null : fromScale(axis.edge(from));
  const high = to >= axis.bins ? null : fromScale(axis.edge(to));
  return low !== null && high !== null && low > high ? formatWindow(high, low, unit) : formatWindow(low, high, unit);
}

/** A plan step in the words of the language. */
function spoken(step: PlanStep): Plan {
  const { part, branches } = step;
  const { posterior, test } = part;
  return {
    test: keyOf(part),
    title: test.offered.procedure.title,
    minutes: test.minutes,
    branches: branches
      .map((branch) => {
        const unit = posterior.inference.grid.units[branch.unit];
        return {
          label: labelOf(part, branch),
          probability: Math.min(1, branch.probability),
          unit: unit === "" ? null : unit,
          title: unit === "" ? "Nothing wrong here" : titleIn(posterior, unit),
          certainty: Math.min(1, branch.certainty),
          next: branch.next === null ? null : spoken(branch.next),
        };
      })
      .sort((a, b) => b.probability - a.probability),
  };
}

/** The plan from here: the next test and what would follow each of its outcomes; null when nothing is left to do. */
export function planJob(job: DiagnosedJob, session: Session): Plan | null {
  const opened = openCase(job, session);
  const standing = opened.standing();
  const status = statusOf(opened);
  const [first] = standing.tests;
  if (first === undefined || status === "proven" || status === "nothing-found") return null;
  const own = standing.tests.filter(({ posterior }) => posterior === first.posterior);
  return spoken(planOf(first, own, first.posterior.units));
}
