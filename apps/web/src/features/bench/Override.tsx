import type { Stake } from "@fox-lamp/language";
import { Popover } from "radix-ui";
import { useState } from "react";
import { messages } from "../../messages";

const t = messages.bench;

/** What replacing the likeliest part now would risk; doing it anyway asks first and is recorded with the odds. */
export function Override({ stake, onOverride }: { stake: Stake; onOverride: () => void }) {
  const [open, setOpen] = useState(false);
  return (
    <div className="border-t border-line pt-3 text-sm text-soft">
      <p className="m-0">{stake.sentence}</p>
      <Popover.Root open={open} onOpenChange={setOpen}>
        <Popover.Trigger className="mt-1 h-9 rounded-lg px-0 text-soft underline decoration-line underline-offset-4 hover:text-ink">
          {t.overrideOpen}
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content side="top" align="start" sideOffset={8} className="z-20 w-80 rounded-xl border border-line bg-panel p-4 text-sm shadow-2xl">
            <p className="m-0 font-bold">{stake.title}</p>
            <p className="my-2 text-soft">
              {stake.sentence} {t.overrideNote}
            </p>
            <Popover.Close className="h-11 w-full rounded-lg border border-ember font-bold text-ink" onClick={onOverride}>
              {t.overrideConfirm}
            </Popover.Close>
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
    </div>
  );
}
