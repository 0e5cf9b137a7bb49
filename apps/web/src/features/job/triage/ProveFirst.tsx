import { diagnosedPart, formatPercent, type Triage } from "@fox-lamp/core";
import { ArrowRight } from "lucide-react";
import { useMemo } from "react";
import { useNavigate } from "react-router";
import { benchWith, benchWithTest } from "../../../circuit/asked-test";
import { namedCircuits, namerOf } from "../../../circuit/names-of";
import { useAnalysis } from "../../../circuit/use-analysis";
import { setupText, testTitle, windowText } from "../../../circuit/wording";
import { messages } from "../../../messages";
import { Button } from "../../../ui/form";
import type { Work } from "../shared/JobFrame";

const t = messages.job;

/** Goes to the bench with a test at hand. */
function useGoTo({ state, enter }: Work): (address: string) => void {
  const navigate = useNavigate();
  return (address) => {
    if (["complaint", "codes", "triage"].includes(state.stage)) enter({ kind: "stage", body: { stage: "bench" } });
    void navigate(address);
  };
}

/** The one thing to prove first, why, and the test for it. */
export function ProveFirst({ work, triage }: { work: Work; triage: Triage | null }) {
  const { job, state, shop } = work;
  const diagnosed = useMemo(() => diagnosedPart(job, state, shop?.settings ?? null, job.found), [job, state, shop]);
  const { analysis, computing } = useAnalysis(diagnosed);
  const go = useGoTo(work);
  const circuits = namedCircuits(job.circuits);
  const [first, ...rest] = triage?.order ?? [];
  const next = analysis?.diagnosis.next ?? [];
  const test = next.find(({ circuit }) => circuit === first?.circuit) ?? next[0];
  const branch = triage?.tree?.branches.find(({ circuit }) => circuit === first?.circuit);
  const trunk = triage?.tree?.trunk ?? null;
  const reason =
    branch !== undefined
      ? t.reason(formatPercent(branch.probability), branch.minutes)
      : trunk !== null
        ? t.reasonShared(formatPercent(trunk.probability))
        : (first?.why ?? "");
  const titleOf = (id: string): string => circuits.find((circuit) => circuit.id === id)?.title ?? id;
  return (
    <section aria-label={t.proveFirst} aria-busy={computing} className="rounded-xl border-2 border-lamp bg-panel px-4 py-3">
      <p className="m-0 flex justify-between gap-3 text-sm font-bold text-lamp">
        {t.proveFirst}
        {computing && test && <span className="font-normal text-soft">{t.weighedAgain}</span>}
      </p>
      {first && <p className="m-0 text-xl font-bold">{titleOf(first.circuit)}</p>}
      {first && <p className="mb-2 mt-1 text-sm">{reason}</p>}
      {test ? (
        <>
          <p className="m-0 font-bold">{testTitle(test, circuits)}</p>
          <p className="mb-3 mt-0 text-sm text-soft">
            {setupText(test.setup, circuits)}. {messages.check.sound}: {windowText(test.expect)}
          </p>
          <Button weight="next" onClick={() => go(benchWithTest(job.id, test))} className="flex w-full items-center justify-center gap-2">
            {t.openTest} <ArrowRight size={18} aria-hidden="true" />
          </Button>
        </>
      ) : (
        <p className="m-0 text-sm text-soft">{computing ? t.testComputing : ""}</p>
      )}
      {rest.length > 0 && <p className="mb-0 mt-3 text-sm text-soft">{t.alsoProve(rest.map(({ circuit }) => titleOf(circuit)).join(", "))}</p>}
    </section>
  );
}

/** What an earlier job on this car left undecided, and the test that tells its suspects apart. */
export function LeftOpenCard({ work }: { work: Work }) {
  const { job, state } = work;
  const go = useGoTo(work);
  const left = state.facts.leftOpen;
  if (left === undefined) return null;
  const nameOf = namerOf(job.circuits);
  const { test } = left;
  return (
    <section aria-label={t.leftOpen(left.job)} className="rounded-xl border border-lamp bg-panel px-4 py-3">
      <p className="m-0 text-sm font-bold text-lamp">{t.leftOpen(left.job)}</p>
      <ul className="mb-1 mt-1 list-none p-0">
        {left.units.map(({ unit, probability }) => (
          <li key={unit} className="flex justify-between gap-3">
            <span>{nameOf(unit)}</span> <span className="readout">{formatPercent(probability)}</span>
          </li>
        ))}
      </ul>
      <p className="m-0 text-sm text-soft">{t.leftOpenLead}</p>
      {test && (
        <>
          <p className="mb-2 mt-2 text-sm">
            {t.separates}: <span className="font-bold">{test.title}</span>
          </p>
          <Button onClick={() => go(benchWith(job.id, test.measurement))}>{t.openTest}</Button>
        </>
      )}
    </section>
  );
}
