import { type RefObject, useEffect, useRef } from "react";

/** Digits anywhere on the page start an entry. */
export function useDigits(input: RefObject<HTMLInputElement | null>, onKey: (key: string) => void): void {
  const latest = useRef(onKey);
  latest.current = onKey;
  useEffect(() => {
    const startEntry = (event: KeyboardEvent): void => {
      const { target } = event;
      const typing = target instanceof HTMLElement && (target.matches("input, select, textarea") || target.isContentEditable);
      if (typing || event.ctrlKey || event.metaKey || event.altKey || !/^[\d.,-]$/u.test(event.key) || !input.current) return;
      if (document.querySelector("[role=dialog]") !== null) return;
      event.preventDefault();
      input.current.focus();
      latest.current(event.key);
    };
    window.addEventListener("keydown", startEntry);
    return () => window.removeEventListener("keydown", startEntry);
  }, [input]);
}
