import { Check, ChevronDown } from "lucide-react";
import { type ReactNode, useId } from "react";
import { messages } from "../../../messages";

const t = messages.check;

interface Props {
  readonly number: number;
  readonly title: string;
  readonly done: boolean;
  /** The one step to do now. */
  readonly lit: boolean;
  readonly open: boolean;
  readonly onOpen: (open: boolean) => void;
  /** What came of it, in a line, while it is folded. */
  readonly line?: string | undefined;
  readonly children: ReactNode;
}

/** One step of the check: the one to do now is lit, finished ones are folded to a line. */
export function StepCard({ number, title, done, lit, open, onOpen, line, children }: Props) {
  const id = useId();
  return (
    <li className={`rounded-xl border bg-panel ${lit ? "border-2 border-lamp" : "border-line"}`}>
      <section aria-labelledby={id} aria-current={lit ? "step" : undefined}>
        <h2 className="m-0">
          <button
            type="button"
            aria-expanded={open}
            aria-label={t.stepName(number, title, done ? messages.stepState.done : lit ? t.now : "")}
            onClick={() => onOpen(!open)}
            className="flex min-h-12 w-full items-center gap-3 px-4 py-2 text-left text-ink"
          >
            <span
              aria-hidden="true"
              className={`readout grid size-7 shrink-0 place-items-center rounded-full border text-sm font-bold ${done ? "border-calm text-calm" : lit ? "border-lamp text-lamp" : "border-line text-soft"}`}
            >
              {done ? <Check size={16} /> : number}
            </span>
            <span className="min-w-0 flex-1">
              <span id={id} className={lit ? "text-lg font-bold" : "font-bold"}>
                {title}
              </span>
              {!open && line !== undefined && <span className="block text-sm text-soft">{line}</span>}
            </span>
            <ChevronDown size={18} aria-hidden="true" className={`shrink-0 text-soft ${open ? "rotate-180" : ""}`} />
          </button>
        </h2>
        {open && <div className="border-t border-line px-4 py-3">{children}</div>}
      </section>
    </li>
  );
}
