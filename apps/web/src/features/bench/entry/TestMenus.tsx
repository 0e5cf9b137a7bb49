import type { CircuitView } from "@fox-lamp/core";
import type { NextTest } from "@fox-lamp/language";
import { Popover } from "radix-ui";
import { testTitle } from "../../../circuit/wording";
import { messages } from "../../../messages";
import { gainText, minutesText } from "../../../ui/display";

const t = messages.bench;
const ITEM = "w-full rounded-lg px-3 py-2.5 text-left text-ink hover:bg-well";
const TRIGGER = "h-11 flex-1 rounded-lg border border-edge text-ink";

interface Props {
  readonly tests: readonly NextTest[];
  readonly circuits: readonly CircuitView[];
  readonly onChoose: (test: string) => void;
  readonly onSkip: (reason: string) => void;
  readonly othersOpen: boolean;
  readonly onOthers: (open: boolean) => void;
  readonly skipOpen: boolean;
  readonly onSkipping: (open: boolean) => void;
  readonly onOwn: () => void;
}

/** Other tests with their price, and reasons why this one cannot be done. */
export function TestMenus({ tests, circuits, onChoose, onSkip, othersOpen, onOthers, skipOpen, onSkipping, onOwn }: Props) {
  return (
    <div className="flex gap-2">
      <Popover.Root open={othersOpen} onOpenChange={onOthers}>
        <Popover.Trigger className={TRIGGER}>{t.others}</Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            side="top"
            align="end"
            sideOffset={8}
            aria-label={t.others}
            className="z-20 max-h-96 w-80 overflow-auto rounded-xl border border-line bg-panel p-1.5 shadow-2xl"
          >
            {tests.map((candidate) => (
              <Popover.Close key={candidate.test} className={ITEM} onClick={() => onChoose(candidate.test)}>
                <span className="block">{testTitle(candidate, circuits)}</span>
                <span className="text-sm text-soft">{messages.ownTest.price(minutesText(candidate.minutes), gainText(candidate.gainBits))}</span>
              </Popover.Close>
            ))}
            <Popover.Close className={`${ITEM} border-t border-line font-bold`} onClick={onOwn}>
              {messages.ownTest.title} ...
            </Popover.Close>
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
      <Popover.Root open={skipOpen} onOpenChange={onSkipping}>
        <Popover.Trigger className={TRIGGER}>{t.cannot}</Popover.Trigger>
        <Popover.Portal>
          <Popover.Content
            side="top"
            align="end"
            sideOffset={8}
            aria-label={t.skipTitle}
            className="z-20 w-64 rounded-xl border border-line bg-panel p-1.5 shadow-2xl"
          >
            <p className="px-3 py-2 text-sm font-bold text-soft">{t.skipTitle}</p>
            {t.reasons.map((reason) => (
              <Popover.Close key={reason} className={ITEM} onClick={() => onSkip(reason)}>
                {reason}
              </Popover.Close>
            ))}
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </div>
  );
}
