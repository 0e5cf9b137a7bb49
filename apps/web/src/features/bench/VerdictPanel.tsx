import { formatPercent } from "@fox-lamp/core/units";
import type { Diagnosis } from "@fox-lamp/language";
import { messages } from "../../messages";
import type { CircuitView } from "./analysis";
import { titleOf } from "./Suspects";

const t = messages.bench;

interface Props {
  readonly diagnosis: Diagnosis;
  readonly circuits: readonly CircuitView[];
  readonly minutes: number;
  readonly recorded: boolean;
  readonly onRecord: () => void;
}

/** The verdict as a proof: the unit, the readings that refute each rival, what is left open. */
export function VerdictPanel({ diagnosis, circuits, minutes, recorded, onRecord }: Props) {
  const { verdict } = diagnosis;
  const nothing = verdict.status === "nothing-found";
  const named = verdict.group.length > 0 ? verdict.group : verdict.unit === null ? [] : [verdict.unit];
  const proof = new Map<string, string[]>();
  for (const { unit, by } of verdict.refuted) {
    const key = by.join(" ");
    proof.set(key, [...(proof.get(key) ?? []), titleOf(unit, circuits)]);
  }
  return (
    <section aria-label={t.verdict} className="space-y-4">
      <p className="m-0 text-sm font-bold text-lamp">{nothing ? t.nothingFound : t.proven}</p>
      <h2 className="m-0 text-2xl font-bold leading-tight">{nothing ? t.nothingWrong : named.map((unit) => titleOf(unit, circuits)).join(" or ")}</h2>
      <p className="readout m-0 text-lg">
        {formatPercent(verdict.probability)} <span className="text-soft">after {Number(minutes.toFixed(0))} min</span>
      </p>
      {verdict.separate && (
        <p className="m-0 text-sm text-soft">
          {t.group}. {verdict.separate}
        </p>
      )}
      <dl className="m-0 space-y-2 text-sm">
        {[...proof].map(([by, units]) => (
          <div key={by} className="border-t border-line pt-2">
            <dt className="readout font-bold">{by}</dt>
            <dd className="m-0 text-soft">{units.join(", ")}</dd>
          </div>
        ))}
      </dl>
      {verdict.open.length > 0 && (
        <p className="m-0 text-sm text-soft">
          {t.stillOpen}: {verdict.open.map((unit) => titleOf(unit, circuits)).join(", ")}
        </p>
      )}
      {recorded ? (
        <p className="m-0 rounded-xl border border-line px-4 py-3 font-bold">{t.recorded}</p>
      ) : (
        <button type="button" onClick={onRecord} className="h-14 w-full rounded-xl bg-lamp text-lg font-bold text-on-lamp">
          {t.record}
        </button>
      )}
    </section>
  );
}
