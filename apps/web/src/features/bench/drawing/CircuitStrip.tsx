import { type CircuitView, formatPercent } from "@fox-lamp/core";
import type { Diagnosis } from "@fox-lamp/language";
import { messages } from "../../../messages";
import { useWide } from "../../../ui/room";

const t = messages.bench;

interface Props {
  readonly circuits: readonly CircuitView[];
  readonly diagnosis: Diagnosis;
  readonly shown: string;
  readonly onShow: (circuit: string) => void;
}

/** The circuits of a job with the suspicion that lies in each; a click shows its drawing and its best test. A narrow screen has a list to choose from. */
export function CircuitStrip({ circuits, diagnosis, shown, onShow }: Props) {
  const wide = useWide();
  if (circuits.length < 2) return null;
  const share = (id: string): number =>
    Math.min(
      1,
      diagnosis.units.reduce((sum, { unit, probability }) => (unit.startsWith(`${id}/`) ? sum + probability : sum), 0),
    );
  if (!wide)
    return (
      <label>
        <span className="sr-only">{t.circuitsStrip}</span>
        <select
          value={shown}
          onChange={(event) => onShow(event.target.value)}
          className="mb-2 min-h-11 w-full truncate rounded-lg border border-lamp bg-panel px-2 font-bold text-ink"
        >
          {circuits.map(({ id, title }) => (
            <option key={id} value={id}>
              {title}: {formatPercent(share(id))}
            </option>
          ))}
        </select>
      </label>
    );
  return (
    <nav aria-label={t.circuitsStrip} className="-mx-1 flex max-h-36 flex-wrap gap-1 overflow-y-auto px-1 pb-2">
      {circuits.map(({ id, title }) => {
        const suspicion = share(id);
        return (
          <button
            key={id}
            type="button"
            onClick={() => onShow(id)}
            aria-current={id === shown}
            className={`flex min-h-11 shrink-0 items-center gap-1.5 rounded-lg border px-2 text-sm ${id === shown ? "border-lamp font-bold text-ink" : "border-edge text-soft"}`}
          >
            <span className="max-w-40 truncate" title={title}>
              {title}
            </span>
            <span className={`readout ${suspicion > 0.2 ? "text-ember" : "text-soft"}`}>{formatPercent(suspicion)}</span>
          </button>
        );
      })}
    </nav>
  );
}
