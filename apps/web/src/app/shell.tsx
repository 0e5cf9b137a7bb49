import { Moon, SlidersHorizontal, Sun } from "lucide-react";
import { Link, Outlet } from "react-router";
import { Toaster } from "sonner";
import { messages } from "../messages";
import { useShopQuery } from "./api";
import { discarded } from "./outbox";
import { personChosen, themeToggled } from "./settings";
import { useAppDispatch, useAppSelector } from "./store";
import { usePerson } from "./use-job";

/** The brand: a lantern with two ears. */
export function Brand() {
  return (
    <Link to="/" className="flex items-center gap-2.5 rounded-md font-bold text-ink no-underline">
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
      className="grid size-11 place-items-center rounded-lg text-soft hover:text-ink"
      aria-label={label}
      title={label}
      onClick={() => dispatch(themeToggled())}
    >
      {theme === "night" ? <Sun size={20} /> : <Moon size={20} />}
    </button>
  );
}

export function SettingsLink() {
  return (
    <Link
      to="/settings"
      className="grid size-11 place-items-center rounded-lg text-soft hover:text-ink"
      aria-label={messages.settings.title}
      title={messages.settings.title}
    >
      <SlidersHorizontal size={20} aria-hidden="true" />
    </Link>
  );
}

export function PersonSelect() {
  const dispatch = useAppDispatch();
  const { data } = useShopQuery();
  const person = usePerson();
  if (!data || data.people.length === 0) return null;
  return (
    <label className="hidden items-center gap-2 text-sm text-soft md:flex">
      {messages.shell.workingAs}
      <select
        value={person}
        onChange={(event) => dispatch(personChosen(event.target.value))}
        className="h-9 rounded-md border border-line bg-panel px-2 text-ink"
      >
        {data.people.map(({ id, name }) => (
          <option key={id}>{name}</option>
        ))}
      </select>
    </label>
  );
}

function OutboxNotice() {
  const dispatch = useAppDispatch();
  const { waiting, failing, refused } = useAppSelector((state) => state.outbox);
  if (!failing || waiting.length === 0) return null;
  return (
    <div role="status" className="flex flex-wrap items-center gap-3 border-b border-line bg-caution px-4 py-2 text-sm">
      {refused === null ? messages.shell.unsaved(waiting.length) : messages.shell.refused(refused)}
      {refused !== null && (
        <button type="button" className="rounded-md border border-line px-3 py-1" onClick={() => dispatch(discarded())}>
          {messages.shell.discard}
        </button>
      )}
    </div>
  );
}

/** What surrounds every page. */
export function Shell() {
  return (
    <div className="flex min-h-full flex-col">
      <a href="#content" className="sr-only focus:not-sr-only focus:absolute focus:z-50 focus:bg-panel focus:p-3">
        {messages.shell.skipToContent}
      </a>
      <OutboxNotice />
      <Outlet />
      <Toaster position="top-center" />
    </div>
  );
}
