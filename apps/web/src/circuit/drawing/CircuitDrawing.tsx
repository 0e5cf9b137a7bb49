import { type CircuitView, formatPercent, type SceneVolts } from "@fox-lamp/core";
import { type Diagnosis, type NextTest, unitTitle } from "@fox-lamp/language";
import { ZoomIn, ZoomOut } from "lucide-react";
import { useEffect, useMemo, useRef, useState } from "react";
import { useAppSelector } from "../../app/store";
import { messages } from "../../messages";
import { localUnitsOf } from "../units";
import { BusDrawing } from "./BusDrawing";
import { layoutBus } from "./bus-layout";
import { hasInstrument, Instruments, Posts } from "./Instruments";
import { LeadPoints, type Leads } from "./LeadPoints";
import { layoutCircuit } from "./layout";
import type { Standing } from "./parts";
import { SingleCircuit } from "./SingleCircuit";

/** What a drawing needs of a diagnosis: how likely each unit is, and what is cleared. */
export interface Standings {
  readonly units: Diagnosis["units"];
  readonly verdict: Pick<Diagnosis["verdict"], "refuted">;
}

/** Nothing is suspected and nothing ruled out before anything was diagnosed. */
export const UNDIAGNOSED: Standings = { units: [], verdict: { refuted: [] } };

interface Props {
  readonly circuit: CircuitView;
  /** All circuits of the job: a shared wire is drawn with its branches. */
  readonly circuits: readonly CircuitView[];
  readonly diagnosis: Standings;
  readonly test: NextTest | null;
  readonly healthy: SceneVolts | undefined;
  /** Measured volts against battery negative, by `pin@place`. */
  readonly measured: ReadonlyMap<string, number>;
  readonly selected: string | null;
  readonly onSelect: (unit: string) => void;
  /** Leads being put on by touch; left out where a touch chooses a suspect. */
  readonly leads?: Leads | null;
}

function useWidth(): [React.RefObject<HTMLDivElement | null>, number] {
  const ref = useRef<HTMLDivElement>(null);
  const [width, setWidth] = useState(0);
  useEffect(() => {
    if (!ref.current) return;
    const observer = new ResizeObserver(([entry]) => setWidth(Math.round(entry?.contentRect.width ?? 0)));
    observer.observe(ref.current);
    return () => observer.disconnect();
  }, []);
  return [ref, width];
}

/** How large the drawing may be made, as a multiple of its column. */
const ZOOMS = [1, 1.5, 2.1] as const;

/** The circuit drawn from the model: suspicion glows, proof is solid, leads lie where they go. */
export function CircuitDrawing({ circuit, circuits, diagnosis, test, healthy, measured, selected, onSelect, leads = null }: Props) {
  const below = hasInstrument(test) || leads !== null;
  const [ref, width] = useWidth();
  const [zoom, setZoom] = useState(0);
  // Lettering grows with the size of text: the drawing is laid out in the room that leaves.
  const textScale = useAppSelector((store) => store.settings.textScale);
  const room = width / textScale;
  const drawn = Math.round(room * (ZOOMS[zoom] ?? 1));
  const shared = circuit.members.length > 0;
  const bus = useMemo(() => (room < 200 || !shared ? null : layoutBus(circuit, circuits, drawn, below)), [circuit, circuits, room, drawn, below, shared]);
  const layout = useMemo(() => (room < 200 || shared ? null : layoutCircuit(circuit, drawn, below)), [circuit, room, drawn, below, shared]);
  const standingOf = useMemo(() => {
    const cleared = new Set(diagnosis.verdict.refuted.map(({ unit }) => unit));
    const odds = new Map(diagnosis.units.map(({ unit, probability }) => [unit, probability]));
    return (unit: string): Standing => ({ probability: cleared.has(unit) ? 0 : (odds.get(unit) ?? 0), cleared: cleared.has(unit) });
  }, [diagnosis]);
  const standings = (local: string): Standing => standingOf(`${circuit.id}/${local}`);
  const isOpen = (owner: string, place: string): boolean =>
    (test?.setup.open ?? []).some((name) => name === `${owner}:${place}` || (name === place && (owner === test?.circuit || place === "module")));
  const size = bus ?? layout;
  return (
    <div className="relative">
      <button
        type="button"
        onClick={() => setZoom((zoom + 1) % ZOOMS.length)}
        aria-label={messages.bench.zoom(Math.round(100 * (ZOOMS[(zoom + 1) % ZOOMS.length] ?? 1)))}
        className="absolute left-0 top-12 z-1 grid size-11 place-items-center rounded-lg text-soft lg:hidden"
      >
        {zoom === ZOOMS.length - 1 ? <ZoomOut size={20} aria-hidden="true" /> : <ZoomIn size={20} aria-hidden="true" />}
      </button>
      <div ref={ref} className="w-full overflow-x-auto">
        <TextEquivalent circuit={circuit} standings={standings} judged={diagnosis.units.length > 0} />
        {size && (
          <svg
            viewBox={`0 0 ${size.width} ${size.height}`}
            width={size.width * textScale}
            height={size.height * textScale}
            role={leads === null ? "img" : "group"}
            aria-label={messages.bench.drawingOf(circuit.title)}
            className="mx-auto block max-w-none select-none"
          >
            <defs>
              <filter id="glow" x="-60%" y="-400%" width="220%" height="900%" filterUnits="userSpaceOnUse">
                <feGaussianBlur stdDeviation="9" />
              </filter>
            </defs>
            {bus && (
              <BusDrawing
                bus={circuit}
                layout={bus}
                standingOf={standingOf}
                healthy={healthy}
                measured={measured}
                open={isOpen}
                selected={selected}
                onSelect={onSelect}
              />
            )}
            {layout && (
              <SingleCircuit
                {...{ circuit, layout, standings, selected, onSelect, test, healthy, measured }}
                open={(place) => isOpen(circuit.id, place)}
                leads={leads !== null}
              />
            )}
            {leads === null && <Instruments layout={size} test={test} circuits={circuits} />}
            {leads !== null && <Posts layout={size} names={Object.keys(size.posts)} />}
            {leads !== null && <LeadPoints circuit={circuit} circuits={circuits} spotOf={size.spotOf} leads={leads} />}
          </svg>
        )}
      </div>
    </div>
  );
}

/** The drawing for those who cannot see it: an ordered list of parts, with their state once anything is diagnosed. */
function TextEquivalent({ circuit, standings, judged }: { circuit: CircuitView; standings: (local: string) => Standing; judged: boolean }) {
  return (
    <ol className="sr-only" aria-label={messages.bench.partList}>
      {localUnitsOf(circuit).map((unit) => {
        const { probability, cleared } = standings(unit);
        const standing = cleared ? ": cleared" : `: suspicion ${formatPercent(probability)}`;
        return <li key={unit}>{`${unitTitle(`x/${unit}`, circuit.part)}${judged ? standing : ""}`}</li>;
      })}
    </ol>
  );
}
