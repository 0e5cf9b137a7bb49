import { useState } from "react";
import { limitsText, limitsTyped } from "../../../circuit/limits";
import { messages } from "../../../messages";
import { TextField } from "../../../ui/form";
import type { Book } from "../desk";

const t = messages.bench;

interface Props {
  readonly unit: string;
  readonly book: Book;
  readonly onBook: (book: Book) => void;
}

/** What the book says this reading should be: typed where the window stands, kept with the reading, judged beside what was computed. */
export function BookLimits({ unit, book, onBook }: Props) {
  const [open, setOpen] = useState(book.text !== "");
  const typed = book.text.trim() === "" ? null : limitsTyped(book.text, unit);
  if (!open)
    return (
      <button
        type="button"
        onClick={() => setOpen(true)}
        className="min-h-11 self-start text-sm text-soft underline decoration-line underline-offset-4 hover:text-ink"
      >
        {t.bookOpen}
      </button>
    );
  return (
    <div className="grid grid-cols-2 gap-2">
      <TextField
        label={t.bookLimits}
        value={book.text}
        placeholder="4.95 to 5.05"
        className="readout"
        hint={typed?.ok ? limitsText(typed.limits, unit) : undefined}
        error={typed !== null && !typed.ok ? typed.message : undefined}
        onChange={(event) => onBook({ ...book, text: event.target.value })}
      />
      <TextField
        label={t.bookSource}
        value={book.source}
        placeholder={t.bookSourceHint}
        onChange={(event) => onBook({ ...book, source: event.target.value })}
      />
    </div>
  );
}
