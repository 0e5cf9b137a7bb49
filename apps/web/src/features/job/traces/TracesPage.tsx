import type { KnownCapture, StoredCapture } from "@fox-lamp/language";
import { Upload } from "lucide-react";
import { useCallback, useEffect, useMemo, useState } from "react";
import { Link, useNavigate, useParams, useSearchParams } from "react-router";
import { useKnownCapturesQuery } from "../../../app/api";
import { namedInTurn } from "../../../app/reading-names";
import { messages } from "../../../messages";
import { pictureOf } from "../../../trace/picture";
import { answered, captureService } from "../../../trace/service";
import { FilePick } from "../../../ui/FilePick";
import { Block, Button } from "../../../ui/form";
import { toast } from "../../../ui/toast";
import { channelName } from "../shared/channel-name";
import { JobFrame, type Work } from "../shared/JobFrame";
import { useStorePhoto } from "../shared/use-store-photo";
import { BeforeCapture } from "./BeforeCapture";
import { inNames } from "./Findings";
import { FreshTrace } from "./FreshTrace";
import { PlaceForm } from "./PlaceForm";
import { pinsOf } from "./placing";
import { ScopeForm } from "./ScopeForm";
import { StoredTrace } from "./StoredTrace";
import { markedOn, stretchesOf, worthSeeing } from "./stretches";
import { TimeForm } from "./TimeForm";
import { useFresh } from "./use-fresh";

const t = messages.traces;
const NO_KNOWN: readonly KnownCapture[] = [];
/** A capture of several leads is set up once: the first reading of it takes this long, minutes. */
const SETUP_MINUTES = 3;

/** Parts that wait on this device are sent whenever the page is opened, and when there is a connection again. */
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

