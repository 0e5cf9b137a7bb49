import { PYRAMID_BASE, type Pyramid, rangeOver } from "@fox-lamp/core";
import { ticks, type View } from "./view";

/** A channel as it is drawn: its own lane, one below the other. */
export interface Lane {
  readonly name: string;
  readonly unit: string;
  readonly pyramid: Pyramid;
  /** The samples around the view, where it is closer than the pyramid; the first of them at `from`. */
  readonly near: { readonly from: number; readonly samples: Float32Array } | null;
  readonly low: number;
  readonly high: number;
  /** Where a sound circuit would stay, or its two levels would be; empty where nobody has computed it. */
  readonly bands: readonly { readonly low: number; readonly high: number }[];
  /** Taken off everything that is drawn: its average, where it is shown without it. */
  readonly less: number;
  readonly chosen: boolean;
  /** The same channel of another capture, drawn behind: its sample that lies under sample 0, and its samples for one of these. */
  readonly other?: { readonly pyramid: Pyramid; readonly length: number; readonly at: number; readonly each: number } | undefined;
}

/** A stretch that stands out, on one lane. */
export interface Marked {
  readonly lane: number;
  readonly from: number;
  readonly to: number;
}

/** Colours of the theme. */
export interface Inks {
  readonly ink: string;
  readonly soft: string;
  readonly line: string;
  readonly lamp: string;
  readonly ember: string;
  readonly calm: string;
  readonly well: string;
}

export interface Picture {
  readonly width: number;
  readonly height: number;
  readonly view: View;
  readonly length: number;
  readonly rate: number;
  readonly start: number;
  readonly lanes: readonly Lane[];
  readonly marked: readonly Marked[];
  readonly cursors: readonly (number | null)[];
  readonly inks: Inks;
}

/** Room for the scale at the left and for time at the foot, pixels. */
export const LEFT = 54;
export const FOOT = 22;
const PADDING = 10;
/** A lane shows at least this share of its level. */
const LEAST_SPAN = 0.3;
/** Channels that should stand: their noise is not blown up to fill the lane. */
const STANDS = /(^|:)(p?gnd\d?|ret|shield|ref\d?|feed|htr-feed)(@|$)/u;
const FONT = '12px "Atkinson Hyperlegible Mono Variable", monospace';
const NAME_FONT = '600 13px "Atkinson Hyperlegible Next Variable", sans-serif';

/** The scale a lane has unless somebody sets another: all that was seen, with some room, zero in it where it is near. */
export function scaleOf(pyramid: Pyramid, channel = ""): { low: number; high: number } {
  const whole = pyramid.at(-1);
  const [low, high] = [whole?.[0] ?? 0, whole?.[1] ?? 1];
  // What stands still is not drawn as if it moved.
  const least = Math.max(LEAST_SPAN * Math.max(Math.abs(low), Math.abs(high)), STANDS.test(channel) ? 1 : 0.05);
  const middle = 0.5 * (low + high);
  const [bottom, top] = high - low < least ? [middle - 0.5 * least, middle + 0.5 * least] : [low > 0 && low < 0.6 * high ? 0 : low, high];
  return { low: bottom - 0.06 * (top - bottom), high: top + 0.08 * (top - bottom) };
}

/** Lowest and highest of what one column of pixels shows; null outside the capture. */
function columnOf({ pyramid, near }: Lane, from: number, to: number, length: number): { low: number; high: number } | null {
  const [first, last] = [Math.floor(from), Math.max(Math.floor(from) + 1, Math.ceil(to))];
  if (near === null || first < near.from || last > near.from + near.samples.length) return rangeOver(pyramid, null, { from: first, to: last }, length);
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (let at = Math.max(0, first); at < Math.min(length, last); at += 1) {
    const value = near.samples[at - near.from] as number;
    if (value < low) low = value;
    if (value > high) high = value;
  }
  return low > high ? null : { low, high };
}

/**
 * A bar from lowest to highest in every column, reaching to the one before. Upright bars of whole pixels are many times quicker to paint than a
 * line that runs up and down through them.
 */
