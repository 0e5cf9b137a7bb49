import { type CircuitView, formatPercent, type SceneVolts } from "@fox-lamp/core";
import { type NextTest, unitTitle } from "@fox-lamp/language";
import { type DrawnRow, type Layout, LINE, letters, type Spot } from "./layout";
import { Box, Contact, Origin, PERCENT_FROM, type Standing, UNKNOWN, Wire } from "./parts";
import { ASIDE, besideOf, NOT_BESIDE, RowLabels } from "./RowLabels";

/** What every piece of the drawing needs. */
interface Piece {
  readonly circuit: CircuitView;
  readonly layout: Layout;
  /** How a unit of the circuit stands, by its name inside it. */
  readonly standings: (local: string) => Standing;
  readonly open: (place: string) => boolean;
  readonly selected: string | null;
  readonly onSelect: (unit: string) => void;
}

interface Props extends Piece {
  readonly test: NextTest | null;
  readonly healthy: SceneVolts | undefined;
  readonly measured: ReadonlyMap<string, number>;
  /** Whether leads are being put on by touch. */
  readonly leads: boolean;
}

const LISTED_FROM = 0.02;

function partProps({ circuit, onSelect }: Piece, local: string) {
  return { onClick: () => onSelect(`${circuit.id}/${local}`), style: { cursor: "pointer" } };
}

/** The likeliest of some units, two at most. */
function listed(units: readonly string[], standings: Piece["standings"]): { unit: string; standing: Standing }[] {
  return units
    .map((unit) => ({ unit, standing: standings(unit) }))
    .filter(({ standing }) => standing.probability >= LISTED_FROM)
    .sort((a, b) => b.standing.probability - a.standing.probability)
    .slice(0, 2);
}

/** Module, wires, contacts and part of one circuit. */
export function SingleCircuit({ test, healthy, measured, leads, ...piece }: Props) {
  const { layout, standings } = piece;
  const beside = layout.narrow ? besideOf(test, layout) : NOT_BESIDE;
  return (
    <>
      <Boxes {...piece} />
      {layout.rows.flatMap(({ pin, stubs }) =>
        stubs.map(({ from, to }) => <line key={`${pin.pin}${from.x}`} x1={from.x} x2={to.x} y1={from.y} y2={to.y} stroke="var(--soft)" strokeWidth="1.75" />),
      )}
      {layout.origins.map((origin) => (
        <Origin key={origin.pin} origin={origin} narrow={layout.narrow} />
      ))}
      <Parts {...piece} />
      <Connectors {...piece} />
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
      <Percentages {...piece} />
    </>
  );
}

/** The two ends, with what is suspected inside them. */
function Boxes(piece: Piece) {
  const { circuit, layout, standings, selected } = piece;
  const battery = circuit.left === "battery";
  const letter = letters(layout.narrow);
  const isSelected = (local: string): boolean => selected === `${circuit.id}/${local}`;
  return (
    <>
      <Box
        layout={layout.module}
        title={battery ? "Battery" : "Module"}
        standing={standings(battery ? "battery" : "module:input")}
        plain={!battery}
        {...(battery ? { unit: partProps(piece, "battery"), selected: isSelected("battery") } : {})}
      />
      <Box
        layout={layout.sensor}
        title={circuit.part}
        standing={circuit.partUnit === null ? UNKNOWN : standings(circuit.partUnit)}
        dashed
        plain={circuit.partUnit === null}
        {...(circuit.partUnit === null ? {} : { unit: partProps(piece, circuit.partUnit), selected: isSelected(circuit.partUnit) })}
      />
      {listed(circuit.stages, standings).map(({ unit, standing }, index) => (
        <text
          key={unit}
          x={layout.module.x + 10}
          y={layout.module.y + layout.module.height - 10 - LINE * index}
          fontSize={letter}
          fill="var(--ember)"
          {...partProps(piece, unit)}
        >
          {stageName(unit, layout)} {formatPercent(standing.probability)}
        </text>
      ))}
      {listed(circuit.extras, standings).map(({ unit, standing }, index) => (
        <text
          key={unit}
          x={layout.sensor.x + (layout.narrow ? 5 : 10)}
          y={layout.sensor.y + layout.sensor.height - 10 - LINE * index}
          fontSize={letter}
          fill="var(--ember)"
          {...partProps(piece, unit)}
        >
          {unit} {formatPercent(standing.probability)}
        </text>
      ))}
      {circuit.body && (
        <text
          x={layout.sensor.x + (layout.narrow ? 5 : 10)}
          y={layout.sensor.y + layout.sensor.height - 10 - LINE * listed(circuit.extras, standings).length}
          fontSize={letter}
          fill="var(--soft)"
        >
          {layout.narrow ? "on its body" : "grounded by body"}
        </text>
      )}
    </>
  );
}

