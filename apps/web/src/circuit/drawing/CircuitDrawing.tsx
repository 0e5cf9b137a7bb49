import { type CircuitView, formatPercent, formatQuantity, type SceneVolts } from "@fox-lamp/core";
import { type Diagnosis, type NextTest, pinWord, unitTitle } from "@fox-lamp/language";
import { ZoomIn, ZoomOut } from "lucide-react";
import { useEffect, useMemo, useRef, useState } from "react";
import { useAppSelector } from "../../app/store";
import { messages } from "../../messages";
import { localUnitsOf } from "../units";
import { BusDrawing } from "./BusDrawing";
import { layoutBus } from "./bus-layout";
import { hasInstrument, Instruments, Posts } from "./Instruments";
import { LeadPoints, type Leads } from "./LeadPoints";
import { type DrawnRow, type Layout, LINE, layoutCircuit, letters, type Spot } from "./layout";
import { Box, Contact, Origin, PERCENT_FROM, type Standing, Wire } from "./parts";

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

const UNKNOWN: Standing = { probability: 0, cleared: false };
const LISTED_FROM = 0.02;

/** How large the drawing may be made, as a multiple of its column. */
const ZOOMS = [1, 1.5, 2.1] as const;

/** The circuit drawn from the model: suspicion glows, proof is solid, leads lie where they go. */
export function CircuitDrawing(props: Props) {
  const { circuit, circuits, diagnosis, test, healthy, measured, selected, onSelect, leads = null } = props;
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
            {layout && <SingleCircuit {...props} layout={layout} standings={standings} open={(place) => isOpen(circuit.id, place)} />}
            {leads === null && <Instruments layout={size} test={test} />}
            {leads !== null && <Posts layout={size} names={Object.keys(size.posts)} />}
            {leads !== null && <LeadPoints circuit={circuit} circuits={circuits} spotOf={size.spotOf} leads={leads} />}
          </svg>
        )}
      </div>
    </div>
  );
}

