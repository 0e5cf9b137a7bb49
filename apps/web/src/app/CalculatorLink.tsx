import type { OpenedCalculator } from "@fox-lamp/core";
import { Calculator } from "lucide-react";
import { Link } from "react-router";
import { messages } from "../messages";

/** The way from a reading to the calculator that works out what is behind it, its numbers filled in; nothing where there is none. */
export function CalculatorLink({ job, opened }: { job: string; opened: OpenedCalculator | undefined }) {
  if (opened === undefined) return null;
  const query = new URLSearchParams({ ...Object.fromEntries(Object.entries(opened.given).map(([id, value]) => [id, `${value}`])), job });
  return (
    <Link
      to={`/calculators/${opened.calculator}?${query}`}
      className="mt-1 mr-3 inline-flex min-h-11 items-center gap-1 text-sm text-soft underline underline-offset-4"
    >
      <Calculator size={16} aria-hidden="true" /> {messages.shelf.fromReading}
    </Link>
  );
}
