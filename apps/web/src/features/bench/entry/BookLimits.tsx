import { useState } from "react";
import type { OnShelf, ShelfLimits } from "../../../app/use-shelf-limits";
import { limitsText, limitsTyped } from "../../../circuit/limits";
import { messages } from "../../../messages";
import { TextField } from "../../../ui/form";
import type { Book } from "../desk";

const t = messages.bench;

interface Props {
  readonly unit: string;
  readonly book: Book;
  /** What the shop's shelf says of this reading. */
  readonly shelf?: OnShelf | null;
  readonly onBook: (book: Book) => void;
}

/** The shelf's limits of this reading, the one that is used first, and what it means that they differ. */
function LimitsOnShelf({ shelf, book, onBook }: { shelf: ShelfLimits; book: Book; onBook: (book: Book) => void }) {
  const typed = book.text.trim() !== "";
  return (
    <div className="grid gap-1 text-sm">
      <p className="m-0 text-soft">{messages.shelfLimits.heading}</p>
      <p className="readout m-0">
        {shelf.used.words} {!typed && book.withoutShelf !== true && <span className="text-lamp">{messages.shelfLimits.used}</span>}
      </p>
      {shelf.others.map((words) => (
        <p key={words} className="readout m-0 text-soft">
          {words}
        </p>
      ))}
      {shelf.consequences.map((sentence) => (
        <p key={sentence} className="m-0 rounded-lg bg-caution px-3 py-2">
          {sentence}
        </p>
      ))}
      {!typed && (
        <label className="flex min-h-11 items-center gap-2 text-soft">
          <input
            type="checkbox"
            checked={book.withoutShelf !== true}
            onChange={(event) => onBook({ ...book, withoutShelf: !event.target.checked })}
            className="size-4 accent-[var(--lamp)]"
          />
          {messages.shelfLimits.keep}
        </label>
      )}
    </div>
  );
}

/** What the book says this reading should be: typed where the window stands, kept with the reading, judged beside what was computed. */
export function BookLimits({ unit, book, shelf = null, onBook }: Props) {
  const [asked, setOpen] = useState(false);
  const open = asked || book.text !== "";
  const typed = book.text.trim() === "" ? null : limitsTyped(book.text, unit);
  const onShelf = (
    <>
      {shelf?.limits && <LimitsOnShelf shelf={shelf.limits} book={book} onBook={onBook} />}
      {shelf?.known.map((words) => (
        <p key={words} className="readout m-0 text-sm text-soft">
          {words}
        </p>
      ))}
    </>
  );
  if (!open)
    return (
      <>
        {onShelf}
        <button
          type="button"
          onClick={() => setOpen(true)}
          className="min-h-11 self-start text-sm text-soft underline decoration-line underline-offset-4 hover:text-ink"
        >
          {t.bookOpen}
        </button>
      </>
    );
  return (
    <>
      {onShelf}
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
    </>
  );
}
