import { type RefObject, useEffect, useLayoutEffect, useRef, useState } from "react";
import { drawPicture, type Inks, type Picture } from "./draw";

function inksOf(element: Element): Inks {
  const style = getComputedStyle(element);
  const of = (name: string): string => style.getPropertyValue(`--${name}`).trim();
  return { ink: of("ink"), soft: of("soft"), line: of("line"), lamp: of("lamp"), ember: of("ember"), calm: of("calm"), well: of("well") };
}

/** Pixels of a picture. */
export interface Size {
  readonly width: number;
  readonly height: number;
}

/** A canvas in its box that is drawn once a frame, whatever has changed since the last one. @returns its size */
export function useCanvas(
  box: RefObject<HTMLElement | null>,
  canvas: RefObject<HTMLCanvasElement | null>,
  picture: Omit<Picture, "width" | "height" | "inks">,
): Size {
  const [size, setSize] = useState({ width: 600, height: 360 });
  useLayoutEffect(() => {
    const element = box.current;
    if (element === null) return;
    const measure = (): void => {
      const { width, height } = element.getBoundingClientRect();
      setSize({ width: Math.max(240, Math.floor(width)), height: Math.max(160, Math.floor(height)) });
    };
    measure();
    const observer = new ResizeObserver(measure);
    observer.observe(element);
    return () => observer.disconnect();
  }, [box]);

  // Drawn once a frame, whatever has changed since the last one.
  const drawn = useRef<() => void>(() => undefined);
  drawn.current = () => {
    const element = canvas.current;
    const context = element?.getContext("2d");
    if (!element || !context) return;
    const ratio = window.devicePixelRatio || 1;
    const [width, height] = [Math.round(size.width * ratio), Math.round(size.height * ratio)];
    if (element.width !== width || element.height !== height) [element.width, element.height] = [width, height];
    context.setTransform(ratio, 0, 0, ratio, 0, 0);
    drawPicture(context, { ...picture, ...size, inks: inksOf(element) });
  };
  useEffect(() => {
    const frame = requestAnimationFrame(() => drawn.current());
    return () => cancelAnimationFrame(frame);
  });
  useEffect(() => {
    // Another theme, and letters that have only now come.
    const observer = new MutationObserver(() => drawn.current());
    observer.observe(document.documentElement, { attributes: true, attributeFilter: ["data-theme"] });
    void document.fonts?.ready.then(() => drawn.current());
    return () => observer.disconnect();
  }, []);
  return size;
}
