import { STAGES, type Stage } from "@fox-lamp/language";
import { ClipboardCheck, FileText, Gauge, ListTree, type LucideIcon, MessageSquareText, ScanText, Wrench } from "lucide-react";
import { NavLink } from "react-router";
import { messages } from "../messages";

/** Where each stage of a job is worked on, and its sign where there is no room for its name. */
const PAGES: Readonly<Record<Stage, { readonly path: string; readonly icon: LucideIcon }>> = {
  complaint: { path: "", icon: MessageSquareText },
  codes: { path: "/codes", icon: ScanText },
  triage: { path: "/triage", icon: ListTree },
  bench: { path: "/bench", icon: Gauge },
  repair: { path: "/repair", icon: Wrench },
  check: { path: "/check", icon: ClipboardCheck },
  closed: { path: "/report", icon: FileText },
};

/** The page of a job on which a stage is worked on. */
export function stagePath(job: string, stage: Stage): string {
  return `/jobs/${job}${PAGES[stage].path}`;
}

/** The order of work: what is done is underlined, where one is stands out, what comes later is dim. On a phone signs stand for the others' names. */
export function StageRail({ job, stage, here }: { job: string; stage: Stage; here: Stage }) {
  const reached = STAGES.indexOf(stage);
  return (
    <nav aria-label="Stages" className="flex min-w-0 flex-wrap items-center justify-between gap-x-0 md:justify-start md:gap-x-1">
      {STAGES.map((name, index) => {
        const current = name === here;
        const done = index < reached || stage === "closed";
        const style = current ? "bg-lamp text-on-lamp font-bold" : done ? "text-ink underline decoration-2 underline-offset-8" : "text-soft";
        const { icon: Icon } = PAGES[name];
        return (
          <NavLink
            key={name}
            end
            to={stagePath(job, name)}
            title={messages.stages[name]}
            className={`relative flex min-h-11 min-w-11 items-center justify-center whitespace-nowrap rounded-lg px-1.5 text-sm no-underline md:px-3 md:text-base ${style}`}
            aria-current={current ? "step" : undefined}
          >
            {!current && <Icon size={20} aria-hidden="true" className={`md:hidden ${done ? "border-b-2 border-current" : ""}`} />}
            <span className={current ? "" : "sr-only md:not-sr-only"}>{messages.stages[name]}</span>
            {name === stage && !current && (
              <span className="absolute right-1 top-2 size-2 rounded-full bg-lamp md:static md:ml-1.5" role="img" aria-label={messages.stageNow} />
            )}
          </NavLink>
        );
      })}
    </nav>
  );
}
