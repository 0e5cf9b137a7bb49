import { formatQuantity } from "@fox-lamp/core";
import { inSentence, meterWords, type NextTest, parsePoint, pinWord } from "@fox-lamp/language";
import { messages } from "../../messages";
import { type Layout, letters, type Spot } from "./layout";

/** What leads need to know of a drawing. */
export type LeadLayout = Pick<Layout, "width" | "narrow" | "module" | "meter" | "posts" | "spotOf">;

/**
 * A lead from the meter to a point: it drops straight to below the circuit, clear of the labels between the contacts, and bends into
 * the meter there.
 * @param aside how far it drops beside the point, where two leads would lie on one another
 */
function leadPath(from: Spot, to: Spot, below: number, aside = 0): string {
  if (from.y >= below) {
    const drop = Math.max(30, 0.5 * (to.y - from.y));
    return `M ${from.x} ${from.y} C ${from.x} ${from.y + drop}, ${to.x} ${to.y - drop}, ${to.x} ${to.y}`;
  }
  const bend = Math.max(22, 0.7 * (to.y - below));
  const x = from.x + aside;
  // Straight past the label under the wire, then beside the points further down.
  const aim = aside === 0 ? "" : `L ${from.x} ${from.y + 27} L ${x} ${from.y + 39} `;
  return `M ${from.x} ${from.y} ${aim}L ${x} ${below} C ${x} ${below + bend}, ${to.x} ${to.y - bend}, ${to.x} ${to.y}`;
}

/** How far a lead that starts above another one at the same connector drops beside it, pixels. */
const BESIDE = 13;

/**
 * How far the leads drop beside their points. Of two at the same connector the upper one passes the lower one on the wire's side, so that
 * it lies on no contact that it does not touch.
 */
function dropsOf(test: NextTest, red: Spot | null, black: Spot | null): { readonly red: number; readonly black: number } {
  if (red === null || black === null || Math.abs(red.x - black.x) >= 14) return { red: 0, black: 0 };
  const upper = red.y <= black.y ? test.red : (test.black ?? "");
  const beside = upper.endsWith("@module") ? BESIDE : -BESIDE;
  return red.y <= black.y ? { red: beside, black: 0 } : { red: 0, black: beside };
}

const POST_NAMES: Readonly<Record<string, string>> = { "bat-": "battery −", "bat+": "battery +" };

/** The car's own points below a circuit: battery posts and grounds. */
export function Posts({ layout, names }: { layout: LeadLayout; names: readonly string[] }) {
  return Object.entries(layout.posts)
    .filter(([name]) => names.includes(name))
    .map(([name, spot]) => <Below key={name} layout={layout} spot={spot} name={POST_NAMES[name] ?? name} />);
}

/** A point below a circuit with its name. @param long a name that reaches under the lead, and stands lower where there is room */
function Below({ layout, spot, name, long = false }: { layout: LeadLayout; spot: Spot; name: string; long?: boolean }) {
  return (
    <g>
      <circle cx={spot.x} cy={spot.y} r="7" fill="none" stroke="var(--soft)" strokeWidth="2" />
      <text
        x={spot.x}
        y={spot.y + (long && !layout.narrow ? 34 : 24)}
        textAnchor={spot.x < 60 ? "start" : spot.x > layout.width - 60 ? "end" : "middle"}
        dx={spot.x < 60 ? -12 : spot.x > layout.width - 60 ? 12 : 0}
        fontSize={letters(layout.narrow)}
        fill="var(--soft)"
      >
        {name}
      </text>
    </g>
  );
}

/** Where points on other circuits are drawn: below this one, in the place of a post nobody has a lead on. @param points all that leads and parts are on */
export function elsewhere({ posts, spotOf }: LeadLayout, points: readonly string[]): ReadonlyMap<string, Spot> {
  const free = Object.entries(posts).flatMap(([name, spot]) => (points.includes(name) ? [] : [spot]));
  const away = [...new Set(points)].filter((point) => parsePoint(point)?.kind === "pin" && point.includes(":") && spotOf(point) === null);
  return new Map(away.flatMap((point, index) => (free[index] === undefined ? [] : [[point, free[index]]])));
}

/** Whether a test has anything to lay on the drawing: eyes, ears and gauges have not, as long as nothing is put in. */
export function hasInstrument(test: NextTest | null): test is NextTest {
  return test !== null && (meterWords(test.meter).electrical || (test.setup.add ?? []).length > 0);
}

/** A letter's width below a circuit, pixels. */
const LETTER = { narrow: 8.4, wide: 7.6 } as const;

/** The name of a point on another circuit, as far as it fits beside the meter. */
export function awayName(point: string, { x }: Spot, { meter, narrow }: LeadLayout, circuits: readonly { id: string; title: string }[]): string {
  const parsed = parsePoint(point);
  if (parsed?.kind !== "pin") return point;
  const title = circuits.find(({ id }) => id === parsed.circuit)?.title ?? parsed.circuit ?? "";
  const name = `${pinWord(parsed.pin)} of ${inSentence(title)}`;
  const room = x < meter.x ? meter.x - x : x - meter.x - meter.width;
  const letters = Math.max(6, Math.floor(room / (narrow ? LETTER.narrow : LETTER.wide)));
  return name.length <= letters ? name : `${name.slice(0, letters - 1)}…`;
}

