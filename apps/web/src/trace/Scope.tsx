import { useEffect, useRef } from "react";
import { messages } from "../messages";
import type { Picture } from "./draw";
import { useCanvas } from "./use-canvas";
import { type Cursors, useGestures } from "./use-gestures";
import type { View } from "./view";

const t = messages.traces;

interface Props extends Omit<Picture, "width" | "height" | "inks" | "cursors"> {
  readonly cursors: Cursors;
  readonly onView: (view: View) => void;
  readonly onCursors: (cursors: Cursors) => void;
  readonly onChoose: (lane: number) => void;
  readonly onWidth: (width: number) => void;
  readonly label: string;
}

/** The traces on a canvas: dragged along, brought closer by wheel, fingers or keys, measured by two taps. */
export function Scope({ cursors, onView, onCursors, onChoose, onWidth, label, ...picture }: Props) {
  const box = useRef<HTMLElement>(null);
  const canvas = useRef<HTMLCanvasElement>(null);
  const { view, length, lanes } = picture;
  const size = useCanvas(box, canvas, { ...picture, cursors });
  useEffect(() => onWidth(size.width), [size.width, onWidth]);
  const gestures = useGestures(box, { view, length, lanes, cursors, size, onView, onCursors, onChoose });
  return (
    <section
      ref={box}
      aria-label={label}
      // biome-ignore lint/a11y/noNoninteractiveTabindex: keys move the traces
      tabIndex={0}
      title={t.keysHint}
      className="relative w-full touch-none select-none overflow-hidden rounded-lg border border-line bg-well"
      style={{ height: `max(${lanes.length < 3 ? 15 : 11}rem, ${Math.min(lanes.length, 8) * (lanes.length > 4 ? 4.6 : 7.5)}rem)` }}
      {...gestures}
    >
      <canvas ref={canvas} className="absolute inset-0 size-full">
        {label}
      </canvas>
    </section>
  );
}
