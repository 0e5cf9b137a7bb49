import { type ComponentType, useEffect, useState } from "react";
import type { Remedy, Word } from "./word";

const USUAL_MS = 4000;
/** A word that can be acted on stays long enough to be read and reached with a glove on. */
const REMEDY_MS = 10_000;

let show: ((word: Word) => void) | null = null;
const waiting: Word[] = [];

function say(kind: Word["kind"]): (text: string, options?: { readonly duration?: number; readonly remedy?: Remedy }) => void {
  return (text, { duration, remedy = null } = {}) => {
    const word = { kind, text, duration: duration ?? (remedy === null ? USUAL_MS : REMEDY_MS), remedy };
    if (show === null) waiting.push(word);
    else show(word);
  };
}

/** Says shortly what just happened; what shows it is loaded with the first word. */
export const toast = { success: say("success"), error: say("error") };

/** Where words are shown. */
export function Toasts() {
  const [words, setWords] = useState<readonly Word[]>([]);
  const [Shown, setShown] = useState<ComponentType<{ words: readonly Word[]; said: (count: number) => void }> | null>(null);
  useEffect(() => {
    show = (word) => setWords((before) => [...before, word]);
    if (waiting.length > 0) setWords((before) => [...before, ...waiting.splice(0)]);
    return () => {
      show = null;
    };
  }, []);
  const wanted = words.length > 0;
  useEffect(() => {
    if (wanted) void import("./Toasted").then(({ Toasted }) => setShown(() => Toasted));
  }, [wanted]);
  return Shown === null ? null : <Shown words={words} said={(count) => setWords((before) => before.slice(count))} />;
}
