import type { StoredCapture } from "@fox-lamp/language";
import { useEffect, useState } from "react";
import { messages } from "../../messages";
import { Button } from "../../ui/form";
import { answered, captureService } from "../service";
import { Compare, useOther } from "./Compare";
import type { TraceAt, TracedJob } from "./traced-job";
import { Viewer } from "./Viewer";

const t = messages.traces;

/** A stored capture, fetched by the pieces that are looked at. */
export function StoredTrace({
  job,
  state,
  enter,
  capture,
  at: { stretch, beside },
  nameOf,
}: TracedJob & { capture: string; at: TraceAt; nameOf: (channel: string) => string }) {
  const [stored, setStored] = useState<StoredCapture | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const { options, chosen, setChosen, other } = useOther({ job, state }, capture, stored?.analysis ?? null, beside ?? null);
  const said = state.captures.find((one) => one.capture === capture);
  useEffect(() => {
    let current = true;
    setStored(null);
    setProblem(null);
    answered(captureService().open(job.id, capture))
      .then((found) => current && setStored(found))
      .catch((error: Error) => current && setProblem(error.message));
    return () => {
      current = false;
    };
  }, [job.id, capture]);
  if (problem !== null)
    return (
      <p role="alert" className="m-0 rounded-lg bg-caution px-3 py-2">
        {problem}
      </p>
    );
  if (stored === null) return <p className="m-0 text-soft">{messages.states.loading}</p>;
  const keepKnown = (): void => {
    if (said === undefined) return;
    const { entry: _entry, at: _at, by: _by, ...body } = said;
    enter({ kind: "capture", body: { ...body, known: true } });
  };
  return (
    <div className="grid gap-3">
      <Viewer
        other={other ?? undefined}
        key={`${stretch?.from} ${stretch?.to}`}
        id={capture}
        look={stretch}
        stored={stored}
        circuits={job.circuits}
        nameOf={nameOf}
        marks={state.marks.filter((mark) => mark.capture === capture)}
        onMark={(mark) => enter({ kind: "mark", body: { capture, ...mark } })}
      >
        {said?.known === true ? (
          <span className="text-sm text-calm">✓ {t.knownNow}</span>
        ) : (
          <Button onClick={keepKnown} className="ml-auto">
            {t.known}
          </Button>
        )}
      </Viewer>
      <Compare analysis={stored.analysis} options={options} chosen={chosen} onChoose={setChosen} other={other} nameOf={nameOf} />
    </div>
  );
}
