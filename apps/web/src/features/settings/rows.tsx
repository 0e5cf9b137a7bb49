import type { ReactNode } from "react";
import { CardLink } from "../../app/CardLink";
import { messages } from "../../messages";

/** One row: what is decided, and the ways it can be. @param card tells the arguments of both schools */
export function Row({ label, children, hint, card }: { label: string; children: ReactNode; hint?: string; card?: string }) {
  return (
    <div className="grid gap-x-6 gap-y-1.5 border-t border-line py-3 sm:grid-cols-[16rem_1fr]">
      <div>
        <span className="font-bold">{label}</span>
        {hint && <span className="block text-sm text-soft">{hint}</span>}
        {card && (
          <span className="block">
            <CardLink card={card} words={messages.cards.why} />
          </span>
        )}
      </div>
      <div className="flex flex-wrap gap-2">{children}</div>
    </div>
  );
}

/** Ways something can be decided, one of them. */
export function Options<T extends string | number>({
  label,
  value,
  options,
  onChange,
}: {
  label: string;
  value: T;
  options: readonly (readonly [T, string])[];
  onChange: (value: T) => void;
}) {
  return (
    <div role="radiogroup" aria-label={label} className="flex flex-wrap gap-2">
      {options.map(([option, text]) => (
        <label
          key={option}
          className={`flex h-11 cursor-pointer items-center rounded-lg border px-3.5 has-focus-visible:outline-3 has-focus-visible:outline-lamp ${option === value ? "border-lamp font-bold text-ink" : "border-edge text-soft"}`}
        >
          <input type="radio" name={label} checked={option === value} onChange={() => onChange(option)} className="sr-only" />
          <span aria-hidden="true" className={`mr-2 size-3 rounded-full border-2 ${option === value ? "border-lamp bg-lamp" : "border-line"}`} />
          {text}
        </label>
      ))}
    </div>
  );
}