function drawBars(
  context: CanvasRenderingContext2D,
  weight: number,
  { width, view }: Picture,
  seen: (from: number, to: number) => { low: number; high: number } | null,
  y: (value: number) => number,
): void {
  const samples = (view.to - view.from) / (width - LEFT);
  context.fillStyle = context.strokeStyle;
  let before: { top: number; foot: number } | null = null;
  for (let x = LEFT; x < width; x += 1) {
    const at = view.from + (x - LEFT) * samples;
    const column = seen(at, at + samples);
    if (column === null) {
      before = null;
      continue;
    }
    const own = { top: y(column.high), foot: y(column.low) };
    const top: number = before === null ? own.top : Math.min(own.top, before.foot);
    const foot: number = before === null ? own.foot : Math.max(own.foot, before.top);
    context.fillRect(x, top - weight / 2, 1, Math.max(weight, foot - top + weight));
    before = own;
  }
}

/** Draws one lane's trace: a bar from lowest to highest in every column, joined to the one before. */
function drawTrace(context: CanvasRenderingContext2D, lane: Lane, picture: Picture, y: (value: number) => number): void {
  const { width, view, length, inks } = picture;
  const samples = (view.to - view.from) / (width - LEFT);
  context.strokeStyle = lane.chosen ? inks.lamp : inks.ink;
  context.lineWidth = lane.chosen ? 2 : 1.25;
  context.lineJoin = "round";
  context.beginPath();
  let joined = false;
  if (samples < 1 && lane.near !== null) {
    // Closer than a sample a pixel: the samples themselves, joined by lines.
    for (let at = Math.max(0, Math.floor(view.from)); at <= Math.min(length - 1, Math.ceil(view.to)); at += 1) {
      const value = lane.near.samples[at - lane.near.from];
      if (value === undefined) continue;
      const x = LEFT + (at - view.from) / samples;
      if (joined) context.lineTo(x, y(value));
      else context.moveTo(x, y(value));
      joined = true;
    }
  } else {
    drawBars(context, context.lineWidth, picture, (from, to) => columnOf(lane, from, to, length), y);
    return;
  }
  context.stroke();
}

/** Draws the other capture's trace behind, as a pale bar from lowest to highest. */
function drawOther(context: CanvasRenderingContext2D, { other }: Lane, picture: Picture, y: (value: number) => number): void {
  if (other === undefined) return;
  context.strokeStyle = picture.inks.calm;
  context.globalAlpha = 0.55;
  const under = (from: number, to: number) => {
    const first = Math.floor(other.at + from * other.each);
    return first < 0 ? null : rangeOver(other.pyramid, null, { from: first, to: Math.ceil(other.at + to * other.each) }, other.length);
  };
  drawBars(context, 1, picture, under, y);
  context.globalAlpha = 1;
}

/** The lane a height belongs to. */
export function laneAt(y: number, { height, lanes }: Pick<Picture, "height" | "lanes">): number {
  return Math.max(0, Math.min(lanes.length - 1, Math.floor((y / (height - FOOT)) * lanes.length)));
}

