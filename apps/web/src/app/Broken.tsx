import type { FallbackProps } from "react-error-boundary";
import { messages } from "../messages";
import { Brand } from "./shell";

/** What is shown when a page fails: what happened, and the ways on. Entries are safe: they are kept before anything is shown. */
export function Broken({ error }: FallbackProps) {
  const what = error instanceof Error ? error.message : String(error);
  return (
    <div className="flex min-h-full flex-col">
      <header className="border-b border-line px-4 py-2">
        <Brand />
      </header>
      <main id="content" role="alert" className="m-auto max-w-lg space-y-4 p-6 text-center">
        <h1 className="text-xl font-bold">{messages.states.broken}</h1>
        <p className="text-soft">{messages.states.brokenHint}</p>
        <p className="readout text-sm text-soft">{what}</p>
        <button type="button" className="h-12 rounded-lg bg-lamp px-6 font-bold text-on-lamp" onClick={() => location.reload()}>
          {messages.states.reload}
        </button>
      </main>
    </div>
  );
}
