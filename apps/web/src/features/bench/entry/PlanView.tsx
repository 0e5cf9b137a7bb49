import { formatPercent } from "@fox-lamp/core";
import type { Plan } from "@fox-lamp/language";
import { ArrowRight } from "lucide-react";
import { messages } from "../../../messages";

const t = messages.bench;
const MOST_BRANCHES = 4;

function Step({ plan, depth }: { plan: Plan; depth: number }) {
  return (
    <ul className={`list-none space-y-1.5 p-0 text-sm ${depth > 0 ? "ml-3 mt-1.5 border-l border-line pl-3" : "mt-2"}`}>
      {plan.branches.slice(0, MOST_BRANCHES).map((branch) => (
        <li key={`${branch.label}${branch.unit ?? ""}`}>
          <span className="readout font-bold">{t.findings[branch.label] ?? branch.label}</span>{" "}
          <span className="readout text-soft">{formatPercent(branch.probability)}</span>
          <span className="block text-soft">
            {branch.title} {formatPercent(branch.certainty)}
            {branch.next === null ? `, ${branch.certainty >= 0.95 ? t.settled : t.nothingMore}` : ""}
          </span>
          {branch.next !== null && (
            <span className="mt-0.5 flex gap-1.5 text-ink">
              <ArrowRight size={15} className="mt-0.5 shrink-0 text-lamp" aria-hidden="true" />
              {branch.next.title}
            </span>
          )}
          {branch.next !== null && depth < 1 && <Step plan={branch.next} depth={depth + 1} />}
        </li>
      ))}
    </ul>
  );
}

/** What would follow each outcome of the next test, folded until somebody asks. */
export function PlanView({ plan }: { plan: Plan }) {
  return (
    <details className="rounded-xl border border-line px-4 py-2.5">
      <summary className="cursor-pointer font-bold">{t.planTitle}</summary>
      <Step plan={plan} depth={0} />
    </details>
  );
}
