import type { CapturedReading, CircuitView } from "@fox-lamp/core";
import { type Circuit, unitOfReading } from "@fox-lamp/language";
import { readingTitle, valueText } from "../../circuit/wording";
import { messages } from "../../messages";
import { Block, Button } from "../../ui/form";
import type { Judged } from "./use-fresh";
import { Viewer } from "./Viewer";

const t = messages.traces;

/** A reading of a capture in a line: what, its value, and when. */
function Line({ captured, circuits }: { captured: CapturedReading; circuits: readonly Pick<CircuitView, "id" | "title">[] }) {
  const { reading } = captured;
  return (
    <li className="flex flex-wrap justify-between gap-x-4 border-b border-line py-1 last:border-0">
      <span>
        {readingTitle(reading, circuits)}
        {reading.symptom !== undefined && (
          <span className={`ml-2 text-sm ${reading.symptom ? "text-ember" : "text-soft"}`}>{reading.symptom ? t.during : t.before}</span>
        )}
      </span>
      <span className="readout">{valueText(reading.value, unitOfReading(reading))}</span>
    </li>
  );
}

interface Props {
  readonly id: string;
  readonly judged: Judged;
  readonly circuits: readonly Pick<CircuitView, "id" | "title">[];
  readonly sheets: readonly Circuit[];
  readonly nameOf: (channel: string) => string;
  readonly storing: boolean;
  readonly onStore: () => void;
  readonly onPutAway: () => void;
}

/** A capture that has been judged and is not stored yet: what it says, and the readings it would be. */
export function FreshTrace({ id, judged, circuits, sheets, nameOf, storing, onStore, onPutAway }: Props) {
  return (
    <div className="grid gap-3">
      <Viewer id={id} stored={judged.stored} circuits={sheets} nameOf={nameOf} marks={[]}>
        <span className="ml-auto flex flex-wrap gap-2">
          <Button weight="quiet" onClick={onPutAway}>
            {t.discard}
          </Button>
          <Button weight="next" disabled={storing} onClick={onStore}>
            {storing ? t.storing : judged.readings.length === 0 ? t.store : t.storeWith(judged.readings.length)}
          </Button>
        </span>
      </Viewer>
      {judged.readings.length > 0 && (
        <Block title={t.readings}>
          <p className="m-0 mb-2 text-sm text-soft">{t.readingsLead}</p>
          <ul className="m-0 list-none p-0">
            {judged.readings.map((captured) => (
              <Line key={`${captured.channel} ${captured.reading.meter} ${captured.from} ${captured.to}`} captured={captured} circuits={circuits} />
            ))}
          </ul>
        </Block>
      )}
    </div>
  );
}
