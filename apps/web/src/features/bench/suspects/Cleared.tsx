import type { CircuitView } from "@fox-lamp/core";
import { Check, ChevronDown } from "lucide-react";
import { useState } from "react";
import { titleOf } from "../../../circuit/wording";
import { messages } from "../../../messages";

const t = messages.bench;
const MOST_READINGS = 2;

interface Props {
  /** Units the readings have cleared, and by which of them. */
  readonly cleared: ReadonlyMap<string, readonly string[]>;
  readonly circuits: readonly CircuitView[];
  readonly selected: string | null;
  /** Why the selected unit is not the culprit. */
  readonly whyNot: string | null;
  readonly onSelect: (unit: string) => void;
}

/** What the readings have ruled out: a count, and behind it each part with the readings that did it. A part chosen on the drawing opens it. */
export function Cleared({ cleared, circuits, selected, whyNot, onSelect }: Props) {
  const [open, setOpen] = useState(false);
  const chosen = selected !== null && cleared.has(selected);
  const shown = open || chosen;
  const toggle = (): void => {
    setOpen(!shown);
    if (chosen) onSelect(selected);
  };
  return (
    <section aria-label={t.cleared}>
      <h2 className="text-sm font-bold text-soft">
        <button type="button" aria-expanded={shown} onClick={toggle} className="flex min-h-11 w-full items-center gap-2 text-left">
          <Check size={17} className="shrink-0 text-calm" aria-hidden="true" />
          <span className="flex-1">{t.clearedCount(cleared.size)}</span>
          <ChevronDown size={18} aria-hidden="true" className={shown ? "rotate-180" : ""} />
        </button>
      </h2>
      {shown && (
        <ul className="m-0 list-none space-y-0.5 p-0 text-sm">
          {[...cleared].map(([unit, by]) => (
            <li key={unit} className="pl-6">
              <button
                type="button"
                onClick={() => onSelect(unit)}
                aria-pressed={selected === unit}
                className={`min-h-11 text-left ${selected === unit ? "text-ink underline decoration-lamp" : "text-soft"}`}
              >
                {titleOf(unit, circuits)}{" "}
                <span className="readout">
                  {t.clearedBy(
                    by
                      .slice(0, MOST_READINGS)
                      .map((id) => t.battery[id] ?? id)
                      .join(", "),
                  )}
                </span>
              </button>
              {selected === unit && whyNot !== null && (
                <p className="mb-0 mt-1 rounded-lg bg-well px-3 py-2 text-ink" role="status">
                  <span className="font-bold">{t.whyNot}</span> {whyNot}
                </p>
              )}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}
