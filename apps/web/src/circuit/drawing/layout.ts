import type { CircuitView, PinView } from "@fox-lamp/core";
import { connectorAt } from "@fox-lamp/language";

export interface Spot {
  readonly x: number;
  readonly y: number;
}

export interface Rectangle extends Spot {
  readonly width: number;
  readonly height: number;
}

/** A drawn part with the repair unit it stands for (`wire:sig`, `contact:sig@sensor`); null where it belongs to another circuit. */
export type DrawnPart =
  | { readonly kind: "wire"; readonly unit: string | null; readonly pin: string; readonly from: Spot; readonly to: Spot }
  | { readonly kind: "contact"; readonly unit: string; readonly pin: string; readonly place: string; readonly at: Spot }
  | { readonly kind: "splice"; readonly pin: string; readonly place: string; readonly at: Spot };

/** Where a conductor starts when that is not the module: a fuse, or a ground point. */
export interface DrawnOrigin {
  readonly kind: "fuse" | "chassis" | "engine";
  readonly pin: string;
  readonly at: Spot;
}

export interface DrawnRow {
  readonly pin: PinView;
  readonly y: number;
  readonly label: Spot;
  readonly volts: Spot;
  /** Stubs from the boxes to the first and last contact. */
  readonly stubs: readonly { readonly from: Spot; readonly to: Spot }[];
}

/** Positions of everything in a circuit's drawing, in pixels. */
export interface Layout {
  readonly width: number;
  readonly height: number;
  readonly narrow: boolean;
  readonly module: Rectangle;
  readonly sensor: Rectangle;
  readonly rows: readonly DrawnRow[];
  readonly parts: readonly DrawnPart[];
  readonly origins: readonly DrawnOrigin[];
  readonly connectors: readonly { readonly place: string; readonly x: number }[];
  readonly meter: Rectangle;
  readonly posts: Readonly<Record<string, Spot>>;
  /** Where a lead touches a point such as `sig@sensor` or `bat-`; null for points that are not drawn. */
  readonly spotOf: (point: string) => Spot | null;
}

/** Letters of a drawing, pixels: read at arm's length, on a phone under a hood. */
export const letters = (narrow: boolean): number => (narrow ? 16 : 15);
/** From one line of small print in a box to the next, pixels. */
export const LINE = 18;

const HALF_CONTACT = 9;
const NARROW_BELOW = 520;

/** Places of all pins in order from the module outwards, splices before connectors of the loom. */
function columnsOf(circuit: CircuitView): string[] {
  const all = new Set(circuit.pins.flatMap(({ places }) => places));
  const rank = (place: string): number =>
    (place === "module" ? 0 : place === "sensor" ? 1000 : place.startsWith("S") ? 100 : 200) + (Number(place.slice(1)) || 0);
  const sorted = [...all].sort((a, b) => rank(a) - rank(b));
  if (!all.has("module")) sorted.unshift("module");
  if (!all.has("sensor")) sorted.push("sensor");
  return sorted;
}

function rowGapOf(rows: number, narrow: boolean): number {
  if (narrow) return 50;
  return rows <= 2 ? 104 : rows <= 4 ? 80 : 58;
}

/**
 * Lays a circuit out for a width: module on the left, sensor on the right, one straight row per pin, connectors in between,
 * the meter and the battery's posts below when there is a test. Nothing overlaps from 300 pixels up.
 */
