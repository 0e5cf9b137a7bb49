import { STAGES, type Stage } from "@fox-lamp/language";
import { NavLink } from "react-router";
import { messages } from "../messages";

const BEFORE_BENCH: readonly Stage[] = ["complaint", "codes", "triage"];

/** The order of work: what is done is underlined, where one is stands out, what comes later is dim. */
export function StageRail({ job, stage, here }: { job: string; stage: Stage; here: "job" | "bench" }) {
  const reached = STAGES.indexOf(stage);
  return (
    <nav aria-label="Stages" className="flex min-w-0 items-center gap-1 overflow-x-auto">
      {STAGES.map((name, index) => {
        const onBench = name === "bench";
        const current = here === "bench" ? onBench : name === stage && !onBench;
        const done = index < reached || (BEFORE_BENCH.includes(name) && here === "bench");
        const style = current ? "bg-lamp text-on-lamp font-bold" : done ? "text-ink underline decoration-2 underline-offset-8" : "text-soft";
        return (
          <NavLink
            key={name}
            end
            to={onBench ? `/jobs/${job}/bench` : `/jobs/${job}`}
            className={`whitespace-nowrap rounded-lg px-3 py-2 no-underline ${style}`}
            aria-current={current ? "step" : undefined}
          >
            {messages.stages[name]}
          </NavLink>
        );
      })}
    </nav>
  );
}
