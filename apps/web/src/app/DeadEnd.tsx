import { Link } from "react-router";
import { messages } from "../messages";
import { PageHead } from "./shell";

/** A page that cannot be shown: why, in a sentence, and the way on. @param retry asks for it again, where that can help */
export function DeadEnd({ children, retry }: { children: string; retry?: (() => void) | undefined }) {
  return (
    <>
      <PageHead />
      <main id="content" className="m-auto grid w-full max-w-2xl justify-items-center gap-6 px-4 py-10 text-center">
        <div role="alert">
          <h1 className="m-0 text-xl font-bold">{children}</h1>
        </div>
        <div className="flex flex-wrap justify-center gap-3">
          {retry && (
            <button type="button" className="min-h-11 rounded-xl bg-lamp px-5 font-bold text-on-lamp" onClick={retry}>
              {messages.states.retry}
            </button>
          )}
          <Link to="/" className="flex min-h-11 items-center rounded-xl border border-edge px-5 font-bold text-ink no-underline">
            {messages.states.wayOn}
          </Link>
        </div>
      </main>
    </>
  );
}
