import { useEffect, useRef } from "react";

/** What the server says of a change: the job's latest sequence number; null where it only says to look again. */
export type Changed = { readonly seq?: number } | null;

/** What an event says of a change; null where it says nothing that is understood. */
export function changedIn(data: unknown): Changed {
  try {
    const said: unknown = JSON.parse(String(data));
    return typeof said === "object" && said !== null && "seq" in said && typeof said.seq === "number" ? { seq: said.seq } : null;
  } catch {
    return null;
  }
}

/**
 * Calls back whenever the server says that something under a path changed, and once after every time the connection was lost
 * (something may have been missed). The browser opens a lost connection again by itself.
 * @param path of an event stream; null listens to nothing
 */
export function useLive(path: string | null, onChange: (changed: Changed) => void): void {
  const change = useRef(onChange);
  change.current = onChange;
  useEffect(() => {
    if (path === null) return;
    const source = new EventSource(path);
    let opened = false;
    source.addEventListener("open", () => {
      if (opened) change.current(null);
      opened = true;
    });
    source.addEventListener("changed", (event) => change.current(changedIn(event.data)));
    return () => source.close();
  }, [path]);
}
