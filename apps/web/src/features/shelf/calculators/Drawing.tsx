import { messages } from "../../../messages";
import { figures } from "./numbers";

const t = messages.shelf;
const [WIDTH, HEIGHT] = [460, 240];
const [LEFT, RIGHT, TOP, FOOT] = [62, 16, 14, 46];

interface Point {
  readonly x: number;
  readonly y: number;
}

interface Props {
  readonly points: readonly Point[];
  readonly here: Point | null;
  readonly along: string;
  readonly answer: string;
}

function endsOf(values: readonly number[]): [number, number] {
  const [low, high] = [Math.min(...values), Math.max(...values)];
  return high > low ? [low, high] : [low - Math.max(1, Math.abs(low)) / 2, high + Math.max(1, Math.abs(high)) / 2];
}

/** An end of an axis, short enough for its margin. */
const axis = (value: number): string => figures(Number(value.toPrecision(3)));

/** How the answer changes with one of the numbers, and where it is now. */
export function Drawing({ points, here, along, answer }: Props) {
  if (points.length < 3) return null;
  const [x0, x1] = endsOf(points.map(({ x }) => x));
  const [y0, y1] = endsOf(points.map(({ y }) => y));
  const px = (x: number): number => LEFT + ((x - x0) / (x1 - x0)) * (WIDTH - LEFT - RIGHT);
  const py = (y: number): number => HEIGHT - FOOT - ((y - y0) / (y1 - y0)) * (HEIGHT - TOP - FOOT);
  const path = points.map(({ x, y }, index) => `${index === 0 ? "M" : "L"}${px(x).toFixed(1)} ${py(y).toFixed(1)}`).join("");
  return (
    <svg viewBox={`0 0 ${WIDTH} ${HEIGHT}`} role="img" aria-label={t.drawing(answer, along)} className="h-auto w-full">
      <line x1={LEFT} y1={HEIGHT - FOOT} x2={WIDTH - RIGHT} y2={HEIGHT - FOOT} stroke="var(--line)" />
      <line x1={LEFT} y1={TOP} x2={LEFT} y2={HEIGHT - FOOT} stroke="var(--line)" />
      {here !== null && (
        <g stroke="var(--soft)" strokeDasharray="4 4">
          <line x1={px(here.x)} y1={py(here.y)} x2={px(here.x)} y2={HEIGHT - FOOT} />
          <line x1={LEFT} y1={py(here.y)} x2={px(here.x)} y2={py(here.y)} />
        </g>
      )}
      <path d={path} fill="none" stroke="var(--lamp)" strokeWidth="2.5" strokeLinejoin="round" />
      {here !== null && <circle cx={px(here.x)} cy={py(here.y)} r="6" fill="var(--lamp)" stroke="var(--panel)" strokeWidth="2" />}
      <g fill="var(--soft)" fontSize="15" className="readout">
        <text x={LEFT - 8} y={TOP + 8} textAnchor="end">
          {axis(y1)}
        </text>
        <text x={LEFT - 8} y={HEIGHT - FOOT} textAnchor="end">
          {axis(y0)}
        </text>
        <text x={LEFT} y={HEIGHT - FOOT + 18}>
          {axis(x0)}
        </text>
        <text x={WIDTH - RIGHT} y={HEIGHT - FOOT + 18} textAnchor="end">
          {axis(x1)}
        </text>
      </g>
      <text x={(LEFT + WIDTH - RIGHT) / 2} y={HEIGHT - 8} textAnchor="middle" fontSize="15" fill="var(--soft)">
        {along}
      </text>
    </svg>
  );
}