export function layoutCircuit(circuit: CircuitView, width: number, withMeter = true): Layout {
  const narrow = width < NARROW_BELOW;
  const boxWidth = narrow ? 88 : 136;
  const count = Math.max(1, circuit.pins.length);
  const rowGap = rowGapOf(circuit.pins.length, narrow);
  const top = 14;
  const firstRow = top + (narrow ? 56 : 64);
  const rowsHeight = rowGap * (count - 1);
  const listHeight = circuit.members.length === 0 ? 0 : 52 + LINE * circuit.members.length;
  const rowsBox = firstRow - top + rowsHeight + (narrow ? 42 : 58) + (circuit.extras.length > 1 ? 12 : 0);
  const boxHeight = Math.max(rowsBox, listHeight);
  const left = 4;
  const module = { x: left, y: top, width: boxWidth, height: boxHeight };
  const sensor = { x: width - boxWidth - left, y: top, width: boxWidth, height: boxHeight };
  const gap = narrow ? 16 : 26;
  const start = module.x + module.width + gap;
  const end = sensor.x - gap;
  const columns = columnsOf(circuit);
  const xOf = (place: string): number => start + ((end - start) * columns.indexOf(place)) / (columns.length - 1);
  const parts: DrawnPart[] = [];
  const origins: DrawnOrigin[] = [];
  const rows = circuit.pins.map((pin, index): DrawnRow => {
    const y = firstRow + index * rowGap;
    parts.push(...partsOfRow(pin, y, xOf));
    if (pin.origin === "fuse" || pin.origin === "chassis" || pin.origin === "engine")
      origins.push({ kind: pin.origin, pin: pin.pin, at: { x: xOf("module"), y } });
    const last = pin.places.at(-1) ?? "sensor";
    const before = pin.places.at(-2) ?? "module";
    const middle = pin.places.length === 0 ? 0.5 * (start + end) : 0.5 * (xOf(before) + xOf(last));
    // On a narrow screen an inline connector leaves no room for both: the colour goes to the first stretch, the volts to the last.
    const next = pin.places.find((place) => place !== "module") ?? "sensor";
    const aside = narrow && columns.length > 2 && pin.places.length > 1 ? 0.5 * (xOf("module") + xOf(next)) : middle;
    return { pin, y, label: { x: aside, y: y + 19 }, volts: { x: middle, y: y - 11 }, stubs: stubsOf(pin, y, xOf, module, sensor) };
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
    const [local = "", owner] = point.split(":").reverse();
    // A lead on another circuit is nowhere on this one.
    if (owner !== undefined && owner !== circuit.id) return null;
    const [pinPart = "", place = ""] = local.split("@");
    const row = rows.find(({ pin }) => pin.pin === pinPart);
    if (!row) return null;
    if (place === "part") return row.pin.reachesPart ? { x: sensor.x + 2, y: row.y } : null;
    const connector = connectorAt(place);
    if (!row.pin.places.includes(connector)) return null;
    // A lead is on the half it is on: the harness half of the module's and the sensor's connector, either half of one between.
    const outwards = place === "module" || connector !== place;
    const shift = (outwards ? 1 : -1) * (HALF_CONTACT + (narrow ? 12 : 18));
    return { x: xOf(connector) + (row.pin.contacts.includes(connector) || place === "module" ? shift : 0), y: row.y };
  };
  const connectors = columns.filter((place) => circuit.pins.some(({ contacts }) => contacts.includes(place))).map((place) => ({ place, x: xOf(place) }));
  const height = withMeter ? belowY + (narrow ? 52 : 74) : top + boxHeight + 16;
  return { width, height, narrow, module, sensor, rows, parts, origins, connectors, meter, posts, spotOf };
}

function partsOfRow(pin: PinView, y: number, xOf: (place: string) => number): DrawnPart[] {
  const { places, contacts, joins } = pin;
  const parts: DrawnPart[] = [];
  const edge = (place: string, side: 1 | -1): number =>
    xOf(place) + side * (contacts.includes(place) ? HALF_CONTACT : place === "module" ? HALF_CONTACT + 8 : 0);
  if (pin.role === "car-ground") {
    return [{ kind: "wire", unit: pin.pin, pin: pin.pin, from: { x: xOf("module") - 8, y }, to: { x: xOf("sensor") + 8, y } }];
  }
  const sharedUpTo = joins === null || joins.at === "module" ? -1 : places.indexOf(joins.at);
  const walked = places[0] === "module" ? places : ["module", ...places];
  walked.slice(1).forEach((place, index) => {
    const from = walked[index] as string;
    const shared = places.indexOf(place) <= sharedUpTo;
    const ends = { from: { x: edge(from, 1), y }, to: { x: edge(place, -1), y } };
    parts.push({ kind: "wire", unit: shared ? null : `wire:${pin.pin}`, pin: pin.pin, ...ends });
  });
  for (const place of places) {
    if (contacts.includes(place)) parts.push({ kind: "contact", unit: `contact:${pin.pin}@${place}`, pin: pin.pin, place, at: { x: xOf(place), y } });
    else if (place.startsWith("S")) parts.push({ kind: "splice", pin: pin.pin, place, at: { x: xOf(place), y } });
  }
  return parts;
}

function stubsOf(pin: PinView, y: number, xOf: (place: string) => number, module: Rectangle, sensor: Rectangle): DrawnRow["stubs"] {
  const stubs: { from: Spot; to: Spot }[] = [];
  if (pin.role === "car-ground") return stubs;
  if (pin.origin === "module") {
    const to = pin.contacts.includes("module") ? xOf("module") - HALF_CONTACT : xOf("module") + HALF_CONTACT + 8;
    stubs.push({ from: { x: module.x + module.width, y }, to: { x: to, y } });
  }
  const last = pin.places.at(-1);
  if (pin.reachesPart) stubs.push({ from: { x: xOf("sensor") + HALF_CONTACT, y }, to: { x: sensor.x, y } });
  else if (last !== undefined && last !== "sensor")
    stubs.push({ from: { x: xOf(last) + (pin.contacts.includes(last) ? HALF_CONTACT : 0), y }, to: { x: sensor.x, y } });
  return stubs;
}
