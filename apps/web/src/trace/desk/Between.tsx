import { formatQuantity, type MeterView } from "@fox-lamp/core";
import type { StoredCapture } from "@fox-lamp/language";
import { useEffect, useState } from "react";
import { messages } from "../../messages";
import { Block, Button, TextField } from "../../ui/form";
import { answered, captureService } from "../service";
import type { Cursors } from "../use-gestures";
import { type Extent, meterLines, meterWhy } from "./between-text";

const t = messages.traces;
const ASK_AFTER_MS = 120;

interface Props {
  readonly id: string;
  readonly stored: StoredCapture;
  readonly chosen: number;
  readonly cursors: Cursors;
  readonly nameOf: (channel: string) => string;
  readonly onMark?: ((mark: { channel: string; from: number; to: number; word: string; text?: string }) => void) | undefined;
}

/** A stretch of a channel as a scope and as a meter have it; null while there is none, or it is being fetched. */
function useStretch(id: string, channel: number, from: number | null, to: number | null, rate: number): { view: MeterView; extent: Extent } | null {
  const [seen, setSeen] = useState<{ view: MeterView; extent: Extent } | null>(null);
  useEffect(() => {
    setSeen(null);
    if (from === null || to === null || to - from < 2) return;
    let current = true;
    const timer = setTimeout(() => {
      const service = captureService();
      Promise.all([answered(service.meter(id, channel, from, to, rate)), answered(service.samples(id, channel, from, to))])
        .then(([view, samples]) => {
          let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
          for (const value of samples) [low, high] = [Math.min(low, value), Math.max(high, value)];
          if (current) setSeen({ view, extent: { low, high } });
        })
        .catch(() => undefined);
    }, ASK_AFTER_MS);
    return () => {
      current = false;
      clearTimeout(timer);
    };
  }, [id, channel, from, to, rate]);
  return seen;
}

/** What lies between the cursors: time, levels, what a meter would have shown and why; and a mark of one's own. */
export function Between({ id, stored, chosen, cursors, nameOf, onMark }: Props) {
  const { rate, start, channels } = stored;
  const channel = channels[chosen];
  const [word, setWord] = useState("");
  const [text, setText] = useState("");
  const [a, b] = cursors;
  const [from, to] = a === null || b === null ? [null, null] : [Math.floor(Math.min(a, b)), Math.ceil(Math.max(a, b))];
  const seen = useStretch(id, chosen, from, to, rate);
  if (channel === undefined || from === null || to === null) {
    return (
      <Block title={t.cursors}>
        <p className="m-0 text-sm text-soft">{t.noCursors}</p>
      </Block>
    );
  }
  const seconds = (to - from) / rate;
  const rpm = stored.setup.rpm;
  const mark = (): void => {
    if (onMark === undefined || word.trim() === "") return;
    onMark({
      channel: channel.name,
      from: start + from / rate,
      to: start + to / rate,
      word: word.trim(),
      ...(text.trim() === "" ? {} : { text: text.trim() }),
    });
    setWord("");
    setText("");
  };
  return (
    <Block title={t.cursors}>
      <p className="readout m-0 text-lg">
        {t.apart(formatQuantity(seconds, "s"), formatQuantity(1 / seconds, "Hz"))}
        {rpm !== undefined && <>, {t.degrees(`${(6 * rpm * seconds).toFixed(1)}°`)}</>}
      </p>
      {seen === null ? (
        <p className="m-0 mt-2 text-sm text-soft">{t.noSamples}</p>
      ) : (
        <>
          <p className="m-0 mt-2 text-sm text-soft">
            {t.scopeShows(nameOf(channel.name), formatQuantity(seen.extent.low, channel.unit), formatQuantity(seen.extent.high, channel.unit))}
          </p>
          <h3 className="m-0 mt-3 text-sm font-bold text-soft">{t.meter(nameOf(channel.name))}</h3>
          <ul className="readout m-0 mt-1 list-none p-0 text-sm">
            {meterLines(seen.view, channel.unit).map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
          {meterWhy(seen.view, seen.extent, channel.unit).map((line) => (
            <p key={line} className="m-0 mt-2">
              {line}
            </p>
          ))}
        </>
      )}
      {onMark !== undefined && (
        <form
          className="mt-3 grid gap-2 border-t border-line pt-3 sm:grid-cols-2"
          onSubmit={(event) => {
            event.preventDefault();
            mark();
          }}
        >
          <TextField label={t.markWord} value={word} onChange={(event) => setWord(event.target.value)} />
          <TextField label={t.markText} value={text} onChange={(event) => setText(event.target.value)} />
          <Button type="submit" disabled={word.trim() === ""}>
            {t.mark}
          </Button>
        </form>
      )}
    </Block>
  );
}
