import type { ReactNode } from "react";
import { messages } from "../messages";

/** What is shown where there is nothing to show yet: loading, failed, or empty, with what can be done. */
export function Plain({ children, retry }: { children: ReactNode; retry?: (() => void) | undefined }) {
  return (
    <div className="grid min-h-64 flex-1 place-items-center p-8 text-center text-soft" role="status">
      <div className="space-y-4">
        <p className="text-lg">{children}</p>
        {retry && (
          <button type="button" className="h-11 rounded-lg bg-lamp px-5 font-bold text-on-lamp" onClick={retry}>
            {messages.states.retry}
          </button>
        )}
      </div>
    </div>
  );
}

/** A page that waits: a page like any other, with a landmark, a heading and the place skip links go to. */
export function PlainPage({ children }: { children: string }) {
  return (
    <main id="content" className="flex min-h-64 flex-1 flex-col" aria-busy>
      <h1 className="sr-only">{children}</h1>
      <Plain>{children}</Plain>
    </main>
  );
}

/** A heading above a block of the page. */
export function Label({ children, as: Tag = "h2" }: { children: ReactNode; as?: "h2" | "h3" | "p" }) {
  return <Tag className="text-sm font-bold text-soft">{children}</Tag>;
}
