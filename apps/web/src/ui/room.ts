import { useSyncExternalStore } from "react";

/** From here on columns stand side by side, in the size letters have; the styles say the same. */
const WIDE_REM = 62;

/** Whether there is room for columns side by side: large text on a laptop has as little as a phone. */
export function isWide(): boolean {
  const rem = Number.parseFloat(getComputedStyle(document.documentElement).fontSize) || 16;
  return document.body.clientWidth >= WIDE_REM * rem;
}

function whenChanged(tell: () => void): () => void {
  const observer = new ResizeObserver(tell);
  observer.observe(document.body);
  // The size of letters is written to the root.
  const letters = new MutationObserver(tell);
  letters.observe(document.documentElement, { attributes: true, attributeFilter: ["style"] });
  return () => {
    observer.disconnect();
    letters.disconnect();
  };
}

/** {@link isWide}, as it changes. */
export function useWide(): boolean {
  return useSyncExternalStore(whenChanged, isWide);
}
