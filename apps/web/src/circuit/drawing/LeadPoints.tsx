import type { CircuitView } from "@fox-lamp/core";
import { pointWord } from "@fox-lamp/language";
import { messages } from "../../messages";
import type { Spot } from "./layout";

const own = messages.ownTest;

/** Leads being put on a drawing: where they are, and what a touch means. */
export interface Leads {
  readonly red: string | null;
  readonly onPut: (point: string) => void;
}

const POSTS = ["bat-", "bat+", "chassis", "engine"] as const;
/** What a gloved finger hits, pixels of the drawing. */
const REACH = 24;

/** Every point of a drawing a lead can be put on: the circuit's own, and on a shared wire its branches'. */
function pointsDrawn(circuit: CircuitView, circuits: readonly CircuitView[]): string[] {
  const of = ({ pins }: CircuitView, prefix: string): string[] =>
    pins.flatMap(({ pin, places, reachesPart }) => [...places, ...(reachesPart ? ["part"] : [])].map((place) => `${prefix}${pin}@${place}`));
  const branches = circuits.filter(({ pins }) => pins.some(({ joins }) => joins?.bus === circuit.id));
  return [...of(circuit, ""), ...branches.flatMap((branch) => of(branch, `${branch.id}:`)), ...POSTS];
}

interface Props {
  readonly circuit: CircuitView;
  readonly circuits: readonly CircuitView[];
  readonly spotOf: (point: string) => Spot | null;
  readonly leads: Leads;
}

/** The points of a drawing, each to be touched with a lead: red first, then black. Points that lie on one another are one. */
export function LeadPoints({ circuit, circuits, spotOf, leads }: Props) {
  const lead = leads.red === null ? own.boardLead.red : own.boardLead.black;
  const seen = new Set<string>();
  return (
    <g>
      {pointsDrawn(circuit, circuits).map((point) => {
        const spot = spotOf(point);
        const key = spot === null ? "" : `${Math.round(spot.x)} ${Math.round(spot.y)}`;
        if (spot === null || seen.has(key)) return null;
        seen.add(key);
        const taken = point === leads.red;
        return (
          // biome-ignore lint/a11y/useSemanticElements: a button of the page cannot stand in a drawing
          <g
            key={point}
            role="button"
            tabIndex={0}
            aria-label={own.puts(lead, pointWord(point))}
            aria-disabled={taken}
            className="cursor-pointer outline-none [&:focus-visible>circle:last-child]:stroke-[var(--ink)] [&:hover>circle:last-child]:stroke-[var(--ink)]"
            onClick={() => !taken && leads.onPut(point)}
            onKeyDown={(event) => {
              if (event.key !== "Enter" && event.key !== " ") return;
              event.preventDefault();
              if (!taken) leads.onPut(point);
            }}
          >
            <circle cx={spot.x} cy={spot.y} r={REACH} fill="transparent" />
            <circle
              cx={spot.x}
              cy={spot.y}
              r="9"
              fill={taken ? "var(--lead-red)" : "var(--ground)"}
              stroke={leads.red === null || taken ? "var(--lead-red)" : "var(--lead-black)"}
              strokeWidth="3"
            />
          </g>
        );
      })}
    </g>
  );
}
