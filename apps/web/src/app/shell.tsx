import { Library, Moon, Sun, UserRound } from "lucide-react";
import { lazy, type ReactNode, Suspense, useState } from "react";
import { Link } from "react-router";
import { messages } from "../messages";
import { discarded, triedAgain } from "../outbox";
import { Toasts } from "../ui/toast";
import { useSignOutMutation } from "./api";
import { forgetAnswers } from "./offline";
import { useFreshSession, useSession } from "./session";
import { themeToggled } from "./settings";
import { useAppDispatch, useAppSelector } from "./store";

/** The brand: a lantern with two ears. */
export function Brand() {
  return (
    <Link to="/" className="flex min-h-11 min-w-11 items-center gap-2.5 rounded-md font-bold text-ink no-underline">
      <svg viewBox="0 0 32 32" width="28" height="28" aria-hidden="true">
        <path d="M6 5l5 5h10l5-5v13a10 10 0 0 1-20 0z" fill="none" stroke="var(--lamp)" strokeWidth="2.2" strokeLinejoin="round" />
        <circle cx="16" cy="17" r="3.4" fill="var(--lamp)" />
      </svg>
      <span className="hidden sm:inline">{messages.name}</span>
    </Link>
  );
}

export function ThemeButton() {
  const dispatch = useAppDispatch();
  const theme = useAppSelector((state) => state.settings.theme);
  const label = theme === "night" ? messages.shell.day : messages.shell.night;
  return (
    <button
      type="button"
      className="hidden size-11 place-items-center rounded-lg text-soft hover:text-ink sm:grid"
      aria-label={label}
      title={label}
      onClick={() => dispatch(themeToggled())}
    >
      {theme === "night" ? <Sun size={20} /> : <Moon size={20} />}
    </button>
  );
}

/** The way to what is looked up. */
export function ShelfButton() {
  return (
    <Link
      to="/shelf"
      className="hidden size-11 place-items-center rounded-lg text-soft hover:text-ink sm:grid"
      aria-label={messages.shell.shelf}
      title={messages.shell.shelf}
    >
      <Library size={20} aria-hidden="true" />
    </Link>
  );
}

const accountItems = () => import("./AccountItems");
const AccountItems = lazy(async () => ({ default: (await accountItems()).AccountItems }));

/**
 * Who is signed in, and what belongs to the person and the shop; the menu itself is loaded when somebody goes for it.
 * @param roomy whether the name has its place on any wide screen, or on the widest only
 */
export function AccountMenu({ roomy = true }: { readonly roomy?: boolean }) {
  const me = useSession();
  const [signOut] = useSignOutMutation();
  const fresh = useFreshSession();
  const [wanted, setWanted] = useState(false);
  if (!me) return null;
  const leave = async (): Promise<void> => {
    await signOut();
    await forgetAnswers();
    fresh();
  };
  const face = {
    type: "button" as const,
    "aria-label": messages.shell.account,
    title: messages.shell.account,
    className: "flex h-11 items-center gap-2 rounded-lg px-2 text-soft hover:text-ink",
    children: (
      <>
        <UserRound size={20} aria-hidden="true" />
        <span className={`hidden max-w-40 truncate ${roomy ? "lg:inline" : "2xl:inline"}`}>{me.name}</span>
      </>
    ),
  };
  const closed = (
    <button
      {...face}
      aria-haspopup="menu"
      aria-expanded={false}
      onPointerEnter={() => void accountItems()}
      onFocus={() => void accountItems()}
      onClick={() => setWanted(true)}
    />
  );
  if (!wanted) return closed;
  return (
    <Suspense fallback={closed}>
      <AccountItems me={me} trigger={<button {...face} />} onLeave={() => void leave()} />
    </Suspense>
  );
}

/** The head of a page that belongs to no job. */
export function PageHead({ children }: { children?: ReactNode }) {
  return (
    <header className="flex items-center gap-x-5 border-b border-line px-4 py-1.5 lg:px-6">
      <Brand />
      <div className="min-w-0 flex-1 truncate">{children}</div>
      <span className="ml-auto flex items-center gap-1">
        <ShelfButton />
        <ThemeButton />
        <AccountMenu />
      </span>
    </header>
  );
}

/** What waits on this device, and what the server would not take: each with its words, and what can be done. */
function OutboxNotice() {
  const dispatch = useAppDispatch();
  const { waiting, setAside, failing, storage } = useAppSelector((state) => state.outbox);
  const unkept = storage === "full" && waiting.length > 0;
  if (!(failing && waiting.length > 0) && setAside.length === 0 && !unkept) return null;
  const button = "min-h-11 rounded-md border border-edge px-3";
  return (
    <div role="status" className="space-y-1 border-b border-line bg-caution px-4 py-2 text-sm">
      {unkept ? (
        <p className="m-0 font-bold">{messages.shell.unkept(waiting.length)}</p>
      ) : (
        failing && waiting.length > 0 && <p className="m-0">{messages.shell.unsaved(waiting.length)}</p>
      )}
      {setAside.map(({ entry, refused = "" }) => (
        <div key={entry.id} className="flex flex-wrap items-center gap-3">
          <span className="min-w-0 flex-1">
            {messages.shell.refused(refused)}{" "}
            <span className="text-soft">{messages.shell.entryOf(entry.kind, new Date(entry.at).toLocaleTimeString([], { timeStyle: "short" }))}</span>
          </span>
          <button type="button" className={button} onClick={() => dispatch(triedAgain(entry.id))}>
            {messages.shell.tryAgain}
          </button>
          <button type="button" className={button} onClick={() => dispatch(discarded(entry.id))}>
            {messages.shell.discard}
          </button>
        </div>
      ))}
    </div>
  );
}

/** What surrounds every page. */
export function Shell({ children }: { children: ReactNode }) {
  return (
    <div className="flex min-h-full flex-col">
      <a href="#content" className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-panel focus:p-3">
        {messages.shell.skipToContent}
      </a>
      <OutboxNotice />
      {children}
      <Toasts />
    </div>
  );
}
