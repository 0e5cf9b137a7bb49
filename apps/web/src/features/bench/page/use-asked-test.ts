import { measurementOf } from "@fox-lamp/core";
import type { Measurement } from "@fox-lamp/language";
import { useEffect, useMemo, useRef } from "react";
import { useSearchParams } from "react-router";
import { ASKED_TEST } from "../../../circuit/asked-test";
import { useOwnTest } from "../../../circuit/use-analysis";
import type { Bench } from "../use-bench";

/** What is measured where and how, as a text that is the same for the same test. */
function keyOf({ circuit, meter, red, black, setup, unit, record }: Measurement): string {
  return JSON.stringify([circuit, meter, red, black ?? null, Object.entries(setup ?? {}).sort(), unit ?? null, record ?? null]);
}

function measurementIn(text: string | null): Measurement | null {
  if (text === null) return null;
  try {
    const parsed: unknown = JSON.parse(text);
    return typeof parsed === "object" && parsed !== null && "meter" in parsed && "red" in parsed ? (parsed as Measurement) : null;
  } catch {
    return null;
  }
}

/** Puts the test on the bench that its address asks for, once the advice is there; the address is then a plain one again. */
export function useAskedTest({ tests, analysis, diagnosed, choose, setOwnScene }: Bench): void {
  const [query, setQuery] = useSearchParams();
  const text = query.get(ASKED_TEST);
  const asked = useMemo(() => measurementIn(text), [text]);
  const offered = asked === null ? undefined : tests.find((test) => keyOf(measurementOf(test)) === keyOf(asked));
  const own = useOwnTest(analysis === null || offered !== undefined ? null : diagnosed, asked);
  // The address changes when there is time for it; until then the test is not put there again.
  const answered = useRef<string | null>(null);
  useEffect(() => {
    if (text === null || answered.current === text || analysis === null || (asked !== null && offered === undefined && own === null)) return;
    answered.current = text;
    if (offered !== undefined) choose(offered.test);
    else if (own?.ok) setOwnScene({ test: own.test, engineering: own.engineering, volts: own.volts });
    setQuery(
      (now) => {
        now.delete(ASKED_TEST);
        return now;
      },
      { replace: true },
    );
  }, [text, asked, analysis, offered, own, choose, setOwnScene, setQuery]);
}
