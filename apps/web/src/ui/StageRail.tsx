import { STAGES, type Stage } from "@fox-lamp/language";
import { useEffect, useRef } from "react";
import { NavLink } from "react-router";
import { messages } from "../messages";

/** Where each stage of a job is worked on. */
const PAGES: Readonly<Record<Stage, string>> = {
  complaint: "",
  codes: "/codes",
  triage: "/triage",
  bench: "/bench",
  repair: "/repair",
  check: "/check",
  closed: "/report",
};

/** The order of work: what is done is underlined, where one is stands out, what comes later is dim. */
export function StageRail({ job, stage, here }: { job: string; stage: Stage; here: Stage }) {
  const reached = STAGES.indexOf(stage);
  const rail = useRef<HTMLElement>(null);
  // On a phone the rail is wider than the screen: the page one is on stands in sight.
  // biome-ignore lint/correctness/useExhaustiveDependencies: moves when the page changes
  useEffect(() => {
    const current = rail.current?.querySelector<HTMLElement>("[aria-current=step]");
    if (rail.current && current) rail.current.scrollLeft = current.offsetLeft - rail.current.offsetLeft - 40;
  }, [here]);
  return (
    <nav ref={rail} aria-label="Stages" className="flex min-w-0 items-center gap-1 overflow-x-auto">
      {STAGES.map((name, index) => {
        const current = name === here;
        const done = index < reached || stage === "closed";
        const style = current ? "bg-lamp text-on-lamp font-bold" : done ? "text-ink underline decoration-2 underline-offset-8" : "text-soft";
        return (
          <NavLink
            key={name}
            end
            to={`/jobs/${job}${PAGES[name]}`}
            className={`flex min-h-11 items-center whitespace-nowrap rounded-lg px-3 no-underline ${style}`}
            aria-current={current ? "step" : undefined}
          >
            {messages.stages[name]}
            {name === stage && !current && <span className="ml-1.5 size-2 rounded-full bg-lamp" role="img" aria-label={messages.stageNow} />}
          </NavLink>
        );
      })}
    </nav>
  );
}
