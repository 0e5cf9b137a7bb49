import type { Reading } from "@fox-lamp/language";
import { Activity } from "lucide-react";
import { Link } from "react-router";
import { messages } from "../messages";

/** Where the stretch of a trace is that a reading was taken from. */
export function traceAddress(job: string, { id, from, to }: NonNullable<Reading["capture"]>): string {
  return `/jobs/${job}/traces/${id}?from=${Number(from.toFixed(6))}&to=${Number(to.toFixed(6))}`;
}

/** The way from a reading to the stretch of trace it was taken from; nothing for one that was read elsewhere. */
export function TraceLink({ job, reading }: { job: string; reading: Reading }) {
  if (reading.capture === undefined) return null;
  return (
    <Link to={traceAddress(job, reading.capture)} className="mt-1 inline-flex min-h-11 items-center gap-1 text-sm text-soft underline underline-offset-4">
      <Activity size={16} aria-hidden="true" /> {messages.traces.showStretch}
    </Link>
  );
}
