import { alignmentOf, compareCaptures } from "@fox-lamp/core";
import type { CaptureFile, StoredCapture } from "@fox-lamp/language";
import { useEffect, useState } from "react";
import { useKnownCapturesQuery } from "../../app/api";
import { messages } from "../../messages";
import { Block, Select } from "../../ui/form";
import { answered, captureService } from "../service";
import { differenceText } from "./difference-text";
import type { TracedJob } from "./traced-job";
import type { Other } from "./use-lanes";

const t = messages.traces;
const NONE = "";

/** The capture another one is compared with, opened; null while none is chosen or it is not there yet. @param begin `job/capture` it begins with */
export function useOther({ job, state }: Pick<TracedJob, "job" | "state">, capture: string, analysis: CaptureFile | null, begin: string | null) {
  const { data: known = [] } = useKnownCapturesQuery(job.id);
  const [chosen, setChosen] = useState(begin ?? NONE);
  const [other, setOther] = useState<Other | null>(null);
  const options: (readonly [string, string])[] = [
    [NONE, t.compareNone],
    ...state.captures
      .filter((one) => one.capture !== capture)
      .map((one) => [`${job.id}/${one.capture}`, one.known ? t.knownGood(one.title) : one.title] as const),
    ...known.map(({ id, job: of, title, vehicle, number }) => [`${of}/${id}`, t.ofVehicle(title, vehicle, number)] as const),
  ];
  useEffect(() => {
    setOther(null);
    if (chosen === NONE || analysis === null) return;
    let current = true;
    const [of = "", id = ""] = chosen.split("/");
    answered(captureService().open(of, id))
      .then((stored: StoredCapture) => current && setOther({ id, stored, later: alignmentOf(analysis, stored.analysis) }))
      .catch(() => current && setChosen(NONE));
    return () => {
      current = false;
    };
  }, [chosen, analysis]);
  return { options, chosen, setChosen, other };
}

interface Props {
  readonly analysis: CaptureFile;
  readonly options: readonly (readonly [string, string])[];
  readonly chosen: string;
  readonly onChoose: (chosen: string) => void;
  readonly other: Other | null;
  readonly nameOf: (channel: string) => string;
}

/** A capture against another one: which, and what differs in numbers. */
export function Compare({ analysis, options, chosen, onChoose, other, nameOf }: Props) {
  if (options.length < 2) return null;
  const differences = other === null ? [] : compareCaptures(analysis, other.stored.analysis);
  return (
    <Block title={t.compared}>
      <Select label={t.compare} options={options} value={chosen} onChange={onChoose} />
      {other !== null && (
        <>
          <ul className="m-0 mt-2 list-none p-0">
            {differences.length === 0 && <li className="text-calm">✓ {t.same}</li>}
            {differences.map((difference) => (
              <li key={`${difference.channel} ${difference.what}`} className="border-b border-line py-1 last:border-0">
                {differenceText(difference, nameOf)}
              </li>
            ))}
          </ul>
          <p className="m-0 mt-2 text-sm text-soft">{t.behind}</p>
        </>
      )}
    </Block>
  );
}
