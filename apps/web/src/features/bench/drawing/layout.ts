import type { CircuitView } from "../analysis";

export interface Spot {
  readonly x: number;
  readonly y: number;
}

/** A drawn part with the repair unit it stands for (`wire:sig`, `contact:sig@sensor`). */
export type DrawnPart =
  | { readonly kind: "wire"; readonly unit: string; readonly from: Spot; readonly to: Spot }
  | { readonly kind: "contact"; readonly unit: string; readonly place: string; readonly at: Spot };

/** Positions of everything in a circuit's drawing, in pixels. */
export interface Layout {
  readonly width: number;
  readonly height: number;
  readonly module: { readonly x: number; readonly y: number; readonly width: number; readonly height: number };
  readonly sensor: { readonly x: number; readonly y: number; readonly width: number; readonly height: number };
  readonly rows: readonly { readonly pin: string; readonly y: number; readonly label: Spot; readonly volts: Spot }[];
  readonly parts: readonly DrawnPart[];
  readonly connectors: readonly { readonly place: string; readonly x: number }[];
  readonly meter: { readonly x: number; readonly y: number; readonly width: number; readonly height: number };
  readonly posts: Readonly<Record<string, Spot>>;
  /** Where a lead touches a point such as `sig@sensor` or `bat-`; null for points that are not drawn. */
  readonly spotOf: (point: string) => Spot | null;
}

const HALF_CONTACT = 9;

/**
 * Lays a circuit out for a width: module on the left, sensor on the right, one straight row per pin, connectors in between,
 * the meter and the battery's posts below when there is a test. Nothing overlaps from 300 pixels up.
 */
export function layoutCircuit(circuit: CircuitView, width: number, withMeter = true): Layout {
  const narrow = width < 520;
  const boxWidth = narrow ? 88 : 136;
  const rowGap = narrow ? 55 : circuit.pins.length <= 2 ? 104 : 80;
  const top = 14;
  const firstRow = top + (narrow ? 56 : 64);
  const rowsHeight = rowGap * (circuit.pins.length - 1);
  const boxHeight = firstRow - top + rowsHeight + (narrow ? 34 : 52);
  const left = 4;
  const module = { x: left, y: top, width: boxWidth, height: boxHeight };
  const sensor = { x: width - boxWidth - left, y: top, width: boxWidth, height: boxHeight };
  const gap = narrow ? 16 : 26;
  const start = module.x + module.width + gap;
  const end = sensor.x - gap;
  const places = ["module", ...circuit.inline, "sensor"];
  const xOf = (place: string): number => start + ((end - start) * places.indexOf(place)) / (places.length - 1);
  const connectors = places.map((place) => ({ place, x: xOf(place) }));
  const rows = circuit.pins.map(({ pin }, index) => {
    const y = firstRow + index * rowGap;
    const middle = 0.5 * (xOf(places[places.length - 2] ?? "module") + end);
    return { pin, y, label: { x: middle, y: y + 19 }, volts: { x: middle, y: y - 11 } };
  });
  const parts = rows.flatMap(({ pin, y }): DrawnPart[] => {
    const wires = places.slice(1).map(
      (place, index): DrawnPart => ({
        kind: "wire",
        unit: `wire:${pin}`,
        from: { x: xOf(places[index] ?? "module") + HALF_CONTACT, y },
        to: { x: xOf(place) - HALF_CONTACT, y },
      }),
    );
    const contacts = places.map((place): DrawnPart => ({ kind: "contact", unit: `contact:${pin}@${place}`, place, at: { x: xOf(place), y } }));
    return [...wires, ...contacts];
  });
  const belowY = top + boxHeight + (narrow ? 26 : 54);
  const meterWidth = narrow ? 84 : 96;
  const meter = { x: 0.5 * width - 0.5 * meterWidth, y: belowY, width: meterWidth, height: 44 };
  const posts: Record<string, Spot> = {
    "bat-": { x: left + 16, y: belowY + 22 },
    "bat+": { x: width - left - 16, y: belowY + 22 },
    chassis: { x: left + (narrow ? 78 : 130), y: belowY + 22 },
    engine: { x: width - left - (narrow ? 78 : 130), y: belowY + 22 },
  };
  const spotOf = (point: string): Spot | null => {
    const post = posts[point];
    if (post) return post;
    const [pinPart = "", place = ""] = (point.split(":").at(-1) ?? point).split("@");
    const row = rows.find(({ pin }) => pin === pinPart);
    if (!row) return null;
    if (place === "part") return { x: sensor.x + 2, y: row.y };
    if (!places.includes(place)) return null;
    const shift = place === "sensor" ? -(HALF_CONTACT + (narrow ? 12 : 18)) : HALF_CONTACT + (narrow ? 12 : 18);
    return { x: xOf(place) + shift, y: row.y };
  };
  const height = withMeter ? belowY + (narrow ? 52 : 74) : top + boxHeight + 16;
  return { width, height, module, sensor, rows, parts, connectors, meter, posts, spotOf };
}
