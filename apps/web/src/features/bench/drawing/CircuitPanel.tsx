import type { Analysis, CircuitView } from "@fox-lamp/core";
import { Crosshair } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { CircuitDrawing } from "../../../circuit/drawing/CircuitDrawing";
import { factWords } from "../../../circuit/facts";
import { setupText } from "../../../circuit/wording";
import { messages } from "../../../messages";
import { Chip } from "../../../ui/form";
import type { Start } from "../own-test/draft";
import type { Bench } from "../use-bench";
import { CircuitStrip } from "./CircuitStrip";
import { isKnown, Known } from "./Known";

const t = messages.bench;

interface Props {
  readonly bench: Bench;
  readonly analysis: Analysis;
  readonly circuit: CircuitView;
  /** The test that lies on the drawing; null once a verdict stands. */
  readonly drawnTest: Bench["test"];
  /** Begins a test of one's own with both leads put on. */
  readonly onStart: (start: Start) => void;
}

/** The circuit at hand: which of several, what is known of it, what the last reading moved, and its drawing. */
export function CircuitPanel({ bench, analysis, circuit, drawnTest, onStart }: Props) {
  const [red, setRed] = useState<string | null | undefined>(undefined);
  const placing = red !== undefined;
  const put = (point: string): void => {
    if (red == null) {
      setRed(point);
      return;
    }
    setRed(undefined);
    onStart({ circuit: circuit.id, red, black: point, like: null });
  };
  const { state, test } = bench;
  return (
    <div className="flex flex-col">
      <div className="max-lg:order-2">
        <CircuitStrip circuits={analysis.circuits} diagnosis={analysis.diagnosis} shown={circuit.id} onShow={bench.show} />
        <div className="flex flex-wrap items-center justify-between gap-x-4 gap-y-1">
          <h2 className={`text-lg font-bold ${analysis.circuits.length > 1 ? "max-lg:sr-only" : ""}`}>{circuit.title}</h2>
          {isKnown(circuit.quantity) && (
            <Known
              key={`${circuit.id}${String(state.conditions[circuit.quantity])}`}
              quantity={circuit.quantity}
              absolute={circuit.absolute}
              conditions={state.conditions}
              onSet={(conditions) => bench.enter({ kind: "conditions", body: conditions })}
            />
          )}
          <span title={t.comesAndGoesHint}>
            <Chip on={bench.passing} onChange={(intermittent) => bench.enter({ kind: "conditions", body: { ...state.conditions, intermittent } })}>
              {t.comesAndGoes}
            </Chip>
          </span>
        </div>
        {placing && (
          <p role="status" className="m-0 font-bold text-lamp">
            {red === null ? t.touchRed : t.touchBlack}
          </p>
        )}
        <p className="m-0 flex flex-wrap items-center gap-x-3 text-sm text-soft">
          <span className="hidden lg:inline" aria-live="polite">
            {bench.computing ? t.computing : test ? setupText(test.setup, analysis.circuits) : ""}
          </span>
          {factWords(state.facts, state.hints).join(" · ")}
          <Link
            to={`/jobs/${bench.job?.id ?? ""}`}
            className="inline-flex min-h-11 items-center text-soft underline decoration-line underline-offset-4 hover:text-ink"
          >
            {messages.facts.change}
          </Link>
          <button
            type="button"
            aria-pressed={placing}
            onClick={() => setRed(placing ? undefined : null)}
            className={`inline-flex min-h-11 items-center gap-1.5 underline decoration-line underline-offset-4 hover:text-ink ${placing ? "font-bold text-ink" : "text-soft"}`}
          >
            <Crosshair size={18} aria-hidden="true" /> {placing ? t.leaveLeads : t.putLeads}
          </button>
        </p>
        {bench.told?.move && (
          <p className="mb-1 mt-1 text-sm text-soft" role="status">
            <span className="sr-only">{t.changed}: </span>
            <span className="readout text-lamp">{bench.told.move.reading}</span> {bench.told.move.sentence}
          </p>
        )}
      </div>
      <CircuitDrawing
        circuit={circuit}
        circuits={analysis.circuits}
        diagnosis={analysis.diagnosis}
        test={bench.foreign ? null : drawnTest}
        healthy={test && !bench.foreign ? bench.healthy : undefined}
        measured={bench.measured}
        selected={bench.selected}
        onSelect={bench.select}
        leads={placing ? { red, onPut: put } : null}
      />
      {test && !bench.foreign && <p className="hidden pb-2 text-xs text-soft lg:block">{t.healthyVolts}</p>}
    </div>
  );
}