/** Module, wires, contacts and part of one circuit. */
function SingleCircuit({
  circuit,
  layout,
  standings,
  open,
  healthy,
  measured,
  selected,
  onSelect,
  test,
  leads = null,
}: Props & { layout: Layout; standings: (local: string) => Standing; open: (place: string) => boolean }) {
  const partProps = (local: string) => ({ onClick: () => onSelect(`${circuit.id}/${local}`), style: { cursor: "pointer" } });
  const isSelected = (local: string): boolean => selected === `${circuit.id}/${local}`;
  const listed = (units: readonly string[]): { unit: string; standing: Standing }[] =>
    units
      .map((unit) => ({ unit, standing: standings(unit) }))
      .filter(({ standing }) => standing.probability >= LISTED_FROM)
      .sort((a, b) => b.standing.probability - a.standing.probability)
      .slice(0, 2);
  const battery = circuit.left === "battery";
  const beside = layout.narrow ? besideOf(test, layout) : NOT_BESIDE;
  const letter = letters(layout.narrow);
  return (
    <>
      <Box
        layout={layout.module}
        title={battery ? "Battery" : "Module"}
        standing={standings(battery ? "battery" : "module:input")}
        plain={!battery}
        {...(battery ? { unit: partProps("battery"), selected: isSelected("battery") } : {})}
      />
      <Box
        layout={layout.sensor}
        title={circuit.part}
        standing={circuit.partUnit === null ? UNKNOWN : standings(circuit.partUnit)}
        dashed
        plain={circuit.partUnit === null}
        {...(circuit.partUnit === null ? {} : { unit: partProps(circuit.partUnit), selected: isSelected(circuit.partUnit) })}
      />
      {listed(circuit.stages).map(({ unit, standing }, index) => (
        <text
          key={unit}
          x={layout.module.x + 10}
          y={layout.module.y + layout.module.height - 10 - LINE * index}
          fontSize={letter}
          fill="var(--ember)"
          {...partProps(unit)}
        >
          {stageName(unit, layout)} {formatPercent(standing.probability)}
        </text>
      ))}
      {listed(circuit.extras).map(({ unit, standing }, index) => (
        <text
          key={unit}
          x={layout.sensor.x + (layout.narrow ? 5 : 10)}
          y={layout.sensor.y + layout.sensor.height - 10 - LINE * index}
          fontSize={letter}
          fill="var(--ember)"
          {...partProps(unit)}
        >
          {unit} {formatPercent(standing.probability)}
        </text>
      ))}
      {circuit.body && (
        <text x={layout.sensor.x + 10} y={layout.sensor.y + layout.sensor.height - (layout.narrow ? 28 : 40)} fontSize={letter} fill="var(--soft)">
          {layout.narrow ? "body ground" : "grounded by body"}
        </text>
      )}
      {layout.rows.flatMap(({ pin, stubs }) =>
        stubs.map(({ from, to }) => <line key={`${pin.pin}${from.x}`} x1={from.x} x2={to.x} y1={from.y} y2={to.y} stroke="var(--soft)" strokeWidth="1.75" />),
      )}
      {layout.origins.map((origin) => (
        <Origin key={origin.pin} origin={origin} narrow={layout.narrow} />
      ))}
      {layout.parts.map((part) => {
        if (part.kind === "splice") {
          return (
            <g key={`${part.pin}@${part.place}`}>
              <circle cx={part.at.x} cy={part.at.y} r="5.5" fill="var(--soft)" />
              <text x={part.at.x} y={part.at.y - (layout.narrow ? 25 : 11)} textAnchor="middle" fontSize={letter} fill="var(--soft)">
                {part.place}
              </text>
            </g>
          );
        }
        if (part.kind === "wire" && part.unit === null) {
          return <Wire key={`shared${part.pin}${part.from.x}`} from={part.from} to={part.to} standing={UNKNOWN} selected={false} />;
        }
        const unit = part.unit ?? "";
        const standing = standings(unit);
        return (
          <g key={part.kind === "wire" ? `${unit}${part.from.x}` : unit} {...partProps(unit)}>
            <title>{`${unitTitle(`x/${unit}`, circuit.part)}: ${standing.cleared ? "cleared" : formatPercent(standing.probability)}`}</title>
            {part.kind === "wire" ? (
              <Wire from={part.from} to={part.to} standing={standing} selected={isSelected(unit)} />
            ) : (
              <Contact part={part} standing={standing} open={open(part.place)} selected={isSelected(unit)} />
            )}
            {part.kind === "wire" && <line x1={part.from.x} x2={part.to.x} y1={part.from.y} y2={part.to.y} stroke="transparent" strokeWidth="30" />}
          </g>
        );
      })}
      {layout.connectors.map(({ place, x }) => (
        <text
          key={place}
          x={layout.narrow && place === "sensor" ? x + 10 : layout.narrow && place === "module" ? x - 10 : x}
          y={layout.module.y + 16}
          textAnchor={layout.narrow && place === "sensor" ? "end" : layout.narrow && place === "module" ? "start" : "middle"}
          fontSize={letter}
          fill="var(--soft)"
        >
          {open(place) ? "open" : place === "module" || place === "sensor" ? "" : place}
        </text>
      ))}
      {layout.rows.map((row) => (
        <RowLabels
          key={row.pin.pin}
          aside={leads ? ASIDE : 0}
          row={row}
          layout={layout}
          standing={standings(unitOfRow(row))}
          healthy={healthy}
          measured={measured}
          beside={beside}
        />
      ))}
      {layout.parts.map((part) => {
        if (part.kind !== "contact") return null;
        const standing = standings(part.unit);
        if (standing.probability <= PERCENT_FROM) return null;
        return (
          <text key={part.unit} {...besideContact(part, layout.narrow)} fontSize={letter} fill="var(--ember)" pointerEvents="none">
            {formatPercent(standing.probability)}
          </text>
        );
      })}
    </>
  );
}

/** Where a contact's percentage stands: below it, on a narrow drawing beside the box it is at. */
function besideContact({ at, place }: { readonly at: Spot; readonly place: string }, narrow: boolean) {
  const y = at.y + 29;
  if (!narrow || (place !== "sensor" && place !== "module")) return { x: at.x, y, textAnchor: "middle" as const };
  return place === "sensor" ? { x: at.x + 14, y, textAnchor: "end" as const } : { x: at.x - 14, y, textAnchor: "start" as const };
}

