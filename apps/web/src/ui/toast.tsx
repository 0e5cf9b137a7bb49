import { type ComponentType, useEffect, useState } from "react";

/** A short word on what just happened. */
interface Word {
  readonly kind: "success" | "error";
  readonly text: string;
  /** Milliseconds it stays. */
  readonly duration: number;
}
const USUAL_MS = 4000;

let show: ((word: Word) => void) | null = null;
const waiting: Word[] = [];

function say(kind: Word["kind"]): (text: string, options?: { readonly duration: number }) => void {
  return (text, options) => {
    const word = { kind, text, duration: options?.duration ?? USUAL_MS };
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
