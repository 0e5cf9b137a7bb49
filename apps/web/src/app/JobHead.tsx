import type { JobDetail, Stage } from "@fox-lamp/language";
import type { ReactNode } from "react";
import { messages } from "../messages";
import { StageRail } from "../ui/StageRail";
import { vehicleName } from "../ui/vehicle";
import { AccountMenu, Brand, ShelfButton, ThemeButton } from "./shell";

/** Circuits named in the head: of more than these the first stand for all. */
const MOST_NAMED = 3;

/** A job of many circuits by its first ones and how many more there are; its whole title stands behind it. */
function shortTitle(title: string): string {
  const circuits = title.split(", ");
  if (circuits.length <= MOST_NAMED) return title;
  const named = circuits.slice(0, MOST_NAMED - 1);
  return messages.shell.andMore(named.join(", "), circuits.length - named.length);
}

interface Props {
  readonly job: Pick<JobDetail, "id" | "vehicle" | "title">;
  readonly stage: Stage;
  readonly here: Stage;
  /** What else this page has in its head. */
  readonly children?: ReactNode;
}

/** The head of a job's pages: which vehicle, which job, the order of work. Nothing of it is cut away: it takes a second line instead. */
export function JobHead({ job, stage, here, children }: Props) {
  return (
    <header className="flex flex-wrap items-center gap-x-4 gap-y-0.5 border-b border-line px-3 py-1 print:hidden lg:flex-nowrap lg:px-5 lg:py-1.5">
      <Brand />
      <p className="m-0 min-w-0 flex-1 leading-tight [overflow-wrap:anywhere] line-clamp-4 lg:order-3 lg:line-clamp-3 lg:text-right" title={job.title}>
        <span className="font-bold">{vehicleName(job.vehicle)}</span> <span className="readout whitespace-nowrap text-sm">{job.vehicle.plate}</span>{" "}
        <span className="text-sm text-soft lg:block">{shortTitle(job.title)}</span>
      </p>
      <span className="flex items-center lg:order-4 lg:gap-1">
        {children}
        <ShelfButton />
        <ThemeButton />
        <AccountMenu roomy={false} />
      </span>
      <div className="w-full min-w-0 lg:order-2 lg:w-auto">
        <StageRail job={job.id} stage={stage} here={here} />
      </div>
    </header>
  );
}
