import type { StoredCapture } from "@fox-lamp/language";
import { useState } from "react";
import { namedInTurn } from "../../app/reading-names";
import { useStorePhoto } from "../../app/use-store-photo";
import { messages } from "../../messages";
import { toast } from "../../ui/toast";
import { pictureOf } from "../picture";
import { answered, captureService } from "../service";
import { inNames } from "./Findings";
import { markedOn, stretchesOf, worthSeeing } from "./stretches";
import type { TracedJob } from "./traced-job";
import type { Judged } from "./use-fresh";

const t = messages.traces;
/** A capture of several leads is set up once: the first reading of it takes this long, minutes. */
const SETUP_MINUTES = 3;

/**
 * Stores a capture that was judged with its job: its samples, its readings, and a picture of where it is worth seeing.
 *
 * @returns what stores it, telling whether it did and why not, and whether it is at it
 */
export function useStoreCapture(work: TracedJob, nameOf: (channel: string) => string) {
  const { job, state, enter } = work;
  const [storing, setStoring] = useState(false);
  const photo = useStorePhoto(work);
  /** The trace as the record and the report show it. */
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
  const store = async (id: string, { stored, readings }: Judged): Promise<{ readonly refused: string | null }> => {
    setStoring(true);
    try {
      const sending = await answered(captureService().store(job.id, id, stored));
      if (sending.refused !== null) return { refused: sending.refused };
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
      return { refused: null };
    } catch (error) {
      return { refused: (error as Error).message };
    } finally {
      setStoring(false);
    }
  };
  return { store, storing };
}
