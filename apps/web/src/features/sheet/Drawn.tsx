import { useEffect, useRef } from "react";
import { CircuitDrawing, UNDIAGNOSED } from "../../circuit/drawing/CircuitDrawing";
import { messages } from "../../messages";
import { Block } from "../../ui/form";
import type { DraftState } from "./use-draft";

/** The circuit as it is typed; while it cannot be drawn it stays as it was, with what is wrong beneath. @param tried what is missing is said, too */
export function Drawn({ state: { views, problem, problems }, tried }: { state: DraftState; tried: boolean }) {
  const last = useRef(views);
  useEffect(() => {
    if (views !== null) last.current = views;
  }, [views]);
  const drawn = views ?? last.current;
  const shown = drawn?.at(-1);
  return (
    <Block title={messages.sheet.drawn}>
      {drawn && shown && (
        <CircuitDrawing
          circuit={shown}
          circuits={drawn}
          diagnosis={UNDIAGNOSED}
          test={null}
          healthy={undefined}
          measured={new Map()}
          selected={null}
          onSelect={() => undefined}
        />
      )}
      {problem !== null && (tried || problems["id"] === undefined) && (
        <p role="alert" className="m-0 rounded-lg bg-caution px-3 py-2 text-sm">
          {problem}
        </p>
      )}
    </Block>
  );
}
