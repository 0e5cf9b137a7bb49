import { BookOpen } from "lucide-react";
import { Link } from "react-router";

interface Props {
  /** Which card. */
  readonly card: string;
  readonly words: string;
  /** The job and circuit it is opened from: the card draws them, and leads back. */
  readonly job?: string | undefined;
  readonly circuit?: string | undefined;
}

/** The way from a step to the card that matters there. */
export function CardLink({ card, words, job, circuit }: Props) {
  const from = new URLSearchParams({ ...(job === undefined ? {} : { job }), ...(circuit === undefined ? {} : { circuit }) });
  return (
    <Link
      to={`/cards/${card}${from.size === 0 ? "" : `?${from}`}`}
      className="inline-flex min-h-11 items-center gap-1.5 text-sm text-soft underline underline-offset-4"
    >
      <BookOpen size={16} aria-hidden="true" /> {words}
    </Link>
  );
}
