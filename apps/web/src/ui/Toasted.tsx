import { useEffect } from "react";
import { Toaster, toast } from "sonner";
import type { Word } from "./word";

interface Props {
  readonly words: readonly Word[];
  /** Called with how many words have been shown. */
  readonly said: (count: number) => void;
}

/** Shows words as they come. */
export function Toasted({ words, said }: Props) {
  useEffect(() => {
    if (words.length === 0) return;
    for (const { kind, text, duration, remedy } of words)
      toast[kind](text, { duration, ...(remedy === null ? {} : { action: { label: remedy.label, onClick: remedy.run } }) });
    said(words.length);
  }, [words, said]);
  return (
    <Toaster
      position="top-center"
      style={{ fontFamily: "inherit" }}
      toastOptions={{ style: { background: "var(--panel)", color: "var(--ink)", borderColor: "var(--lamp)", fontSize: "1rem", fontFamily: "inherit" } }}
    />
  );
}