/** Wires, contacts and splices: each shows how its unit stands, and is chosen by touch. */
function Parts(piece: Piece) {
  const { circuit, layout, standings, open, selected } = piece;
  const letter = letters(layout.narrow);
  const isSelected = (local: string): boolean => selected === `${circuit.id}/${local}`;
  return layout.parts.map((part) => {
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
      <g key={part.kind === "wire" ? `${unit}${part.from.x}` : unit} {...partProps(piece, unit)}>
        <title>{`${unitTitle(`x/${unit}`, circuit.part)}: ${standing.cleared ? "cleared" : formatPercent(standing.probability)}`}</title>
        {part.kind === "wire" ? (
          <Wire from={part.from} to={part.to} standing={standing} selected={isSelected(unit)} />
        ) : (
          <Contact part={part} standing={standing} open={open(part.place)} selected={isSelected(unit)} />
        )}
        {part.kind === "wire" && <line x1={part.from.x} x2={part.to.x} y1={part.from.y} y2={part.to.y} stroke="transparent" strokeWidth="30" />}
      </g>
    );
  });
}

/** What the connectors are called, and which are unplugged. */
function Connectors({ layout, open }: Piece) {
  return layout.connectors.map(({ place, x }) => (
    <text
      key={place}
      x={layout.narrow && place === "sensor" ? x + 10 : layout.narrow && place === "module" ? x - 10 : x}
      y={layout.module.y + 16}
      textAnchor={layout.narrow && place === "sensor" ? "end" : layout.narrow && place === "module" ? "start" : "middle"}
      fontSize={letters(layout.narrow)}
      fill="var(--soft)"
    >
      {open(place) ? "open" : place === "module" || place === "sensor" ? "" : place}
    </text>
  ));
}

/** How likely each suspected contact is. */
function Percentages({ layout, standings }: Piece) {
  return layout.parts.map((part) => {
    if (part.kind !== "contact") return null;
    const standing = standings(part.unit);
    if (standing.probability <= PERCENT_FROM) return null;
    return (
      <text key={part.unit} {...besideContact(part, layout.narrow)} fontSize={letters(layout.narrow)} fill="var(--ember)" pointerEvents="none">
        {formatPercent(standing.probability)}
      </text>
    );
  });
}

/** Where a contact's percentage stands: below it, on a narrow drawing beside the box it is at. */
function besideContact({ at, place }: { readonly at: Spot; readonly place: string }, narrow: boolean) {
  const y = at.y + 29;
  if (!narrow || (place !== "sensor" && place !== "module")) return { x: at.x, y, textAnchor: "middle" as const };
  return place === "sensor" ? { x: at.x + 14, y, textAnchor: "end" as const } : { x: at.x - 14, y, textAnchor: "start" as const };
}

function stageName(unit: string, { narrow }: Layout): string {
  const name = unitTitle(`x/${unit}`).replace("Module ", "");
  return narrow ? name.replace("reference", "ref") : name;
}

function unitOfRow({ pin }: DrawnRow): string {
  return pin.role === "car-ground" ? pin.pin : `wire:${pin.pin}`;
}
