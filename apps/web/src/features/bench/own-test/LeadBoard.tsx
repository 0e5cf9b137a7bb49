import type { CircuitView } from "@fox-lamp/core";
import { pinWord, pointWord } from "@fox-lamp/language";
import { Fragment, useState } from "react";
import { messages } from "../../../messages";
import { placeName } from "./draft";

const own = messages.ownTest;

type Lead = "red" | "black";

interface Props {
  readonly circuit: CircuitView;
  readonly red: string;
  /** null where the instrument has one lead. */
  readonly black: string | null;
  readonly onPut: (lead: Lead, point: string) => void;
}

/** Places of a circuit in the order its wires pass them, the part's own terminals last. */
function columnsOf({ pins }: CircuitView): string[] {
  const places = [...new Set(pins.flatMap((pin) => pin.places))];
  const rank = (place: string): number => (place === "module" ? 0 : place === "sensor" ? 2 : 1);
  return [...places.sort((a, b) => rank(a) - rank(b)), ...(pins.some(({ reachesPart }) => reachesPart) ? ["part"] : [])];
}

/** Wires by places: a lead is put where it is touched, the red one first, then the black one. */
export function LeadBoard({ circuit, red, black, onPut }: Props) {
  const [lead, setLead] = useState<Lead>("red");
  const columns = columnsOf(circuit);
  const active: Lead = black === null ? "red" : lead;
  const put = (point: string): void => {
    onPut(active, point);
    if (black !== null) setLead(active === "red" ? "black" : "red");
  };
  return (
    <div>
      <div className="mb-2 flex flex-wrap items-center gap-2" role="radiogroup" aria-label={own.board}>
        <span className="w-full text-sm text-soft sm:w-auto">{own.board}</span>
        {(black === null ? (["red"] as const) : (["red", "black"] as const)).map((each) => (
          <label
            key={each}
            className={`flex min-h-11 cursor-pointer items-center gap-2 rounded-lg border px-3 has-focus-visible:outline-3 has-focus-visible:outline-lamp ${active === each ? "border-lamp font-bold text-ink" : "border-edge text-soft"}`}
          >
            <input type="radio" name="lead" className="sr-only" checked={active === each} onChange={() => setLead(each)} />
            <Dot lead={each} />
            {own.boardLead[each]}
          </label>
        ))}
      </div>
      <div className="grid items-center gap-1" style={{ gridTemplateColumns: `minmax(5.5rem,1.4fr) repeat(${columns.length}, minmax(2.75rem,1fr))` }}>
        <span />
        {columns.map((place) => (
          <span key={place} className="truncate text-center text-xs text-soft">
            {place === "part" ? own.partColumn : place === "sensor" ? messages.bench.plugWord : placeName(place, circuit)}
          </span>
        ))}
        {circuit.pins
          .filter(({ places }) => places.length > 0)
          .map(({ pin, places, reachesPart, colour, cavity }) => (
            <Fragment key={pin}>
              <span className="min-w-0 text-sm leading-tight">
                <span className="font-bold">{pinWord(pin, true)}</span>
                <span className="block text-xs text-soft">{[cavity, colour].filter((text) => text !== null).join(" ")}</span>
              </span>
              {columns.map((place) => {
                const point = `${pin}@${place}`;
                if (place === "part" ? !reachesPart : !places.includes(place)) return <span key={place} />;
                const here: Lead | null = point === red ? "red" : point === black ? "black" : null;
                return (
                  <button
                    key={place}
                    type="button"
                    aria-label={own.puts(own.boardLead[active], pointWord(point))}
                    aria-pressed={here !== null}
                    onClick={() => put(point)}
                    className={`grid min-h-11 place-items-center rounded-lg border ${here === null ? "border-edge" : "border-lamp bg-well"}`}
                  >
                    {here === null ? <span aria-hidden="true" className="size-2 rounded-full bg-[var(--soft)]" /> : <Dot lead={here} />}
                  </button>
                );
              })}
            </Fragment>
          ))}
      </div>
    </div>
  );
}

function Dot({ lead }: { lead: Lead }) {
  return (
    <span
      aria-hidden="true"
      className="size-4 shrink-0 rounded-full"
      style={lead === "red" ? { background: "var(--lead-red)" } : { border: "4px solid var(--lead-black)" }}
    />
  );
}
