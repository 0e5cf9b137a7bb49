import { type DiagnosedJob, formatPercent, type Triage as TriageResult } from "@fox-lamp/core";
import { wrap } from "comlink";
import { Eye } from "lucide-react";
import { useEffect, useMemo, useState } from "react";
import { messages } from "../../../messages";
import type { TriageService } from "./triage.worker";

const t = messages.job;

/** The triage of a job, computed beside the page; null while it is on its way. */
export function useTriage(job: DiagnosedJob | null): { triage: TriageResult | null; failure: string | null } {
  const [answer, setAnswer] = useState<{ key: string; triage: TriageResult | null; failure: string | null } | null>(null);
  const key = useMemo(() => JSON.stringify(job), [job]);
  useEffect(() => {
    const asked: DiagnosedJob | null = JSON.parse(key);
    if (asked === null || (asked.codes ?? []).length === 0) return;
    const worker = new Worker(new URL("./triage.worker.ts", import.meta.url), { type: "module" });
    wrap<TriageService>(worker)
      .triage(asked)
      .then((done) => setAnswer({ key, triage: done.ok ? done.triage : null, failure: done.ok ? null : done.problem.message }))
      .catch((error: Error) => setAnswer({ key, triage: null, failure: error.message }));
    return () => worker.terminate();
  }, [key]);
  return answer?.key === key ? answer : { triage: null, failure: null };
}

/** Which codes one fault could explain, which follow from others, what to prove first and what to look at before touching. */
export function Triage({ triage, titles }: { triage: TriageResult; titles: ReadonlyMap<string, string> }) {
  const title = (code: string): string => triage.codes.find((candidate) => candidate.code === code)?.title ?? "";
  const followers = triage.codes.filter(({ followsFrom }) => followsFrom.length > 0);
  return (
    <section aria-label={t.triage}>
      <ul className="m-0 list-none space-y-3 p-0">
        {triage.groups.map((group) => (
          <li key={group.codes.join()} className="rounded-xl border border-line bg-panel px-4 py-3">
            <p className="m-0 font-bold">{group.sentence}</p>
            <ul className="mb-0 mt-1 list-none p-0 text-sm text-soft">
              {group.codes.map((code) => (
                <li key={code}>
                  <span className="readout text-ink">{code}</span> {title(code)}
                </li>
              ))}
            </ul>
            {group.shared.length > 0 && <p className="mb-0 mt-2 text-sm">{t.shared(group.shared.join(", "))}</p>}
            <ul className="mb-0 mt-2 list-none space-y-1 p-0 text-sm">
              {group.causes.slice(0, 4).map(({ unit, title: name, probability }) => (
                <li key={unit} className="grid grid-cols-[1fr_5rem_3.5rem] items-center gap-3">
                  <span>{name}</span>
                  <span className="h-1.5 rounded-full bg-line" aria-hidden="true">
                    <span className="block h-full rounded-full bg-ember" style={{ width: `${Math.max(2, 100 * probability)}%` }} />
                  </span>
                  <span className="readout text-right text-soft">{formatPercent(probability)}</span>
                </li>
              ))}
            </ul>
          </li>
        ))}
      </ul>
      {followers.map(({ code, followsFrom }) => (
        <p key={code} className="mb-0 mt-2 text-sm">
          <span className="readout font-bold">{code}</span> {title(code)}: {t.follows(followsFrom.join(", "))}
        </p>
      ))}
      {triage.order[0] && (
        <p className="mb-0 mt-3 text-sm">
          <span className="font-bold">{t.proveFirst}</span> {triage.order.map(({ circuit }) => titles.get(circuit) ?? circuit).join(", ")}
        </p>
      )}
      {triage.looks.length > 0 && (
        <ul className="mt-2 list-none space-y-1 p-0 text-sm text-soft">
          {triage.looks.map((look) => (
            <li key={look} className="flex gap-2">
              <Eye size={16} className="mt-0.5 shrink-0 text-lamp" aria-hidden="true" />
              {look}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
