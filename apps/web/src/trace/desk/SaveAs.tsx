import type { StoredCapture } from "@fox-lamp/language";
import { Download } from "lucide-react";
import { useState } from "react";
import { messages } from "../../messages";
import { Button } from "../../ui/form";
import { saveAs } from "../../ui/picture";
import { answered, captureService, NoAnswer } from "../service";

const t = messages.traces;

interface Props {
  readonly id: string;
  readonly stored: StoredCapture;
  readonly chosen: number;
  readonly nameOf: (channel: string) => string;
  readonly onProblem: (problem: string) => void;
}

/** A capture to take away: all of it as CSV, one channel as WAV. */
export function SaveAs({ id, stored, chosen, nameOf, onProblem }: Props) {
  const [busy, setBusy] = useState(false);
  const channel = stored.channels[chosen];
  const make = async (ask: () => Promise<Blob>, name: string): Promise<void> => {
    setBusy(true);
    try {
      saveAs(await ask(), name);
    } catch (error) {
      if (!(error instanceof NoAnswer)) throw error;
      onProblem(error.message);
    } finally {
      setBusy(false);
    }
  };
  return (
    <>
      <Button disabled={busy} onClick={() => void make(() => answered(captureService().csv(id, stored)), `${stored.title}.csv`)}>
        <Download size={16} aria-hidden="true" className="mr-1 inline" />
        {t.csv}
      </Button>
      {channel !== undefined && (
        <Button
          disabled={busy}
          title={t.wavOf(nameOf(channel.name))}
          onClick={() => void make(() => answered(captureService().wav(id, chosen, stored)), `${stored.title} ${nameOf(channel.name)}.wav`)}
        >
          <Download size={16} aria-hidden="true" className="mr-1 inline" />
          {t.wav}
        </Button>
      )}
    </>
  );
}
