import { type Noticed, symptomCauses } from "@fox-lamp/core";
import { Link } from "react-router";
import { messages } from "../../../messages";
import { Block } from "../../../ui/form";
import type { Work } from "../shared/JobFrame";

const t = messages.job;
const f = messages.facts;

function wordOf(symptom: Noticed): string {
  return symptom === "does-not-start" || symptom === "stalls" ? f.engine[symptom] : f.symptoms[symptom];
}

/** What the engine does, and the circuits whose loss would do that. */
export function Symptoms({ job, state }: Work) {
  const { engine, symptoms = [] } = state.facts;
  const noticed: Noticed[] = [...(engine === "does-not-start" || engine === "stalls" ? [engine] : []), ...symptoms];
  const titleOf = (id: string): string => job.circuits.find((circuit) => circuit.id === id)?.title ?? id;
  return (
    <Block title={t.symptoms}>
      {noticed.length === 0 && <p className="m-0 text-sm text-soft">{t.noSymptom}</p>}
      <dl className="m-0">
        {symptomCauses(job.circuits, noticed).map(({ symptom, circuits }) => (
          <div key={symptom} className="border-t border-line py-1.5 first:border-t-0">
            <dt className="font-bold">{wordOf(symptom)}</dt>
            <dd className="m-0 text-sm text-soft">{t.symptomOf(circuits.map(titleOf).join(", "))}</dd>
          </div>
        ))}
      </dl>
      <Link to={`/jobs/${job.id}`} className="flex min-h-11 items-center text-ink underline decoration-lamp underline-offset-4">
        {t.toFacts}
      </Link>
    </Block>
  );
}
