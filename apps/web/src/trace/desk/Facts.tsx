import type { StoredCapture } from "@fox-lamp/language";
import { lazy, Suspense, useState } from "react";
import { messages } from "../../messages";
import { Block, Button } from "../../ui/form";
import { inNames } from "./Findings";

const t = messages.traces;
const SpeedChart = lazy(() => import("./SpeedChart"));

/** What a capture shows besides trouble: how fast the engine turned, how long a winding is driven, what two tracks make together. */
export function Facts({ stored, nameOf }: { stored: StoredCapture; nameOf: (channel: string) => string }) {
  const { facts = [], channels } = stored.analysis;
  const turning = channels.find(({ speed }) => (speed?.rpm.length ?? 0) > 2);
  const [charted, setCharted] = useState(false);
  if (facts.length === 0 && turning === undefined) return null;
  return (
    <Block title={t.facts} aside={turning !== undefined && <Button onClick={() => setCharted(!charted)}>{charted ? t.speedHide : t.speedShow}</Button>}>
      <ul className="m-0 list-disc space-y-1 pl-5">
        {facts.map((fact) => (
          <li key={`${fact.code} ${fact.channel}`}>{inNames(fact.sentence, fact.channel, nameOf)}</li>
        ))}
      </ul>
      {charted && turning?.speed !== undefined && (
        <div className="mt-2 h-56">
          <Suspense fallback={<p className="m-0 text-soft">{messages.states.loading}</p>}>
            <SpeedChart name={t.speed(nameOf(turning.name))} speed={turning.speed} />
          </Suspense>
        </div>
      )}
    </Block>
  );
}
