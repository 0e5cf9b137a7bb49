import { formatPercent } from "@fox-lamp/core";
import { type DrawnOrigin, type DrawnPart, letters, type Spot } from "./layout";
import { nameLines } from "./name-lines";

/** How a part stands: cleared by readings, suspected, or simply unknown. */
export interface Standing {
  readonly probability: number;
  readonly cleared: boolean;
}

/** Nothing is known of it. */
export const UNKNOWN: Standing = { probability: 0, cleared: false };

/** From here on a part carries its probability in numbers. */
export const PERCENT_FROM = 0.08;
const GLOW_FROM = 0.01;

function strokeOf({ probability, cleared }: Standing): string {
  return probability > PERCENT_FROM ? "var(--ember)" : cleared ? "var(--calm)" : "var(--soft)";
}

/** A wire: dashed and glowing under suspicion, solid when cleared, thin while unknown. */
export function Wire({ from, to, standing, selected }: { from: Spot; to: Spot; standing: Standing; selected: boolean }) {
  const line = { x1: from.x, y1: from.y, x2: to.x, y2: to.y };
  const glow = Math.sqrt(standing.probability);
  const suspect = standing.probability > PERCENT_FROM;
  return (
    <>
      {standing.probability > GLOW_FROM && (
        <line
          {...line}
          className="settle"
          stroke="var(--ember)"
          strokeWidth={10 + 22 * glow}
          strokeLinecap="round"
          opacity={0.1 + 0.55 * glow}
          filter="url(#glow)"
        />
      )}
      <line
        {...line}
        className="settle"
        stroke={strokeOf(standing)}
        strokeWidth={standing.cleared ? 4 : suspect ? 3.5 : 1.75}
        strokeDasharray={standing.cleared || !suspect ? undefined : "10 5"}
      />
      {selected && <line {...line} stroke="var(--lamp)" strokeWidth="1.5" transform="translate(0 9)" />}
    </>
  );
}

/** A contact as a pair; apart when its connector is unplugged. */
export function Contact({
  part,
  standing,
  open,
  selected,
}: {
  part: Extract<DrawnPart, { kind: "contact" }>;
  standing: Standing;
  open: boolean;
  selected: boolean;
}) {
  const { x, y } = part.at;
  const glow = Math.sqrt(standing.probability);
  const apart = open ? 9 : 0;
  const bold = standing.cleared || standing.probability > PERCENT_FROM;
  const box = { width: 8, height: 20, rx: 3, fill: "var(--panel)", stroke: strokeOf(standing), strokeWidth: bold ? 2.5 : 1.4 };
  return (
    <>
      {standing.probability > GLOW_FROM && (
        <circle className="settle" cx={x} cy={y} r={9 + 13 * glow} fill="var(--ember)" opacity={0.12 + 0.55 * glow} filter="url(#glow)" />
      )}
      <rect {...box} x={x - 9 - apart * (part.place === "module" ? 0 : 1)} y={y - 10} />
      <rect {...box} x={x + 1 + apart * (part.place === "module" ? 1 : 0)} y={y - 10} />
      {selected && <rect x={x - 13} y={y - 14} width="26" height="28" rx="5" fill="none" stroke="var(--lamp)" strokeWidth="1.5" />}
    </>
  );
}

/** A fuse of the switched supply, or a ground point: where a wire starts that does not pass the module. */
export function Origin({ origin, narrow }: { origin: DrawnOrigin; narrow: boolean }) {
  const { x, y } = origin.at;
  const label = { fontSize: letters(narrow), fill: "var(--soft)", textAnchor: "middle" as const };
  if (origin.kind === "fuse") {
    return (
      <g>
        <rect x={x - 15} y={y - 8} width="32" height="16" rx="4" fill="var(--panel)" stroke="var(--soft)" strokeWidth="1.4" />
        <path d={`M ${x - 15} ${y} h 6 q 5 -7 10 0 t 10 0 h 6`} fill="none" stroke="var(--soft)" strokeWidth="1.4" />
        <text {...label} textAnchor="start" x={x - 15} y={y + 24}>
          {narrow ? "fuse" : "battery, fused"}
        </text>
      </g>
    );
  }
  return (
    <g stroke="var(--soft)" strokeWidth="1.75">
      <path d={`M ${x + 17} ${y} h -14 v 8 m -9 0 h 18 m -15 5 h 12 m -9 5 h 6`} fill="none" />
      <text {...label} x={x + 4} y={y + 32} stroke="none">
        {origin.kind}
      </text>
    </g>
  );
}

/** Letters of a word that does not fit a phone's box in letters of the usual size, and the size that it fits in, pixels. */
const LONG_WORD = 9;
const LONG_LETTERS = 12;

/** The module, the part or the battery as a box with its name and standing. */
export function Box({
  layout,
  title,
  standing,
  dashed = false,
  unit,
  selected = false,
  plain = false,
}: {
  layout: { x: number; y: number; width: number; height: number };
  title: string;
  standing: Standing;
  dashed?: boolean;
  unit?: object;
  selected?: boolean;
  /** Without a percentage of its own. */
  plain?: boolean;
}) {
  const glow = Math.sqrt(standing.probability);
  const suspect = standing.probability > PERCENT_FROM;
  const bold = standing.cleared || suspect;
  const state = plain ? "" : suspect ? formatPercent(standing.probability) : standing.cleared ? "cleared" : "";
  const narrow = layout.width < 100;
  const { first, second, beside } = nameLines(title, state, narrow);
  // A long word in the box of a phone begins nearer to its edge, in smaller letters.
  const tight = narrow && first.length > LONG_WORD;
  const standingFill = suspect ? "var(--ember)" : "var(--soft)";
  return (
    <g {...unit}>
      {standing.probability > GLOW_FROM && <rect className="settle" {...layout} rx="14" fill="var(--ember)" opacity={0.06 + 0.4 * glow} filter="url(#glow)" />}
      <rect
        {...layout}
        rx="14"
        fill="var(--panel)"
        stroke={selected ? "var(--lamp)" : suspect ? "var(--ember)" : standing.cleared ? "var(--calm)" : "var(--line)"}
        strokeWidth={bold ? 2.5 : 1.5}
        strokeDasharray={dashed && !standing.cleared ? "6 5" : undefined}
      />
      <text x={layout.x + (tight ? 5 : 10)} y={layout.y + 22} fontSize={tight ? LONG_LETTERS : letters(narrow)} fontWeight="700" fill="var(--ink)">
        {first}
      </text>
      {beside !== "" && (
        <text x={layout.x + layout.width - 10} y={layout.y + 22} fontSize={letters(narrow)} textAnchor="end" fill={standingFill}>
          {beside}
        </text>
      )}
      <text x={layout.x + 10} y={layout.y + 40} fontSize={letters(narrow)} fill={standingFill}>
        {second}
      </text>
    </g>
  );
}
