import { type FormEvent, type ReactNode, useState } from "react";
import { reasonOf } from "../../app/api";
import { Brand, ThemeButton } from "../../app/shell";
import { messages } from "../../messages";
import { Button, TextField } from "../../ui/form";

/** A page before anybody is signed in. */
export function Doorway({ title, lead, children }: { title: string; lead: string; children: ReactNode }) {
  return (
    <>
      <header className="flex items-center border-b border-line px-4 py-1.5 lg:px-6">
        <Brand />
        <span className="ml-auto">
          <ThemeButton />
        </span>
      </header>
      <main id="content" className="m-auto grid w-full max-w-4xl gap-8 px-4 py-8">
        <div>
          <h1 className="m-0 text-3xl font-bold">{title}</h1>
          <p className="mb-0 mt-1 text-soft">{lead}</p>
        </div>
        {children}
      </main>
    </>
  );
}

/** One line of a form at the front door. */
export interface Line {
  readonly name: string;
  readonly label: string;
  readonly type?: "password" | "email";
  readonly autoComplete: string;
  readonly optional?: boolean;
  readonly value?: string;
}

/** Which field a failed request speaks of; empty for none. */
function placeOf(error: unknown): string {
  const data = typeof error === "object" && error !== null && "data" in error ? (error as { data?: { where?: unknown } }).data : undefined;
  return typeof data?.where === "string" ? data.where : "";
}

/** A form at the front door: what the server does not take stands beside its field, and nothing typed is lost. */
export function DoorForm({ lines, button, submit }: { lines: readonly Line[]; button: string; submit: (values: Record<string, string>) => Promise<unknown> }) {
  const [error, setError] = useState<unknown>(null);
  const [busy, setBusy] = useState(false);
  const send = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const values = Object.fromEntries([...form.entries()].flatMap(([name, value]) => (typeof value === "string" && value !== "" ? [[name, value]] : [])));
    setBusy(true);
    setError(await submit(values));
    setBusy(false);
  };
  const place = placeOf(error);
  const reason = error === null ? null : typeof error === "string" ? error : (reasonOf(error) ?? messages.states.failed);
  const known = lines.some(({ name }) => name === place);
  return (
    <form onSubmit={(event) => void send(event)} className="grid w-full max-w-md gap-4">
      {lines.map(({ name, label, type = "text", autoComplete, optional = false, value }) => (
        <TextField
          key={name}
          name={name}
          label={label}
          type={type}
          autoComplete={autoComplete}
          required={!optional}
          defaultValue={value}
          autoCapitalize="none"
          error={known && name === place ? (reason ?? undefined) : undefined}
        />
      ))}
      {reason !== null && !known && (
        <p role="alert" className="m-0 rounded-xl bg-caution px-4 py-2.5">
          {reason}
        </p>
      )}
      <Button type="submit" weight="next" disabled={busy} className="min-h-12">
        {button}
      </Button>
    </form>
  );
}
