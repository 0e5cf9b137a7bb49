import type { Stake } from "@fox-lamp/language";
import { useState } from "react";
import { messages } from "../../../messages";

const t = messages.bench;

/** What replacing the likeliest part now would risk; doing it anyway asks first and is recorded with the odds. */
export function Override({ stake, onOverride }: { stake: Stake; onOverride: () => void }) {
  const [open, setOpen] = useState(false);
  return (
    <div className="border-t border-line pt-3 text-sm text-soft">
      <p className="m-0">{stake.sentence}</p>
      <button
        type="button"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
        className="mt-1 min-h-11 rounded-lg px-0 text-soft underline decoration-line underline-offset-4 hover:text-ink"
      >
        {t.overrideOpen}
      </button>
      {open && (
        <div className="mt-1 rounded-xl border border-line p-4">
          <p className="m-0 font-bold text-ink">{stake.title}</p>
          <p className="my-2">{t.overrideNote}</p>
          <button type="button" className="h-11 w-full rounded-lg border border-ember font-bold text-ink" onClick={onOverride}>
            {t.overrideConfirm}
          </button>
        </div>
      )}
    </div>
  );
}
