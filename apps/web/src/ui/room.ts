import { useSyncExternalStore } from "react";

/** From here on columns stand side by side, in the size letters have; the styles say the same. */
const WIDE_REM = 62;

/** Narrower than this is a phone's screen. */
const PHONE_REM = 40;

/** The width there is, in the size letters have. */
function roomRem(): number {
  return document.body.clientWidth / (Number.parseFloat(getComputedStyle(document.documentElement).fontSize) || 16);
}

/** Whether there is room for columns side by side: large text on a laptop has as little as a phone. */
function isWide(): boolean {
  return roomRem() >= WIDE_REM;
}

/** Whether digits are put in by touching: a phone, or fingers on anything that is not laid out wide. */
function isTouched(): boolean {
  return !isWide() && (roomRem() < PHONE_REM || matchMedia("(pointer: coarse)").matches);
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

/** Whether there is room for columns side by side, as it changes. */
export function useWide(): boolean {
  return useSyncExternalStore(whenChanged, isWide);
}

/** Whether a keypad belongs on the screen, as it changes. */
export function useKeypad(): boolean {
  return useSyncExternalStore(whenChanged, isTouched);
}
