import { useEffect } from "react";
import { useSearchParams } from "react-router";
import type { Bench } from "../use-bench";

/** Takes what a calculator sent to the bench: a value into the field of the test at hand, a window beside its own; then the address forgets it. */
export function useSentNumbers({ test, setText, setBook }: Pick<Bench, "test" | "setText" | "setBook">): void {
  const [query, setQuery] = useSearchParams();
  const [read, expect, from] = [query.get("read"), query.get("expect"), query.get("from")];
  const ready = test !== null;
  // biome-ignore lint/correctness/useExhaustiveDependencies: once, as soon as there is a test
  useEffect(() => {
    if (!ready || (read === null && expect === null)) return;
    if (read !== null) setText(read);
    if (expect !== null) setBook({ text: expect, source: from ?? "" });
    const rest = new URLSearchParams(query);
    for (const name of ["read", "expect", "from"]) rest.delete(name);
    setQuery(rest, { replace: true });
  }, [ready, read, expect]);
}