function stageName(unit: string, { narrow }: Layout): string {
  const name = unitTitle(`x/${unit}`).replace("Module ", "");
  return narrow ? name.replace("low reference", "low ref").replace("reference", "ref") : name;
}

function unitOfRow({ pin }: DrawnRow): string {
  return pin.role === "car-ground" ? pin.pin : `wire:${pin.pin}`;
}

/** How far volts and colour stand beside their places on a wire, pixels. */
interface Beside {
  readonly volts: number;
  readonly label: number;
}
const NOT_BESIDE: Beside = { volts: 0, label: 0 };

/** On a phone the words on the wires make room for leads that come down beside them, and for a part added at the sensor. */
function besideOf(test: NextTest | null, { rows }: Layout): Beside {
  const at = (place: RegExp, ...points: (string | null)[]): boolean => points.some((point) => point !== null && place.test(point));
  if (test === null) return NOT_BESIDE;
  if (rows.some(({ pin }) => pin.places.length > 2)) return at(/@(?!module$|sensor$|part$)/u, test.red, test.black) ? { volts: 14, label: -6 } : NOT_BESIDE;
  if ((test.setup.add ?? []).some(({ from, to }) => at(/@sensor$/u, from) && at(/@sensor$/u, to))) return { volts: -42, label: -42 };
  return at(/@sensor$/u, test.red, test.black) ? { volts: -7, label: -7 } : NOT_BESIDE;
}

const ASIDE = 9;

/** A row's pin names at both boxes, its healthy or measured volts, colour and standing. */
function RowLabels({
  row,
  layout,
  standing,
  healthy,
  measured,
  beside,
  aside,
}: {
  /** How far names in the part's box make room for leads on its terminals, pixels. */
  aside: number;
  row: DrawnRow;
  layout: Layout;
  standing: Standing;
  healthy: SceneVolts | undefined;
  measured: ReadonlyMap<string, number>;
  beside: Beside;
}) {
  const { pin } = row;
  const letter = letters(layout.narrow);
  const far = pin.places.at(-1) ?? "sensor";
  const read = measured.get(`${pin.pin}@${far}`) ?? measured.get(`${pin.pin}@module`);
  const volts = healthy?.[`${pin.pin}@${far}`];
  const car = pin.role === "car-ground";
  const word = car ? `${pin.pin.split(":")[1] ?? ""} ground` : pinWord(pin.pin);
  const shown = read === undefined ? (volts === undefined ? "" : formatQuantity(volts, "V")) : `read ${formatQuantity(read, "V")}`;
  const state =
    standing.probability > PERCENT_FROM
      ? formatPercent(standing.probability)
      : standing.cleared && (!layout.narrow || (pin.colour ?? "") === "")
        ? "cleared"
        : "";
  return (
    <g pointerEvents="none">
      {pin.origin === "module" && (
        <text x={layout.module.x + layout.module.width - 8} y={row.y + 4} textAnchor="end" fontSize={letter} fill="var(--soft)">
          {layout.narrow ? pin.pin : word}
        </text>
      )}
      {(pin.reachesPart || car) && (
        <text x={layout.sensor.x + 8 + aside} y={row.y + 4} fontSize={letter} fill="var(--soft)">
          {pin.cavity ? `${pin.cavity} ` : ""}
          {layout.narrow && !car ? pin.pin : car ? (pin.pin.split(":")[1] ?? "") : word}
        </text>
      )}
      <text
        x={row.volts.x + beside.volts}
        y={row.volts.y}
        textAnchor="middle"
        fontSize={letter}
        className="readout"
        fill={read === undefined ? "var(--soft)" : "var(--ink)"}
        fontWeight={read === undefined ? 400 : 700}
      >
        {shown}
      </text>
      <text
        x={row.label.x + beside.label}
        y={row.label.y + 2}
        textAnchor="middle"
        fontSize={letter}
        fill={standing.probability > PERCENT_FROM ? "var(--ember)" : "var(--soft)"}
      >
        {[car ? word : (pin.colour ?? ""), pin.joins?.at === "module" ? "shared" : "", state].filter((text) => text !== "").join(" ")}
      </text>
    </g>
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
