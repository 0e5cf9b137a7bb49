import { useCallback, useEffect, useState } from "react";

const keyOf = (name: string): string => `fox-lamp/typed/${name}`;

function keptUnder<T>(name: string, initial: T): T {
  try {
    const text = sessionStorage.getItem(keyOf(name));
    return text === null ? initial : (JSON.parse(text) as { value: T }).value;
  } catch {
    return initial;
  }
}

/**
 * State of a form that is still there when one looks elsewhere and comes back, or loads the page again; only in this tab.
 * Whoever sends the form sets it back to what it was at first, and nothing is kept.
 *
 * @param name of the form and what it belongs to, such as `drive JOB`
 */
export function useKept<T>(name: string, initial: T): readonly [T, (next: T) => void] {
  const [held, setHeld] = useState(() => ({ name, value: keptUnder(name, initial) }));
  const value = held.name === name ? held.value : keptUnder(name, initial);
  const first = JSON.stringify(initial);
  useEffect(() => {
    try {
      if (JSON.stringify(value) === first) sessionStorage.removeItem(keyOf(name));
      else sessionStorage.setItem(keyOf(name), JSON.stringify({ value }));
    } catch {
      // A full or forbidden store keeps nothing; the form works all the same.
    }
  }, [name, value, first]);
  const set = useCallback((next: T) => setHeld({ name, value: next }), [name]);
  return [value, set];
}
