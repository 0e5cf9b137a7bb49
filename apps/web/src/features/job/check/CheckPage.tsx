import { capturesAgain, codesAfter, failedReadings } from "@fox-lamp/core";
import { format } from "date-fns";
import { type ReactNode, useState } from "react";
import { messages } from "../../../messages";
import { JobFrame, type Work } from "../shared/JobFrame";
import { CapturesAgain } from "./CapturesAgain";
import { Close } from "./Close";
import { ClearCodes, ReadAgain } from "./CodesAgain";
import { ComplaintGone, Desired, Drive } from "./Drive";
import { Repeats } from "./Repeats";
import { StepCard } from "./StepCard";

const t = messages.check;

interface CheckStep {
  readonly name: string;
  readonly title: string;
  readonly done: boolean;
  /** It may be left out. */
  readonly free?: boolean;
  /** Something of it is still outside: it stays open. */
  readonly bad?: boolean;
  readonly line?: string | undefined;
  readonly body: ReactNode;
}

/** What became of the codes, in a line. */
function codesLine({ state }: Work): string | undefined {
  const { asked, gone, stayed, fresh } = codesAfter(state);
  if (!asked) return undefined;
  if (stayed.length + fresh.length === 0) return t.stayedAway;
  return [gone.length > 0 ? t.codesGone(gone.join(", ")) : "", t.cameBack([...stayed, ...fresh].join(", "))].filter(Boolean).join(" ");
}

/** The check in its order: what is done, and the one step to do now. */
function stepsOf(work: Work): CheckStep[] {
  const { state, steps } = work;
  const isDone = (code: string): boolean => steps.find((step) => step.code === code)?.done ?? true;
  const lastOf = (check: string) => state.verifications.filter((made) => made.check === check).at(-1);
  const failed = failedReadings(state);
  const again = failed.flatMap(({ entry }) => state.verifications.filter(({ of }) => of === entry).at(-1) ?? []);
  const outside = again.filter(({ fits }) => fits === false).length;
  const codes = state.codes.length > 0;
  const captures = capturesAgain(state);
  const taken = captures.flatMap(({ after }) => after ?? []);
  const troubled = taken.filter(({ findings }) => findings.length > 0).length;
  return [
    {
      name: "repeat",
      title: t.repeat,
      done: isDone("repeated"),
      bad: outside > 0,
      line: failed.length === 0 ? t.noRepeat : t.repeatedLine(again.length, failed.length, outside),
      body: <Repeats work={work} />,
    },
    ...(captures.length === 0
      ? []
      : [
          {
            name: "capture",
            title: messages.traces.again,
            done: taken.length === captures.length,
            bad: troubled > 0,
            line: messages.traces.againLine(taken.length, captures.length, troubled),
            body: <CapturesAgain work={work} due={captures} />,
          },
        ]),
    {
      name: "clear",
      title: t.clear,
      done: !codes || isDone("cleared"),
      line: !codes ? t.noCodes : state.cleared === null ? undefined : t.cleared(format(new Date(state.cleared.at), "d MMM HH:mm")),
      body: <ClearCodes work={work} />,
    },
    { name: "drive", title: t.drive, done: isDone("driven"), line: lastOf("drive")?.text, body: <Drive work={work} /> },
    ...(codes ? [{ name: "rescan", title: t.rescan, done: isDone("rescanned"), line: codesLine(work), body: <ReadAgain work={work} /> }] : []),
    { name: "complaint", title: t.complaint, done: isDone("gone"), line: lastOf("complaint")?.text, body: <ComplaintGone work={work} /> },
    { name: "desired", title: t.desired, done: isDone("desired"), free: true, line: lastOf("desired")?.text ?? t.free, body: <Desired work={work} /> },
    { name: "close", title: t.close, done: state.stage === "closed", body: <Close work={work} /> },
  ];
}

/** The check after the repair, one step after the other; and the end of the job. */
function CheckBody(work: Work) {
  const [opened, setOpened] = useState<ReadonlyMap<string, boolean>>(new Map());
  const steps = stepsOf(work);
  const lit = steps.find(({ done, free }) => !done && free !== true)?.name ?? "close";
  // A job that ends otherwise than repaired is closed from anywhere: the last step stays open.
  const isOpen = ({ name, bad }: CheckStep): boolean => opened.get(name) ?? (name === lit || name === "close" || bad === true);
  return (
    <div className="mx-auto max-w-3xl">
      <h1 className="mb-4 text-2xl font-bold">{t.title}</h1>
      <ol className="m-0 list-none space-y-3 p-0">
        {steps.map((step, index) => {
          const { name, title, done, line, body } = step;
          return (
            <StepCard
              key={name}
              number={index + 1}
              title={title}
              done={done}
              lit={name === lit}
              line={line}
              open={isOpen(step)}
              onOpen={(open) => setOpened(new Map([...opened, [name, open]]))}
            >
              {body}
            </StepCard>
          );
        })}
      </ol>
    </div>
  );
}

/** The check after the repair: the failed tests again, codes, a drive, the complaint; and the end of the job. */
export function CheckPage() {
  return <JobFrame here="check">{(work) => <CheckBody {...work} />}</JobFrame>;
}