/** Meter, leads and added parts of a test. @param circuits the job's, for leads on others than the one that is drawn */
export function Instruments({ layout, test, circuits }: { layout: LeadLayout; test: NextTest | null; circuits: readonly { id: string; title: string }[] }) {
  if (!hasInstrument(test)) return null;
  const { meter } = layout;
  const below = layout.module.y + layout.module.height - 4;
  const scan = test.meter === "scan";
  const clamp = test.meter === "amps-dc" && test.black === null;
  const named = [scan ? "" : test.red, test.black ?? "", ...(test.setup.add ?? []).flatMap(({ from, to }) => [from, to])];
  const away = elsewhere(layout, named);
  const spotOf = (point: string): Spot | null => layout.spotOf(point) ?? away.get(point) ?? null;
  const red = scan ? null : spotOf(test.red);
  const black = test.black === null ? null : spotOf(test.black);
  const drops = dropsOf(test, red, black);
  // The lead that comes down on the left goes into the meter on the left.
  const redLeft = red !== null && black !== null && red.x + drops.red < black.x + drops.black;
  const terminal = (left: boolean): number => (left ? meter.x + 14 : meter.x + meter.width - 14);
  return (
    <g>
      <Posts layout={layout} names={named} />
      {[...away].map(([point, spot]) => (
        <Below key={point} layout={layout} spot={spot} name={awayName(point, spot, layout, circuits)} long />
      ))}
      {(test.setup.add ?? []).map((added) => {
        const [from, to] = [spotOf(added.from), spotOf(added.to)];
        if (!from || !to) return null;
        // On a phone the part is written smaller, and the words on the wires make room for it.
        const half = layout.narrow ? 36 : 42;
        const middle = { x: 0.5 * (from.x + to.x) - (layout.narrow ? 29 : 26), y: 0.5 * (from.y + to.y) };
        return (
          <g key={`${added.kind}${added.from}${added.to}`}>
            <path
              d={`M ${from.x} ${from.y} Q ${middle.x - 30} ${middle.y} ${to.x} ${to.y}`}
              fill="none"
              stroke="var(--lamp)"
              strokeWidth="3"
              strokeDasharray="2 5"
              strokeLinecap="round"
            />
            <rect x={middle.x - half} y={middle.y - 12} width={2 * half} height="24" rx="12" fill="var(--ground)" stroke="var(--lamp)" strokeWidth="1.5" />
            <text x={middle.x} y={middle.y + 4.5} textAnchor="middle" fontSize={letters(layout.narrow)} fill="var(--lamp)">
              {added.kind === "resistor" ? formatQuantity(added.ohms ?? 0, "ohm") : added.kind}
            </text>
          </g>
        );
      })}
      {black && (
        <path
          d={leadPath(black, { x: terminal(!redLeft), y: meter.y + (black.y > meter.y ? meter.height : 0) }, below, drops.black)}
          fill="none"
          stroke="var(--lead-black)"
          strokeWidth="3.5"
        />
      )}
      {red && (
        <path
          d={leadPath(red, { x: terminal(redLeft), y: meter.y + (red.y > meter.y ? meter.height : 0) }, below, drops.red)}
          fill="none"
          stroke={clamp ? "var(--lamp)" : "var(--lead-red)"}
          strokeWidth="3.5"
        />
      )}
      {black && <circle cx={black.x} cy={black.y} r="7.5" fill="var(--ground)" stroke="var(--lead-black)" strokeWidth="4" />}
      {red && clamp && <ellipse cx={red.x} cy={red.y} rx="7" ry="13" fill="none" stroke="var(--lamp)" strokeWidth="4" />}
      {red && !clamp && <circle cx={red.x} cy={red.y} r="8" fill="var(--lead-red)" stroke="var(--ground)" strokeWidth="2.5" />}
      {scan && (
        <path
          d={`M ${meter.x} ${meter.y + 22} C ${meter.x - 60} ${meter.y + 22}, ${layout.module.x + 0.5 * layout.module.width} ${meter.y + 20}, ${layout.module.x + 0.5 * layout.module.width} ${layout.module.y + layout.module.height}`}
          fill="none"
          stroke="var(--lamp)"
          strokeWidth="3"
          strokeDasharray="7 5"
        />
      )}
      {meterWords(test.meter).electrical && (
        <>
          <rect x={meter.x} y={meter.y} width={meter.width} height={meter.height} rx="11" fill="var(--well)" stroke="var(--lamp)" strokeWidth="2" />
          <text x={meter.x + 0.5 * meter.width} y={meter.y + 27} textAnchor="middle" fontSize="15" fill="var(--ink)">
            {messages.bench.meter[test.meter]}
          </text>
        </>
      )}
    </g>
  );
}
