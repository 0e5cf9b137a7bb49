import type { KnownCapture } from "@fox-lamp/language";
import { type ReactNode, useCallback, useEffect, useMemo, useState } from "react";
import { useKnownCapturesQuery } from "../../app/api";
import { messages } from "../../messages";
import { Button } from "../../ui/form";
import { channelName } from "../channel-name";
import { answered, captureService } from "../service";
import { BeforeCapture } from "./BeforeCapture";
import { BringIn } from "./BringIn";
import { FreshTrace } from "./FreshTrace";
import { PlaceForm } from "./PlaceForm";
import { pinsOf } from "./placing";
import { ScopeForm } from "./ScopeForm";
import { StoredList } from "./StoredList";
import { StoredTrace } from "./StoredTrace";
import type { TraceAt, TracedJob } from "./traced-job";
import { useFresh } from "./use-fresh";
import { useStoreCapture } from "./use-store-capture";

const t = messages.traces;
const NO_KNOWN: readonly KnownCapture[] = [];

/** Parts that wait on this device are sent whenever the traces are opened, and when there is a connection again. */
function useSendKept(): number {
  const [left, setLeft] = useState(0);
  useEffect(() => {
    const send = (): void =>
      void answered(captureService().send())
        .then((sending) => setLeft(sending.left))
        .catch(() => undefined);
    send();
    window.addEventListener("online", send);
    return () => window.removeEventListener("online", send);
  }, []);
  return left;
}

interface Props extends TracedJob {
  readonly at: TraceAt;
  /** Shows a capture. */
  readonly onGo: (capture: string) => void;
  /** Where a capture has an address of its own; null where it is only shown. */
  readonly addressOf: ((capture: string) => string) | null;
  /** What stands beside the choice of a file. */
  readonly children?: ReactNode;
}

/** The traces of a job: captures brought in or taken from its virtual car, looked at, judged, stored and weighed. */
export function TracesDesk({ job, state, enter, at, onGo, addressOf, children }: Props) {
  const { data: known = NO_KNOWN } = useKnownCapturesQuery(job.id);
  const like = state.captures.find((one) => one.capture === at.again);
  const pins = useMemo(() => pinsOf(job.circuits), [job.circuits]);
  const bringing = useFresh();
  const { fresh, judged, judging, judge, setProblem, putAway } = bringing;
  const [placing, setPlacing] = useState(false);
  const circuits = useMemo(() => job.circuits.map(({ id, title = id }) => ({ id, title })), [job.circuits]);
  const nameOf = useCallback((channel: string): string => channelName(channel, circuits), [circuits]);
  const { store, storing } = useStoreCapture({ job, state, enter }, nameOf);
  const left = useSendKept();
  // What a virtual scope stored is placed already.
  useEffect(() => {
    if (fresh?.channels) void judge(job.circuits, fresh.channels, fresh.setup, fresh.title, known.find(({ same }) => same)?.analysis);
  }, [fresh, judge, job.circuits, known]);
  const keep = async (): Promise<void> => {
    if (fresh === null || judged === null) return;
    const { id } = fresh.read;
    const { refused } = await store(id, judged);
    setProblem(refused);
    if (refused !== null) return;
    putAway();
    onGo(id);
  };
  const shown = fresh === null ? (at.capture ?? (like === undefined ? state.captures.at(-1)?.capture : undefined)) : undefined;
  const unplaced = fresh !== null && fresh.channels === null;
  return (
    <div className="grid min-w-0 gap-4">
      <BringIn job={job.id} bringing={bringing} left={left}>
        {children}
      </BringIn>
      {unplaced && judged !== null && !placing && (
        <Button className="justify-self-start" onClick={() => setPlacing(true)}>
          {t.changePlaces}
        </Button>
      )}
      {unplaced && (
        // Kept while it is folded: what was said is there when it is changed.
        <div hidden={judged !== null && !placing}>
          <PlaceForm
            key={fresh.read.id}
            fresh={fresh}
            pins={pins}
            busy={judging}
            known={known}
            like={like?.setup}
            onJudge={(channels, setup, title, compared) => {
              setPlacing(false);
              void judge(job.circuits, channels, setup, title, compared);
            }}
          />
        </div>
      )}
      {fresh !== null && judged !== null && (
        <FreshTrace
          id={fresh.read.id}
          judged={judged}
          circuits={circuits}
          sheets={job.circuits}
          nameOf={nameOf}
          storing={storing}
          onStore={() => void keep()}
          onPutAway={putAway}
        />
      )}
      <StoredList captures={state.captures} shown={shown} addressOf={addressOf} onShow={onGo} />
      {shown !== undefined && <StoredTrace key={shown} job={job} state={state} enter={enter} capture={shown} at={at} nameOf={nameOf} />}
      {state.captures.length === 0 && fresh === null && <p className="m-0 text-soft">{t.none}</p>}
      {fresh === null && <BeforeCapture circuits={job.circuits} />}
      {job.simulated && fresh === null && (
        <ScopeForm
          key={like?.capture}
          job={job}
          pins={pins}
          like={like}
          onProblem={setProblem}
          onCapture={(samples, rate, channels, title, setup) => void bringing.take(samples, rate, channels, title, setup)}
        />
      )}
    </div>
  );
}
