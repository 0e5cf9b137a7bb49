import type { CircuitView } from "@fox-lamp/core";
import { connectorAt, meterWords, type NextTest, parsePoint, pinWord } from "@fox-lamp/language";
import { messages } from "../../../messages";

const t = messages.bench;
const CELL = 40;
const GAP = 8;
const PAD = 12;
const MOST_COLUMNS = 4;

/** A cavity of a connector: its name and the pin in it. */
interface Cavity {
  readonly name: string;
  readonly pin: string;
}

/** Cavities of a circuit at one of its connectors, in the order of their names; without names there is no face to show. */
function cavitiesAt(circuit: CircuitView, place: string): Cavity[] {
  return circuit.pins
    .flatMap(({ pin, cavity, contacts }) => (cavity !== null && contacts.includes(place) ? [{ name: cavity, pin }] : []))
    .sort((a, b) => a.name.localeCompare(b.name, "en", { numeric: true }));
}

interface FaceProps {
  readonly place: string;
  readonly cavities: readonly Cavity[];
  readonly open: boolean;
  readonly red: string | null;
  readonly black: string | null;
  /** Puts the red lead into another cavity. */
  readonly onTouch: (pin: string) => void;
}

/**
 * One connector as one sees it with a lead in the hand: from the wire side while it is plugged (back-probed), the harness half's
 * open face, mirrored, when it is unplugged.
 */
function Face({ place, cavities, open, red, black, onTouch }: FaceProps) {
  const columns = Math.min(MOST_COLUMNS, cavities.length);
  const rows = Math.ceil(cavities.length / columns);
  const width = 2 * PAD + columns * CELL + (columns - 1) * GAP;
  const height = 2 * PAD + rows * CELL + (rows - 1) * GAP + 6;
  return (
    <figure className="m-0 flex items-center gap-3">
      <svg width={width} height={height} viewBox={`0 0 ${width} ${height}`}>
        <title>{faceText(place, cavities, open, red, black)}</title>
        <rect x="1" y="7" width={width - 2} height={height - 8} rx="10" fill="var(--well)" stroke="var(--soft)" strokeWidth="1.75" />
        <rect x={width / 2 - 14} y="1" width="28" height="8" rx="3" fill="var(--well)" stroke="var(--soft)" strokeWidth="1.75" />
        {cavities.map(({ name, pin }, index) => {
          const column = index % columns;
          const x = PAD + (open ? columns - 1 - column : column) * (CELL + GAP);
          const y = 6 + PAD + Math.floor(index / columns) * (CELL + GAP);
          const touched = pin === red || pin === black;
          const colour = pin === red ? "var(--lead-red)" : pin === black ? "var(--lead-black)" : "var(--line)";
          return (
            // biome-ignore lint/a11y/useSemanticElements: a button of the page cannot stand in a drawing
            <g
              key={name}
              role="button"
              tabIndex={0}
              aria-label={messages.ownTest.puts(messages.ownTest.boardLead.red, `${name}, ${pinWord(pin)}`)}
              aria-disabled={pin === red}
              className="cursor-pointer"
              onClick={() => pin !== red && onTouch(pin)}
              onKeyDown={(event) => {
                if (event.key !== "Enter" && event.key !== " ") return;
                event.preventDefault();
                if (pin !== red) onTouch(pin);
              }}
            >
              <rect x={x} y={y} width={CELL} height={CELL} rx="7" fill={touched ? colour : "none"} stroke={colour} strokeWidth={touched ? 3 : 1.5} />
              <text
                x={x + CELL / 2}
                y={y + CELL / 2 + 6}
                textAnchor="middle"
                fontSize="17"
                fontWeight={touched ? 700 : 400}
                fill={touched ? "var(--ground)" : "var(--soft)"}
                className="readout"
              >
                {name}
              </text>
            </g>
          );
        })}
      </svg>
      <figcaption className="text-xs text-soft">{open ? t.faceOpen(place) : t.face(place)}</figcaption>
    </figure>
  );
}

function faceText(place: string, cavities: readonly Cavity[], open: boolean, red: string | null, black: string | null): string {
  const lead = (word: string, pin: string | null): string => {
    const cavity = cavities.find((candidate) => candidate.pin === pin);
    return cavity === undefined ? "" : `, ${word} in cavity ${cavity.name}, ${pinWord(cavity.pin)}`;
  };
  return `${open ? t.faceOpen(place) : t.face(place)}${lead(t.red, red)}${lead(t.black, black)}`;
}

interface FacesProps {
  readonly circuit: CircuitView;
  readonly test: NextTest;
  /** Another cavity was touched: the test with its red lead there. */
  readonly onTouch: (point: string) => void;
}

/** The connectors a test's leads go to, each with the cavity to touch; a touch on another cavity takes the red lead there. */
export function ConnectorFaces({ circuit, test, onTouch }: FacesProps) {
  if (!meterWords(test.meter).leads) return null;
  const at = (lead: string | null): { pin: string; place: string } | null => {
    const point = lead === null ? null : parsePoint(lead);
    return point?.kind === "pin" && point.place !== "part" && (point.circuit ?? circuit.id) === circuit.id
      ? { pin: point.pin, place: connectorAt(point.place) }
      : null;
  };
  const [red, black] = [at(test.red), at(test.black)];
  const places = [...new Set([red?.place, black?.place].filter((place) => place !== undefined))];
  return places.map((place) => {
    const cavities = cavitiesAt(circuit, place);
    if (cavities.length === 0) return null;
    const open = (test.setup.open ?? []).some((name) => name === place || name === `${circuit.id}:${place}`);
    const pinAt = (lead: typeof red): string | null => (lead?.place === place ? lead.pin : null);
    const name = place === "sensor" ? circuit.part : place === "module" ? t.moduleWord : place;
    return (
      <Face key={place} place={name} cavities={cavities} open={open} red={pinAt(red)} black={pinAt(black)} onTouch={(pin) => onTouch(`${pin}@${place}`)} />
    );
  });
}