/** Draws everything: lanes from the top, each with its scale, its healthy window and its trace, then time, then the cursors over all. */
export function drawPicture(context: CanvasRenderingContext2D, picture: Picture): void {
  const { width, height, view, lanes, marked, cursors, inks } = picture;
  const laneHeight = (height - FOOT) / Math.max(1, lanes.length);
  const x = (sample: number): number => LEFT + ((sample - view.from) / (view.to - view.from)) * (width - LEFT);
  context.fillStyle = inks.well;
  context.fillRect(0, 0, width, height);
  lanes.forEach((lane, index) => {
    const top = index * laneHeight;
    const y = (value: number): number => top + laneHeight - PADDING - ((value - lane.low) / (lane.high - lane.low)) * (laneHeight - 2 * PADDING);
    const shown = (value: number): number => y(value - lane.less);
    context.save();
    context.beginPath();
    context.rect(LEFT, top, width - LEFT, laneHeight);
    context.clip();
    for (const band of lane.bands) {
      context.fillStyle = inks.calm;
      context.globalAlpha = 0.16;
      context.fillRect(LEFT, shown(band.high), width - LEFT, Math.max(2, shown(band.low) - shown(band.high)));
      context.globalAlpha = 1;
    }
    for (const { from, to } of marked.filter((one) => one.lane === index)) {
      const [left, right] = [x(from), Math.max(x(to), x(from) + 3)];
      context.fillStyle = inks.ember;
      context.globalAlpha = 0.16;
      context.fillRect(left, top, right - left, laneHeight);
      context.globalAlpha = 1;
      context.fillRect(left, top, right - left, 3);
    }
    context.strokeStyle = inks.line;
    context.lineWidth = 1;
    for (const { at } of ticks(lane.low, lane.high, laneHeight / 34)) {
      context.globalAlpha = at === 0 ? 1 : 0.45;
      context.beginPath();
      context.moveTo(LEFT, y(at));
      context.lineTo(width, y(at));
      context.stroke();
    }
    context.globalAlpha = 1;
    drawOther(context, lane, picture, shown);
    drawTrace(context, lane, picture, shown);
    context.restore();
    context.font = FONT;
    context.fillStyle = inks.soft;
    context.textAlign = "right";
    context.textBaseline = "middle";
    for (const { at, text } of ticks(lane.low, lane.high, laneHeight / 34)) {
      if (y(at) > top + 8 && y(at) < top + laneHeight - 6) context.fillText(text, LEFT - 6, y(at));
    }
    context.textAlign = "left";
    context.textBaseline = "top";
    context.font = NAME_FONT;
    const title = `${lane.name}, ${lane.unit}`;
    context.fillStyle = inks.well;
    context.globalAlpha = 0.75;
    context.fillRect(LEFT + 4, top + 4, context.measureText(title).width + 8, 18);
    context.globalAlpha = 1;
    context.fillStyle = lane.chosen ? inks.lamp : inks.ink;
    context.fillText(title, LEFT + 8, top + 6);
    context.strokeStyle = inks.line;
    context.beginPath();
    context.moveTo(0, top + laneHeight);
    context.lineTo(width, top + laneHeight);
    context.stroke();
  });
  drawTime(context, picture, x);
  cursors.forEach((cursor, index) => {
    if (cursor === null || cursor < view.from || cursor > view.to) return;
    context.strokeStyle = inks.lamp;
    context.lineWidth = 1.5;
    context.setLineDash(index === 0 ? [] : [6, 4]);
    context.beginPath();
    context.moveTo(x(cursor), 0);
    context.lineTo(x(cursor), height - FOOT);
    context.stroke();
    context.setLineDash([]);
    context.fillStyle = inks.lamp;
    context.font = NAME_FONT;
    context.textAlign = "center";
    context.textBaseline = "bottom";
    context.fillText(index === 0 ? "A" : "B", x(cursor), height - FOOT - 2);
  });
}

function drawTime(context: CanvasRenderingContext2D, { width, height, view, rate, start, inks }: Picture, x: (sample: number) => number): void {
  const [from, to] = [start + view.from / rate, start + view.to / rate];
  const fine = to - from < 0.5;
  const factor = fine ? 1000 : 1;
  context.font = FONT;
  context.fillStyle = inks.soft;
  context.textAlign = "center";
  context.textBaseline = "middle";
  for (const { at, text } of ticks(from * factor, to * factor, (width - LEFT) / 110)) {
    const place = x((at / factor - start) * rate);
    if (place > LEFT + 20 && place < width - 34) context.fillText(`${text} ${fine ? "ms" : "s"}`, place, height - FOOT / 2);
  }
}

/** Whether a view is closer than the pyramid's lowest level. */
export function needsSamples(view: View, width: number): boolean {
  return (view.to - view.from) / Math.max(1, width - LEFT) < 2 * PYRAMID_BASE;
}
