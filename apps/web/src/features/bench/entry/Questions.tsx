import type { CircuitView } from "@fox-lamp/core";
import type { Question } from "@fox-lamp/language";
import { Link } from "react-router";
import { messages } from "../../../messages";
import { unitsAsWritten } from "../../../ui/display";

const t = messages.bench;

interface Props {
  readonly job: string;
  readonly questions: readonly Question[];
  readonly circuits: readonly CircuitView[];
}

/** What the sheets leave out and would settle more if somebody looked it up: each leads to its sheet. */
export function Questions({ job, questions, circuits }: Props) {
  if (questions.length === 0) return null;
  return (
    <section aria-label={t.lookUp} className="rounded-xl border border-line px-4 py-3 text-sm">
      <h3 className="font-bold">{t.lookUp}</h3>
      <p className="mt-0.5 text-soft">{t.lookUpHint}</p>
      <ul className="mt-1 list-none p-0">
        {questions.map(({ circuit, parameter, title, minutes }) => (
          <li key={`${circuit} ${parameter}`}>
            <Link to={`/jobs/${job}/sheet/${circuit}`} className="block min-h-11 py-2.5 text-ink underline decoration-lamp underline-offset-4">
              {circuits.find(({ id }) => id === circuit)?.title ?? circuit}: {unitsAsWritten(title)}{" "}
              <span className="readout text-soft">{t.lookUpMinutes(minutes)}</span>
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}
