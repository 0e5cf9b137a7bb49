import { type ComponentProps, type ReactNode, useId } from "react";

/** A button in one of three weights: the one thing to do next, another thing, a quiet one. */
export function Button({ weight = "other", className = "", ...rest }: ComponentProps<"button"> & { weight?: "next" | "other" | "quiet" }) {
  const style = {
    next: "bg-lamp font-bold text-on-lamp",
    other: "border border-edge text-ink hover:border-lamp",
    quiet: "text-soft underline decoration-line underline-offset-4 hover:text-ink",
  }[weight];
  return <button type="button" {...rest} className={`min-h-11 rounded-xl px-4 py-2 disabled:opacity-50 ${style} ${className}`} />;
}

const BOX = "min-h-11 w-full rounded-lg border border-edge bg-well px-3 py-2 text-ink placeholder:text-soft aria-invalid:border-ember";

/** What a control needs to belong to its label and its problem. */
interface Wired {
  readonly id: string;
  readonly "aria-invalid": boolean | undefined;
  readonly "aria-describedby": string | undefined;
}

/** A label above a control, with a hint and what is wrong with it. */
export function Field({
  label,
  hint,
  error,
  quiet = false,
  children,
}: {
  label: string;
  hint?: string | undefined;
  error?: string | undefined;
  /** The label is only heard: what it is of stands beside it. */
  quiet?: boolean | undefined;
  children: (wired: Wired) => ReactNode;
}) {
  const id = useId();
  const note = error ?? hint;
  return (
    <div className="grid content-start gap-1">
      <label htmlFor={id} className={quiet ? "sr-only" : "text-sm text-soft"}>
        {label}
      </label>
      {children({ id, "aria-invalid": error === undefined ? undefined : true, "aria-describedby": note === undefined ? undefined : `${id}-note` })}
      {note !== undefined && (
        <p id={`${id}-note`} role={error === undefined ? undefined : "alert"} className={`m-0 text-sm ${error === undefined ? "text-soft" : "text-ember"}`}>
          {note}
        </p>
      )}
    </div>
  );
}

type Labelled = { label: string; hint?: string | undefined; error?: string | undefined; quiet?: boolean | undefined };

export function TextField({ label, hint, error, className = "", ...rest }: Labelled & ComponentProps<"input">) {
  return (
    <Field label={label} hint={hint} error={error}>
      {(wired) => <input autoComplete="off" {...rest} {...wired} className={`${BOX} ${className}`} />}
    </Field>
  );
}

export function TextArea({ label, hint, error, className = "", ...rest }: Labelled & ComponentProps<"textarea">) {
  return (
    <Field label={label} hint={hint} error={error}>
      {(wired) => <textarea rows={3} {...rest} {...wired} className={`${BOX} ${className}`} />}
    </Field>
  );
}

export function Select<T extends string>({
  label,
  hint,
  error,
  quiet,
  options,
  value,
  onChange,
}: Labelled & { options: readonly (readonly [T, string])[]; value: T; onChange: (value: T) => void }) {
  return (
    <Field label={label} hint={hint} error={error} quiet={quiet}>
      {(wired) => (
        <select {...wired} value={value} onChange={(event) => onChange(event.target.value as T)} className={BOX}>
          {options.map(([option, text]) => (
            <option key={option} value={option}>
              {text}
            </option>
          ))}
        </select>
      )}
    </Field>
  );
}

/** A yes or no that is one of several, as a chip. */
export function Chip({ on, onChange, children }: { on: boolean; onChange: (on: boolean) => void; children: ReactNode }) {
  return (
    <label
      className={`flex min-h-11 cursor-pointer items-center gap-2 rounded-lg border px-3 has-focus-visible:outline-3 has-focus-visible:outline-lamp ${on ? "border-lamp font-bold text-ink" : "border-edge text-soft"}`}
    >
      <input type="checkbox" checked={on} onChange={(event) => onChange(event.target.checked)} className="size-4 accent-[var(--lamp)]" />
      {children}
    </label>
  );
}

/** A block of a page with its heading. */
export function Block({ title, children, aside }: { title: string; children: ReactNode; aside?: ReactNode }) {
  const id = useId();
  return (
    <section aria-labelledby={id} className="rounded-xl border border-line bg-panel px-4 py-3">
      <div className="mb-2 flex flex-wrap items-center justify-between gap-x-4">
        <h2 id={id} className="text-sm font-bold text-soft">
          {title}
        </h2>
        {aside}
      </div>
      {children}
    </section>
  );
}

/** A number typed with point or comma; null for an empty field, undefined for what is no number. */
export function numberIn(text: string): number | null | undefined {
  const plain = text.trim().replace(",", ".");
  if (plain === "") return null;
  const value = Number(plain);
  return Number.isFinite(value) ? value : undefined;
}

/** {@link numberIn} for large whole numbers, which people write with separators: 88,940 or 88 940. */
export function largeNumberIn(text: string): number | null | undefined {
  return numberIn(text.replaceAll(/[\s.,](?=\d{3}\b)/gu, ""));
}
