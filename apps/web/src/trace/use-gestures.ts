import { type KeyboardEvent, type PointerEvent, type RefObject, useCallback, useEffect, useRef } from "react";
import { LEFT, laneAt, type Picture } from "./draw";
import type { Size } from "./use-canvas";
import { moved, type View, within, zoomed } from "./view";

/** A press that moves less than this is a tap, pixels. */
const TAP_PIXELS = 6;
const WHEEL = 0.0016;
const KEY_SHARE = 0.15;
const CLOSER = 0.6;

/** Cursors A and B, in samples. */
export type Cursors = readonly [number | null, number | null];

/** Where A and B are after a tap: A first, then B, then whichever is nearer. */
function tapped([a, b]: Cursors, at: number): Cursors {
  if (a === null) return [at, b];
  if (b === null) return [a, at];
  return Math.abs(a - at) < Math.abs(b - at) ? [at, b] : [a, at];
}

interface Seen extends Pick<Picture, "view" | "length" | "lanes"> {
  readonly cursors: Cursors;
  readonly size: Size;
  readonly onView: (view: View) => void;
  readonly onCursors: (cursors: Cursors) => void;
  readonly onChoose: (lane: number) => void;
}

/** What fingers, wheel and keys do to the traces in a box: drag them along, bring them closer, set the cursors. */
export function useGestures(box: RefObject<HTMLElement | null>, { view, length, lanes, cursors, size, onView, onCursors, onChoose }: Seen) {
  const pointers = useRef(new Map<number, { x: number; y: number; startX: number; startY: number; view: View }>());
  const sampleAt = useCallback(
    (x: number, now: View = view): number => now.from + ((x - LEFT) / (size.width - LEFT)) * (now.to - now.from),
    [view, size.width],
  );
  useEffect(() => {
    const element = box.current;
    if (element === null) return;
    const wheel = (event: WheelEvent): void => {
      event.preventDefault();
      const at = sampleAt(event.clientX - element.getBoundingClientRect().left);
      if (Math.abs(event.deltaX) > Math.abs(event.deltaY)) onView(moved(view, (event.deltaX / size.width) * (view.to - view.from), length));
      else onView(zoomed(view, at, Math.exp(event.deltaY * WHEEL), length));
    };
    element.addEventListener("wheel", wheel, { passive: false });
    return () => element.removeEventListener("wheel", wheel);
  }, [box, view, length, size.width, sampleAt, onView]);

  const place = (event: PointerEvent): { x: number; y: number } => {
    const { left, top } = (box.current as HTMLElement).getBoundingClientRect();
    return { x: event.clientX - left, y: event.clientY - top };
  };
  const down = (event: PointerEvent<HTMLElement>): void => {
    event.currentTarget.setPointerCapture(event.pointerId);
    const { x, y } = place(event);
    for (const pointer of pointers.current.values()) Object.assign(pointer, { startX: pointer.x, view });
    pointers.current.set(event.pointerId, { x, y, startX: x, startY: y, view });
  };
  const move = (event: PointerEvent<HTMLElement>): void => {
    const pointer = pointers.current.get(event.pointerId);
    if (pointer === undefined) return;
    Object.assign(pointer, place(event));
    const [first, second] = [...pointers.current.values()];
    if (first === undefined) return;
    const across = size.width - LEFT;
    if (second === undefined) {
      if (Math.abs(first.x - first.startX) > TAP_PIXELS)
        onView(moved(first.view, (-(first.x - first.startX) / across) * (first.view.to - first.view.from), length));
      return;
    }
    // Two fingers: the samples under them stay under them.
    const [one, other] = [sampleAt(first.startX, first.view), sampleAt(second.startX, first.view)];
    if (Math.abs(first.x - second.x) < 4) return;
    const each = (one - other) / (first.x - second.x);
    const from = one - (first.x - LEFT) * each;
    if (each > 0) onView(within({ from, to: from + across * each }, length));
  };
  const up = (event: PointerEvent<HTMLElement>): void => {
    const pointer = pointers.current.get(event.pointerId);
    const alone = pointers.current.size === 1;
    pointers.current.delete(event.pointerId);
    for (const rest of pointers.current.values()) Object.assign(rest, { startX: rest.x, view });
    if (pointer === undefined || !alone || event.type !== "pointerup") return;
    if (Math.hypot(pointer.x - pointer.startX, pointer.y - pointer.startY) > TAP_PIXELS) return;
    onChoose(laneAt(pointer.y, { height: size.height, lanes }));
    if (pointer.x > LEFT) onCursors(tapped(cursors, Math.max(0, Math.min(length, sampleAt(pointer.x)))));
  };
  const key = (event: KeyboardEvent): void => {
    const middle = 0.5 * (view.from + view.to);
    const by = KEY_SHARE * (view.to - view.from);
    const next: Partial<Record<string, View>> = {
      ArrowLeft: moved(view, -by, length),
      ArrowRight: moved(view, by, length),
      "+": zoomed(view, middle, CLOSER, length),
      "=": zoomed(view, middle, CLOSER, length),
      "-": zoomed(view, middle, 1 / CLOSER, length),
      "0": { from: 0, to: length },
      Home: moved(view, -length, length),
      End: moved(view, length, length),
    };
    const found = next[event.key];
    if (found === undefined || event.ctrlKey || event.metaKey || event.altKey) return;
    event.preventDefault();
    onView(found);
  };
  return { onPointerDown: down, onPointerMove: move, onPointerUp: up, onPointerCancel: up, onKeyDown: key };
}
