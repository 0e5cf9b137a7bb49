import { circuitRules, condemnedUnits, formatPercent, provenUnits, tasksOf, unitKind } from "@fox-lamp/core";
import { ArrowRight } from "lucide-react";
import { Link, useNavigate } from "react-router";
import { namerOf } from "../../../circuit/names-of";
import { messages } from "../../../messages";
import { Block, Button } from "../../../ui/form";
import { JobFrame } from "../shared/JobFrame";
import { Photos } from "../shared/Photos";
import { Gate } from "./Gate";
import { Locate } from "./Locate";
import { Repair } from "./Repair";
import { TaskRow } from "./TaskRow";

const t = messages.repair;

/** Locate, repair, and what must be done before the check. */
export function RepairPage() {
  const navigate = useNavigate();
  return (
    <JobFrame here="repair">
      {(work) => {
        const { job, state, shop, enter } = work;
        const nameOf = namerOf(job.circuits);
        const decided = state.decisions.length > 0;
        const last = state.decisions.filter(({ unit }) => typeof unit === "string").at(-1);
        const verdicts = provenUnits({ decisions: state.decisions, located: [] });
        const units = verdicts.length > 0 ? verdicts.flat() : condemnedUnits({ decisions: state.decisions, located: [] });
        const tasks = tasksOf(job.circuits, state, shop?.settings ?? null, circuitRules.cleanable);
        const open = tasks.filter(({ done }) => !done).length;
        const along = units.some((unit) => ["wire", "contact", "ground"].includes(unitKind(unit)));
        const toCheck = (): void => {
          if (state.stage !== "check") enter({ kind: "stage", body: { stage: "check" } });
          void navigate(`/jobs/${job.id}/check`);
        };
        return (
          <div className="grid gap-5 lg:grid-cols-[1fr_24rem]">
            <div className="min-w-0 space-y-4">
              <h1 className="text-2xl font-bold">{t.title}</h1>
              {!decided && <Gate work={work} />}
              {decided && (
                <Block title={t.condemned}>
                  {units.length === 0 && <p className="m-0 text-lg font-bold">{messages.bench.nothingWrong}</p>}
                  {(verdicts.length > 0 ? verdicts : units.length > 0 ? [units] : []).map((group) => (
                    <p key={group.join()} className="m-0 text-lg font-bold">
                      {group.map(nameOf).join(" or ")}
                    </p>
                  ))}
                  <p className="m-0 text-sm text-soft">
                    {last?.decision === "override" ? messages.bench.overridden : null}
                    {last?.probability === undefined ? null : <span className="readout"> {formatPercent(last.probability)}</span>}
                  </p>
                  <Link to={`/jobs/${job.id}/proof`} className="text-sm text-ink underline decoration-lamp underline-offset-4">
                    {messages.bench.proofPage}
                  </Link>
                </Block>
              )}
              {decided && along && <Locate work={work} units={units} />}
              {job.circuits.length > 0 && <Repair key={state.located.at(-1)?.entry ?? "none"} work={work} units={units} />}
            </div>
            <div className="space-y-4">
              <Block title={t.tasks}>
                {tasks.length === 0 && <p className="m-0 text-soft">{t.noTasks}</p>}
                <ul className="m-0 list-none p-0">
                  {tasks.map((task) => (
                    <TaskRow key={task.id} task={task} work={work} />
                  ))}
                </ul>
                {(decided || state.repairs.length > 0) && (
                  <Button
                    weight="next"
                    disabled={open > 0 || (units.length > 0 && state.repairs.length === 0)}
                    onClick={toCheck}
                    className="mt-3 flex w-full items-center justify-center gap-2"
                  >
                    {t.toCheck} <ArrowRight size={18} aria-hidden="true" />
                  </Button>
                )}
                {open > 0 && <p className="mb-0 mt-2 text-sm text-soft">{t.openTasks(open)}</p>}
              </Block>
              <Photos {...work} />
            </div>
          </div>
        );
      }}
    </JobFrame>
  );
}
