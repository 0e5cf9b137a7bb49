import type { CircuitView } from "@fox-lamp/core";
import type { Rectangle, Spot } from "./layout";

/** A branch of a shared wire: down from its splice, across to its sensor. */
export interface DrawnBranch {
  readonly circuit: CircuitView;
  readonly pin: string;
  readonly box: Rectangle;
  /** From the splice down to the branch's row (nothing where it leaves straight), then across to its connector. */
  readonly drop: { readonly from: Spot; readonly to: Spot };
  readonly run: { readonly from: Spot; readonly to: Spot };
  readonly contact: Spot;
  readonly label: Spot;
}

/** Positions of a shared wire with its branches, in pixels. */
export interface BusLayout {
  readonly width: number;
  readonly height: number;
  readonly narrow: boolean;
  readonly module: Rectangle;
  readonly trunk: { readonly from: Spot; readonly to: Spot };
  readonly contact: Spot;
  readonly splices: readonly { readonly place: string; readonly at: Spot }[];
  readonly branches: readonly DrawnBranch[];
  readonly meter: Rectangle;
  readonly posts: Readonly<Record<string, Spot>>;
  readonly spotOf: (point: string) => Spot | null;
}

const NARROW_BELOW = 520;
const TOP = 14;

/** The circuits that hang on a shared wire, with the pin each of them takes from it and the splice it leaves at. */
function membersOf(bus: CircuitView, circuits: readonly CircuitView[]): { circuit: CircuitView; pin: string; at: string }[] {
  return circuits.flatMap((circuit) => circuit.pins.flatMap(({ pin, joins }) => (joins?.bus === bus.id ? [{ circuit, pin, at: joins.at }] : [])));
}

/**
 * Lays a shared wire out: the module, one trunk with its splices, and a sensor a row. Branches of the farthest splice stand on top,
 * so that no branch crosses the drop of another splice.
 */
export function layoutBus(bus: CircuitView, circuits: readonly CircuitView[], width: number, withMeter = true): BusLayout {
  const narrow = width < NARROW_BELOW;
  const boxWidth = narrow ? 96 : 156;
  const rowHeight = narrow ? 50 : 56;
  const members = membersOf(bus, circuits);
  const trunkPin = bus.pins[0];
  const places = (trunkPin?.places ?? []).filter((place) => place !== "module" && members.some(({ at }) => at === place));
  const rank = (at: string): number => (at === "module" ? -1 : places.indexOf(at));
  const ordered = [...members].sort((a, b) => rank(b.at) - rank(a.at));
  const moduleWidth = narrow ? 84 : 136;
  const top = TOP + 8;
  const rows = Math.max(2, ordered.length);
  const bodyHeight = rows * rowHeight;
  const module = { x: 4, y: TOP, width: moduleWidth, height: bodyHeight + 24 };
  const trunkY = top + rowHeight / 2 + 6;
  const start = module.x + module.width + (narrow ? 18 : 30);
  const boxX = width - boxWidth - 4;
  const end = boxX - (narrow ? 60 : 150);
  const columns = Math.max(1, places.length);
  const xOf = (place: string): number => (place === "module" ? module.x + module.width : start + ((end - start) * (places.indexOf(place) + 1)) / columns);
  const splices = places.map((place) => ({ place, at: { x: xOf(place), y: trunkY } }));
  const branches = ordered.map(({ circuit, pin, at }, index): DrawnBranch => {
    const y = trunkY + index * rowHeight;
    const from = { x: xOf(at), y: at === "module" ? y : trunkY };
    const contact = { x: boxX - 16, y };
    return {
      circuit,
      pin,
      box: { x: boxX, y: y - rowHeight / 2 + 5, width: boxWidth, height: rowHeight - 10 },
      drop: { from, to: { x: from.x, y } },
      run: { from: { x: from.x, y }, to: { x: contact.x - 9, y } },
      contact,
      label: { x: 0.5 * (Math.max(from.x, end) + contact.x - 9), y: y + 19 },
    };
  });
  const bottom = Math.max(module.y + module.height, trunkY + (ordered.length - 1) * rowHeight + rowHeight / 2);
  const belowY = bottom + (narrow ? 26 : 40);
  const meterWidth = narrow ? 84 : 96;
  const meter = { x: 0.5 * width - 0.5 * meterWidth, y: belowY, width: meterWidth, height: 44 };
  const posts: Record<string, Spot> = {
    "bat-": { x: 20, y: belowY + 22 },
    "bat+": { x: width - 20, y: belowY + 22 },
    chassis: { x: narrow ? 82 : 134, y: belowY + 22 },
    engine: { x: width - (narrow ? 82 : 134), y: belowY + 22 },
  };
  const contact = { x: module.x + module.width + 16, y: trunkY };
  const spotOf = (point: string): Spot | null => {
    const post = posts[point];
    if (post) return post;
    const [owner, local] = point.includes(":") ? (point.split(":") as [string, string]) : [bus.id, point];
    const [pin = "", place = ""] = local.split("@");
    if (owner === bus.id) {
      if (place === "module") return { x: contact.x + 24, y: trunkY };
      return splices.find((splice) => splice.place === place)?.at ?? null;
    }
    const branch = branches.find(({ circuit }) => circuit.id === owner);
    if (!branch || branch.pin !== pin) return null;
    if (place === "part") return { x: branch.box.x + 2, y: branch.contact.y };
    return place === "sensor" ? { x: branch.contact.x - 26, y: branch.contact.y } : (splices.find((splice) => splice.place === place)?.at ?? null);
  };
  const last = splices.at(-1)?.at ?? { x: end, y: trunkY };
  return {
    width,
    height: withMeter ? belowY + (narrow ? 52 : 74) : bottom + 16,
    narrow,
    module,
    trunk: { from: { x: contact.x + 9, y: trunkY }, to: last },
    contact,
    splices,
    branches,
    meter,
    posts,
    spotOf,
  };
}