function Traces(work: Work) {
  const { job, state, enter } = work;
  const { capture } = useParams();
  const navigate = useNavigate();
  const [search] = useSearchParams();
  const { data: known = NO_KNOWN } = useKnownCapturesQuery(job.id);
  /** A capture that is taken again after a repair: its channels and its state are proposed. */
  const like = state.captures.find((one) => one.capture === search.get("again"));
  const pins = useMemo(() => pinsOf(job.circuits), [job.circuits]);
  const { fresh, judged, reading, judging, doubted, timeless, problem, setProblem, open, stop, take, judge, putAway } = useFresh();
  const [storing, setStoring] = useState(false);
  const [placing, setPlacing] = useState(false);
  const photo = useStorePhoto(work);
  const left = useSendKept();
  const circuits = useMemo(() => job.circuits.map(({ id, title = id }) => ({ id, title })), [job.circuits]);
  const nameOf = useCallback((channel: string): string => channelName(channel, circuits), [circuits]);
  // What a virtual scope stored is placed already.
  useEffect(() => {
    if (fresh?.channels) void judge(job.circuits, fresh.channels, fresh.setup, fresh.title, known.find(({ same }) => same)?.analysis);
  }, [fresh, judge, job.circuits, known]);

  /** The trace as the record and the report show it: where it is worth seeing. */
  const keepPicture = async (id: string, stored: StoredCapture): Promise<void> => {
    const { rate, start, analysis } = stored;
    const marked = markedOn(stored, stretchesOf(analysis));
    const { from, to } = worthSeeing(analysis, start + stored.length / rate);
    const picture = await pictureOf(id, stored, nameOf, marked, { from: from - start, to: to - start });
    if (picture === null) return;
    const told = analysis.findings.find(({ code }) => code === "first-to-fail") ?? analysis.findings[0];
    const caption = t.pictureOf(stored.title, told === undefined ? undefined : inNames(told.sentence, told.channel, nameOf));
    await photo.store(new File([picture.blob], `${stored.title}.png`, { type: "image/png" }), caption);
  };
  const store = async (): Promise<void> => {
    if (fresh === null || judged === null) return;
    setStoring(true);
    const { id } = fresh.read;
    const { stored, readings } = judged;
    try {
      const sending = await answered(captureService().store(job.id, id, stored));
      if (sending.refused !== null) {
        setProblem(sending.refused);
        return;
      }
      const findings = stored.analysis.findings.map(({ sentence }) => sentence);
      const named = namedInTurn(
        readings.map(({ channel, from, to, reading: one }) => ({ ...one, capture: { id, channel, from, to } })),
        state.readings,
      );
      enter(
        {
          kind: "capture",
          body: {
            capture: id,
            title: stored.title,
            seconds: stored.length / stored.rate,
            channels: stored.channels.map(({ name }) => name),
            setup: stored.setup,
            findings,
          },
        },
        ...named.map((one, index) => ({ kind: "reading" as const, body: { reading: one, minutes: index === 0 ? SETUP_MINUTES : 0 } })),
      );
      await keepPicture(id, stored);
      toast.success(sending.left > 0 ? t.waiting(sending.left) : t.storedNow);
      putAway();
      navigate(`/jobs/${job.id}/traces/${id}`);
    } catch (error) {
      setProblem((error as Error).message);
    } finally {
      setStoring(false);
    }
  };
  const shown = fresh === null ? (capture ?? (like === undefined ? state.captures.at(-1)?.capture : undefined)) : undefined;
  return (
    <div className="grid gap-4">
      <div className="flex flex-wrap items-end justify-between gap-3">
        <div>
          <h1 className="m-0 text-2xl font-bold">{t.title}</h1>
          <p className="m-0 text-soft">{t.lead}</p>
        </div>
        <div className="flex items-center gap-3">
          {reading !== null && (
            <>
              <progress max={1} value={reading.share} aria-label={t.reading(reading.name, Math.round(100 * reading.share))} className="w-32" />
              <Button onClick={stop}>{t.stop}</Button>
            </>
          )}
          <FilePick label={t.open} accept=".csv,.txt,.wav,text/csv,text/plain,audio/wav" disabled={reading !== null} onFile={(file) => void open(file)}>
            <Upload size={18} aria-hidden="true" /> {t.open}
          </FilePick>
        </div>
      </div>
      {problem !== null && (
        <p role="alert" className="m-0 rounded-lg bg-caution px-3 py-2">
          {problem}
        </p>
      )}
      {doubted !== null && (
        <div role="alert" className="flex flex-wrap items-center gap-3 rounded-lg bg-caution px-3 py-2">
          <span className="flex-1">{t.log(doubted.name)}</span>
          <Link to={`/jobs/${job.id}/codes`}>{t.logYes}</Link>
          <Button onClick={() => void open(doubted, true)}>{t.logNo}</Button>
        </div>
      )}
      {timeless !== null && <TimeForm key={timeless.file.name} timeless={timeless} onSaid={(said) => void open(timeless.file, true, said)} />}
      {fresh?.read.notes.map((note) => (
        <p key={note} className="m-0 rounded-lg border border-line px-3 py-2 text-sm text-soft">
          {note}
        </p>
      ))}
      {left > 0 && <p className="m-0 text-sm text-soft">{t.waiting(left)}</p>}
      {fresh !== null && fresh.channels === null && judged !== null && !placing && (
        <Button className="justify-self-start" onClick={() => setPlacing(true)}>
          {t.changePlaces}
        </Button>
      )}
      {fresh !== null && fresh.channels === null && (
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
          onStore={() => void store()}
          onPutAway={putAway}
        />
      )}
      {state.captures.length > 0 && (
        <Block title={t.stored}>
          <ul className="m-0 flex list-none flex-wrap gap-2 p-0">
            {state.captures.map(({ capture: id, title, seconds, findings, known }) => (
              <li key={id}>
                <Link
                  to={`/jobs/${job.id}/traces/${id}`}
                  aria-current={id === shown ? "page" : undefined}
                  className={`grid min-h-11 content-center rounded-xl border px-3 py-1 no-underline ${id === shown ? "border-lamp" : "border-edge"}`}
                >
                  <span className="text-ink">{known ? t.knownGood(title) : title}</span>
                  <span className="text-sm text-soft">{t.stands(seconds, findings.length)}</span>
                </Link>
              </li>
            ))}
          </ul>
        </Block>
      )}
      {shown !== undefined && <StoredTrace key={shown} {...work} capture={shown} nameOf={nameOf} />}
      {state.captures.length === 0 && fresh === null && <p className="m-0 text-soft">{t.none}</p>}
      {fresh === null && <BeforeCapture circuits={job.circuits} />}
      {job.simulated && fresh === null && (
        <ScopeForm
          key={like?.capture}
          job={job}
          pins={pins}
          like={like}
          onProblem={setProblem}
          onCapture={(samples, rate, channels, title, setup) => void take(samples, rate, channels, title, setup)}
        />
      )}
    </div>
  );
}

/** The traces of a job: captures brought in or taken from its virtual car, looked at, judged, stored and weighed. */
export function TracesPage() {
  return <JobFrame here="bench">{(work) => <Traces {...work} />}</JobFrame>;
}
