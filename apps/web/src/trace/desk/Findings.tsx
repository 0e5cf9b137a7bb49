import type { StoredCapture } from "@fox-lamp/language";
import { AlertTriangle, Eye } from "lucide-react";
import { useState } from "react";
import { messages } from "../../messages";
import { Block, Button } from "../../ui/form";

const t = messages.traces;

/** A stretch that can be jumped to. */
interface Found {
  readonly channel: string;
  readonly from: number;
  readonly to: number;
}

interface Props {
  readonly stored: StoredCapture;
  readonly marks: readonly (Found & { readonly word: string; readonly text?: string | undefined })[];
  readonly nameOf: (channel: string) => string;
  readonly onShow: (found: Found) => void;
}

/** A sentence with a channel's own name in it, as people call that channel. */
export function inNames(sentence: string, channel: string, nameOf: (channel: string) => string): string {
  return sentence.startsWith(channel) ? `${nameOf(channel)}${sentence.slice(channel.length)}` : sentence;
}

/** What stands out in a capture, in words and in order; each is a touch away on the trace. */
export function Findings({ stored, marks, nameOf, onShow }: Props) {
  const { findings } = stored.analysis;
  const [at, setAt] = useState(-1);
  const go = (index: number): void => {
    const next = (index + findings.length) % findings.length;
    const found = findings[next];
    if (found === undefined) return;
    setAt(next);
    onShow(found);
  };
  return (
    <Block
      title={t.findings}
      aside={
        findings.length > 1 && (
          <span className="flex gap-2">
            <Button onClick={() => go(at - 1)}>{t.previous}</Button>
            <Button onClick={() => go(at + 1)}>{t.next}</Button>
          </span>
        )
      }
    >
      <ul className="m-0 list-none space-y-1 p-0">
        {findings.length === 0 && <li className="text-calm">✓ {t.nothing}</li>}
        {findings.map((finding, index) => (
          <li key={`${finding.code} ${finding.channel} ${finding.from}`}>
            <button
              type="button"
              aria-current={index === at ? "true" : undefined}
              onClick={() => go(index)}
              className={`flex min-h-11 w-full items-center gap-2 rounded-lg border px-2 py-1 text-left ${index === at ? "border-lamp" : "border-transparent hover:border-line"}`}
            >
              <AlertTriangle size={18} className="shrink-0 text-ember" aria-hidden="true" />
              {inNames(finding.sentence, finding.channel, nameOf)}
            </button>
          </li>
        ))}
        {marks.map((mark) => (
          <li key={`mark ${mark.channel} ${mark.from}`}>
            <button type="button" onClick={() => onShow(mark)} className="flex min-h-11 w-full items-center gap-2 rounded-lg px-2 py-1 text-left">
              <Eye size={18} className="shrink-0 text-lamp" aria-hidden="true" />
              {[`${nameOf(mark.channel)}: ${mark.word}`, mark.text].filter(Boolean).join(", ")}
            </button>
          </li>
        ))}
      </ul>
    </Block>
  );
}
