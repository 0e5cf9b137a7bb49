import { useEffect, useRef } from "react";

/**
 * Calls back whenever the server says that something under a path changed, and once after every time the connection was lost
 * (something may have been missed). The browser opens a lost connection again by itself.
 * @param path of an event stream; null listens to nothing
 */
export function useLive(path: string | null, onChange: () => void): void {
  const change = useRef(onChange);
  change.current = onChange;
  useEffect(() => {
    if (path === null) return;
    const source = new EventSource(path);
    let opened = false;
    source.addEventListener("open", () => {
      if (opened) change.current();
      opened = true;
    });
    source.addEventListener("changed", () => change.current());
    return () => source.close();
  }, [path]);
}
