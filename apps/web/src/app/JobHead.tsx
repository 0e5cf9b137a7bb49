import type { Stage } from "@fox-lamp/language";
import { StageRail } from "../ui/StageRail";
import { AccountMenu, Brand, ThemeButton } from "./shell";

/** The head of a job's pages: the stages, under the brand where the screen is narrow. */
export function JobHead({ job, stage, here }: { job: string; stage: Stage; here: Stage }) {
  return (
    <header className="flex flex-wrap items-center gap-x-5 border-b border-line px-4 py-1.5 print:hidden lg:px-6">
      <Brand />
      <div className="order-last w-full min-w-0 md:order-none md:w-auto md:flex-1">
        <StageRail job={job} stage={stage} here={here} />
      </div>
      <span className="ml-auto flex items-center gap-1">
        <ThemeButton />
        <AccountMenu />
      </span>
    </header>
  );
}
