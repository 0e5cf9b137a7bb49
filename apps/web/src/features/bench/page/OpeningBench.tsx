import type { Opening } from "@fox-lamp/core";
import type { ReactNode } from "react";
import { CircuitDrawing, UNDIAGNOSED } from "../../../circuit/drawing/CircuitDrawing";
import { messages } from "../../../messages";
import { Label } from "../../../ui/states";

const t = messages.bench;
const NOTHING_READ: ReadonlyMap<string, number> = new Map();

interface Props {
  readonly title: string;
  /** Null until the circuits are there. */
  readonly opening: Opening | null;
  /** Whether the first advice is being worked out; otherwise it stands elsewhere why not. */
  readonly working: boolean;
  readonly busy: boolean;
  readonly log: ReactNode;
}

/** The bench before its first advice: the circuit and what was read are there at once, suspects and test come when they are known. */
export function OpeningBench({ title, opening, working, busy, log }: Props) {
  const circuit = opening?.circuits[0];
  return (
    <main id="content" aria-busy={busy} className="flex flex-1 flex-col lg:grid lg:grid-cols-[17rem_1fr_21.5rem]">
      <h1 className="sr-only">{title}</h1>
      <section aria-label={t.views.test} className="border-line bg-panel px-4 py-4 lg:col-start-3 lg:row-start-1 lg:border-l">
        {working && (
          <p className="m-0 text-soft" role="status">
            {t.computing}
          </p>
        )}
      </section>
      <div className="min-w-0 px-5 pt-3 lg:col-start-2 lg:row-start-1">
        {circuit && opening && (
          <>
            <h2 className="text-lg font-bold">{circuit.title}</h2>
            <CircuitDrawing
              circuit={circuit}
              circuits={opening.circuits}
              diagnosis={UNDIAGNOSED}
              test={null}
              healthy={undefined}
              measured={NOTHING_READ}
              selected={null}
              onSelect={() => undefined}
            />
          </>
        )}
        <div className="border-t border-line py-3">{log}</div>
      </div>
      <aside className="border-line px-4 py-4 lg:col-start-1 lg:row-start-1 lg:border-r">
        <Label>{t.suspects}</Label>
      </aside>
    </main>
  );
}
