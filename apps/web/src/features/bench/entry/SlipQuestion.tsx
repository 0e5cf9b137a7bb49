import type { Value } from "@fox-lamp/language";
import { Dialog } from "radix-ui";
import { useRef } from "react";
import { valueText } from "../../../circuit/wording";
import { messages } from "../../../messages";
import type { Question } from "./use-slip-questions";

const t = messages.bench;

interface Props {
  readonly question: Question | null;
  readonly onAnswer: (said: { readonly was: Value } | "again" | "keep") => void;
}

/**
 * Asks, never refuses: the likeliest slip and its value, take it back and measure again, or keep it. It is in the record already: closing
 * keeps it. It comes by itself, perhaps under a hand that presses Enter for something else: no answer has the focus until one is chosen.
 */
export function SlipQuestion({ question, onAnswer }: Props) {
  const shown = (value: Value): string => valueText(value, question?.unit ?? "");
  const content = useRef<HTMLDivElement>(null);
  return (
    <Dialog.Root open={question !== null} onOpenChange={(open) => !open && onAnswer("keep")}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-30 bg-black/60" />
        <Dialog.Content
          ref={content}
          onOpenAutoFocus={(event) => {
            event.preventDefault();
            content.current?.focus();
          }}
          className="fixed left-1/2 top-1/2 z-40 w-[min(28rem,calc(100vw-2rem))] -translate-x-1/2 -translate-y-1/2 rounded-2xl border border-line bg-panel p-6 shadow-2xl outline-none"
        >
          <Dialog.Title className="text-xl font-bold">{t.slipTitle}</Dialog.Title>
          <Dialog.Description className="mb-5 mt-2 text-soft">{question?.doubt.why}</Dialog.Description>
          {question && (
            <div className="grid gap-2">
              {question.doubt.suggested !== null && (
                <button
                  type="button"
                  className="h-12 rounded-xl bg-lamp font-bold text-on-lamp"
                  onClick={() => onAnswer({ was: question.doubt.suggested as number })}
                >
                  {t.takeInstead(shown(question.doubt.suggested))}
                </button>
              )}
              <button
                type="button"
                className={`h-12 rounded-xl font-bold ${question.doubt.suggested === null ? "bg-lamp text-on-lamp" : "border border-edge text-ink"}`}
                onClick={() => onAnswer("again")}
              >
                {t.again}
              </button>
              <button type="button" className="h-12 rounded-xl border border-edge text-ink" onClick={() => onAnswer("keep")}>
                {t.keep(shown(question.value))}
              </button>
            </div>
          )}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
