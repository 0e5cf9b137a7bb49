import type { StoredCapture } from "@fox-lamp/language";
import { useEffect, useState } from "react";
import { useSearchParams } from "react-router";
import { messages } from "../../../messages";
import { answered, captureService } from "../../../trace/service";
import { Button } from "../../../ui/form";
import type { Work } from "../shared/JobFrame";
import { Compare, useOther } from "./Compare";
import { Viewer } from "./Viewer";

const t = messages.traces;

/** A stored capture, fetched by the pieces that are looked at. */
export function StoredTrace({
  job,
  state,
  enter,
  capture,
  nameOf,
}: Pick<Work, "job" | "state" | "enter"> & { capture: string; nameOf: (channel: string) => string }) {
  const [search] = useSearchParams();
  const [lookFrom, lookTo] = [search.get("from"), search.get("to")];
  const [stored, setStored] = useState<StoredCapture | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const { options, chosen, setChosen, other } = useOther({ job, state }, capture, stored?.analysis ?? null, search.get("with"));
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
        key={`${lookFrom} ${lookTo}`}
        id={capture}
        look={lookFrom === null || lookTo === null ? undefined : { from: Number(lookFrom), to: Number(lookTo) }}
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
