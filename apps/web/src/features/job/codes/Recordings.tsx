import { captureLayout, findingsOf, kindOfFile } from "@fox-lamp/core";
import type { Recording } from "@fox-lamp/language";
import { AlertTriangle, Upload } from "lucide-react";
import { lazy, Suspense, useEffect, useState } from "react";
import { Link } from "react-router";
import { v7 as uuidv7 } from "uuid";
import { reasonOf, useLazyRecordingQuery, usePutRecordingMutation, useScanMutation } from "../../../app/api";
import { messages } from "../../../messages";
import { FilePick } from "../../../ui/FilePick";
import { Block, Button, Chip } from "../../../ui/form";
import { figure } from "../shared/codes-text";
import type { Work } from "../shared/JobFrame";
import { recordingIn } from "./log-csv";

const t = messages.codes;
const RecordingChart = lazy(() => import("./RecordingChart"));
/** Channels shown at first; more are a touch away. */
const FIRST_SHOWN = 3;

/** Bytes of a file that tell what it is. */
const HEAD_BYTES = 65_536;

/** Whether a file is a scope's capture: the rules for slow data would say nothing true of it. */
async function isScope(file: File): Promise<boolean> {
  try {
    return kindOfFile(captureLayout(new Uint8Array(await file.slice(0, HEAD_BYTES).arrayBuffer()))) === "scope";
  } catch {
    return false;
  }
}

function View({ recording, findings }: { recording: Recording; findings: readonly string[] }) {
  const accused = recording.channels.filter(({ name }) => findings.some((finding) => finding.includes(name))).map(({ name }) => name);
  const [chosen, setChosen] = useState<readonly string[]>(() =>
    [...new Set([...accused, ...recording.channels.map(({ name }) => name)])].slice(0, FIRST_SHOWN),
  );
  return (
    <>
      <fieldset className="m-0 flex flex-wrap gap-2 border-0 p-0">
        <legend className="mb-1 text-sm text-soft">{t.choose}</legend>
        {recording.channels.map(({ name, unit, values }) => (
          <Chip key={name} on={chosen.includes(name)} onChange={(on) => setChosen(on ? [...chosen, name] : chosen.filter((other) => other !== name))}>
            {name} <span className="readout text-sm font-normal text-soft">{figure(values.at(-1), unit)}</span>
          </Chip>
        ))}
      </fieldset>
      <div className="mt-2 h-64">
        <Suspense fallback={<p className="grid h-full place-items-center text-soft">{messages.states.loading}</p>}>
          <RecordingChart recording={recording} chosen={chosen} />
        </Suspense>
      </div>
    </>
  );
}

/** The module's data over time: recorded from the adapter or opened from a log, with what stands out. */
export function Recordings({ job, state, enter }: Work) {
  const [scan, { isLoading: scanning }] = useScanMutation();
  const [put] = usePutRecordingMutation();
  const [load, { data: loaded, originalArgs }] = useLazyRecordingQuery();
  const [scope, setScope] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const last = state.recordings.at(-1);
  const [chosen, setChosen] = useState<string | null>(null);
  const shown = state.recordings.find(({ recording }) => recording === chosen) ?? last;
  useEffect(() => {
    if (shown) void load({ job: job.id, recording: shown.recording }, true);
  }, [shown, job.id, load]);

  const keep = async (recording: Recording): Promise<void> => {
    const id = uuidv7();
    const answer = await put({ job: job.id, recording: id, content: recording });
    if ("error" in answer) {
      setProblem(reasonOf(answer.error) ?? messages.states.failed);
      return;
    }
    const seconds = recording.seconds.at(-1) ?? 0;
    const findings = findingsOf(recording).map(({ sentence }) => sentence);
    enter({ kind: "recording", body: { recording: id, title: recording.title, seconds, channels: recording.channels.map(({ name }) => name), findings } });
    setChosen(id);
  };
  const record = async (seconds: number, drive: boolean): Promise<void> => {
    setProblem(null);
    const answer = await scan({ job: job.id, do: "live", seconds, drive });
    if ("error" in answer) {
      setProblem(reasonOf(answer.error) ?? messages.states.failed);
      return;
    }
    if (answer.data.recording) await keep(answer.data.recording);
  };
  const open = async (file: File): Promise<void> => {
    setProblem(null);
    setScope(false);
    if (await isScope(file)) {
      setScope(true);
      return;
    }
    const read = recordingIn(await file.text(), file.name);
    if ("problem" in read) {
      setProblem(read.problem);
      return;
    }
    await keep(read.recording);
  };
  return (
    <Block title={t.data}>
      <div className="flex flex-wrap gap-2">
        {job.simulated && (
          <>
            <Button disabled={scanning} onClick={() => void record(20, false)}>
              {t.recordIdle}
            </Button>
            <Button disabled={scanning} onClick={() => void record(60, true)}>
              {t.recordDrive}
            </Button>
          </>
        )}
        <FilePick label={t.importCsv} accept=".csv,text/csv,text/plain" onFile={(file) => void open(file)}>
          <Upload size={18} aria-hidden="true" /> {t.importCsv}
        </FilePick>
        {scanning && <span className="self-center text-sm text-soft">{t.recording}</span>}
      </div>
      {scope && (
        <p role="alert" className="mb-0 mt-2 rounded-lg bg-caution px-3 py-2">
          {t.isScope} <Link to={`/jobs/${job.id}/traces`}>{messages.pages.traces}</Link>
        </p>
      )}
      {problem !== null && (
        <p role="alert" className="mb-0 mt-2 rounded-lg bg-caution px-3 py-2">
          {problem}
        </p>
      )}
      {!shown && <p className="mb-0 mt-2 text-sm text-soft">{t.noRecording}</p>}
      {state.recordings.length > 1 && (
        <div className="mt-3 flex flex-wrap gap-2">
          {state.recordings.map(({ recording, title, seconds }) => (
            <Button
              key={recording}
              aria-pressed={recording === shown?.recording}
              onClick={() => setChosen(recording)}
              className={recording === shown?.recording ? "border-lamp" : ""}
            >
              {title} <span className="readout text-sm text-soft">{Math.round(seconds)} s</span>
            </Button>
          ))}
        </div>
      )}
      {shown && (
        <div className="mt-3">
          <ul className="m-0 mb-3 list-none space-y-1 p-0" aria-label={t.findings}>
            {shown.findings.length === 0 && <li className="text-calm">✓ {t.nothingOdd}</li>}
            {shown.findings.map((finding) => (
              <li key={finding} className="flex gap-2">
                <AlertTriangle size={18} className="mt-0.5 shrink-0 text-ember" aria-hidden="true" />
                {finding}
              </li>
            ))}
          </ul>
          {loaded && originalArgs?.recording === shown.recording && <View key={shown.recording} recording={loaded} findings={shown.findings} />}
        </div>
      )}
    </Block>
  );
}
