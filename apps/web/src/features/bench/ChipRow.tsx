import { type CircuitView, formatPercent } from "@fox-lamp/core";
import type { Diagnosis } from "@fox-lamp/language";
import { titleOf } from "../../circuit/wording";

/** The leading suspects in one line, for narrow screens where the full list lies further down. */
export function ChipRow({ diagnosis, circuits }: { diagnosis: Diagnosis; circuits: readonly CircuitView[] }) {
  const cleared = new Set(diagnosis.verdict.refuted.map(({ unit }) => unit));
  const leading = diagnosis.units.filter(({ unit, probability }) => probability > 0.03 && !cleared.has(unit)).slice(0, 4);
  return (
    <ul className="my-2 mr-12 flex list-none gap-2 overflow-x-auto p-0 lg:hidden">
      {leading.map(({ unit, probability }) => (
        <li key={unit} className="whitespace-nowrap rounded-xl bg-panel px-3 py-2 text-sm">
          {titleOf(unit, circuits)} <span className="readout font-bold text-ember">{formatPercent(probability)}</span>
        </li>
      ))}
    </ul>
  );
}
