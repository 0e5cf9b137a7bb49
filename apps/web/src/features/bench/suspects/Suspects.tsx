import { type CircuitView, formatPercent } from "@fox-lamp/core";
import type { Diagnosis } from "@fox-lamp/language";
import { testTitle, titleOf } from "../../../circuit/wording";
import { messages } from "../../../messages";
import { minutesText } from "../../../ui/display";
import { Label } from "../../../ui/states";
import { Cleared } from "./Cleared";

const t = messages.bench;
const LEAST_SHOWN = 0.005;
const MOST_SHOWN = 7;

interface Props {
  readonly diagnosis: Diagnosis;
  readonly circuits: readonly CircuitView[];
  readonly selected: string | null;
  readonly onSelect: (unit: string) => void;
  /** Whether anything has been read or any code is stored. */
  readonly measured: boolean;
  /** Why the selected unit is not the culprit, or still may be. */
  readonly whyNot: string | null;
  readonly onTest: (test: string) => void;
}

/** Tests whose outcomes speak of a unit, the likeliest first. */
function testsAbout(unit: string, { next, units }: Diagnosis): Diagnosis["next"] {
  const now = units.find((candidate) => candidate.unit === unit)?.probability ?? 0;
  // A test settles a unit when some outcome lifts it well above, or drops it well below, where it stands.
  return next.filter(({ outcomes }) =>
    outcomes.some(({ probability, units: after }) => {
      const then = after.find((candidate) => candidate.unit === unit)?.probability ?? 0;
      return probability > 0.03 && Math.abs(then - now) > 0.15;
    }),
  );
}

interface AboutProps extends Pick<Props, "diagnosis" | "circuits" | "whyNot" | "onTest"> {
  readonly unit: string;
}

/** "Why not?", and what would settle it. */
function About({ unit, diagnosis, circuits, whyNot, onTest }: AboutProps) {
  const about = testsAbout(unit, diagnosis).slice(0, 3);
  return (
    <div className="mt-1.5 rounded-lg bg-well px-3 py-2 text-sm text-ink" role="status">
      {whyNot !== null && (
        <p className="m-0">
          <span className="font-bold">{t.whyNot}</span> {whyNot}
        </p>
      )}
      {diagnosis.next.length > 0 && (
        <>
          <p className="mb-0 mt-1.5 font-bold">{about.length === 0 ? t.noTestProves : t.testsThatProve}</p>
          {about.map((test) => (
            <button
              key={test.test}
              type="button"
              onClick={() => onTest(test.test)}
              className="block min-h-11 py-1 text-left underline decoration-lamp underline-offset-4"
            >
              {testTitle(test, circuits)} <span className="readout text-soft">{minutesText(test.minutes)}</span>
            </button>
          ))}
        </>
      )}
    </div>
  );
}

/** Stands among the units for what no model explains. */
const UNKNOWN_FAULT = "?";
const LEAST_UNKNOWN = 0.05;

/** Ranked suspects with one sentence each, and what the readings have cleared. */
export function Suspects({ diagnosis, circuits, selected, onSelect, measured, whyNot, onTest }: Props) {
  const cleared = new Map(diagnosis.verdict.refuted.map(({ unit, by }) => [unit, by]));
  const healthy = diagnosis.healthy ?? 0;
  const unknown = diagnosis.unknown ?? 0;
  const rows = [
    ...diagnosis.units.filter(({ unit, probability }) => probability >= LEAST_SHOWN && !cleared.has(unit)),
    ...(healthy >= LEAST_SHOWN ? [{ unit: "", probability: healthy }] : []),
    ...(unknown >= LEAST_UNKNOWN ? [{ unit: UNKNOWN_FAULT, probability: unknown }] : []),
  ]
    .sort((a, b) => b.probability - a.probability)
    .slice(0, MOST_SHOWN);
  return (
    <div className="space-y-6">
      <section aria-label={t.suspects}>
        <Label>{t.suspects}</Label>
        {!measured && <p className="mt-1 text-sm text-soft">{t.priorsOnly}</p>}
        <ul className="mt-1 list-none p-0">
          {rows.map(({ unit, probability }) => {
            const said = diagnosis.suspects.find(({ fault }) => fault.startsWith(`${unit}/`));
            // Before anything is measured only what earlier jobs moved is worth a sentence.
            const why = measured ? said?.why : said?.history;
            const title = unit === "" ? t.nothingWrong : unit === UNKNOWN_FAULT ? t.unknownFault : titleOf(unit, circuits);
            return (
              <li key={unit} className="border-b border-line py-1.5">
                <button
                  type="button"
                  onClick={() => onSelect(unit)}
                  aria-pressed={selected === unit}
                  className={`block min-h-11 w-full rounded text-left text-ink ${selected === unit ? "underline decoration-lamp decoration-2 underline-offset-4" : ""}`}
                >
                  <span className="flex justify-between gap-3 font-bold">
                    <span>{title}</span>
                    <span className="readout whitespace-nowrap">{formatPercent(probability)}</span>
                  </span>
                </button>
                <div className="mt-1.5 h-1.5 rounded-full bg-line" aria-hidden="true">
                  <div
                    className={`settle h-full rounded-full ${unit === "" ? "bg-calm" : "bg-ember"}`}
                    style={{ width: `${Math.max(1.5, 100 * probability)}%` }}
                  />
                </div>
                {why && <p className="mb-0 mt-1.5 text-sm text-soft">{why}</p>}
                {selected === unit && unit !== "" && unit !== UNKNOWN_FAULT && (
                  <About unit={unit} diagnosis={diagnosis} circuits={circuits} whyNot={whyNot} onTest={onTest} />
                )}
              </li>
            );
          })}
        </ul>
      </section>
      {cleared.size > 0 && <Cleared cleared={cleared} circuits={circuits} selected={selected} whyNot={whyNot} onSelect={onSelect} />}
    </div>
  );
}
