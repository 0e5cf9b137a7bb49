import type { Reading } from "@fox-lamp/language";
import { Activity } from "lucide-react";
import { Link } from "react-router";
import { messages } from "../messages";

/** Where in which capture a reading was taken. */
export type Stretch = NonNullable<Reading["capture"]>;

/** Where the stretch of a trace is that a reading was taken from. */
export function traceAddress(job: string, { id, from, to }: Stretch): string {
  return `/jobs/${job}/traces/${id}?from=${Number(from.toFixed(6))}&to=${Number(to.toFixed(6))}`;
}

interface Props {
  readonly job: string;
  readonly reading: Reading;
  /** Shows it in place; without it the way leads to the page of the traces. */
  readonly onShow?: ((stretch: Stretch) => void) | undefined;
}

/** The way from a reading to the stretch of trace it was taken from; nothing for one that was read elsewhere. */
export function TraceLink({ job, reading: { capture }, onShow }: Props) {
  if (capture === undefined) return null;
  const look = "mt-1 inline-flex min-h-11 items-center gap-1 text-sm text-soft underline underline-offset-4";
  const what = (
    <>
      <Activity size={16} aria-hidden="true" /> {messages.traces.showStretch}
    </>
  );
  return onShow === undefined ? (
    <Link to={traceAddress(job, capture)} className={look}>
      {what}
    </Link>
  ) : (
    <button type="button" onClick={() => onShow(capture)} className={look}>
      {what}
    </button>
  );
}
