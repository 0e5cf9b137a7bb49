import { type Pyramid, pyramidOver, type TraceBand } from "@fox-lamp/core";
import type { StoredCapture } from "@fox-lamp/language";
import { drawPicture, type Inks, type Marked, needsSamples, scaleOf } from "./draw";
import { answered, captureService } from "./service";

const WIDTH = 1200;
const LANE_HEIGHT = 150;
/** On paper: dark on white, trouble in a dark red, nothing glows. */
const PAPER: Inks = { ink: "#16120b", soft: "#554b3a", line: "#c4b9a2", lamp: "#7c3c00", ember: "#b02c00", calm: "#1d4a25", well: "#ffffff" };

/**
 * A capture as a picture for the record: all channels, one stretch of it.
 *
 * @param look seconds from its first sample
 * @returns null where the browser draws none
 */
export async function pictureOf(
  id: string,
  stored: StoredCapture,
  nameOf: (channel: string) => string,
  marked: readonly Marked[],
  look: { readonly from: number; readonly to: number },
  bands: readonly (readonly TraceBand[])[] = [],
): Promise<{ blob: Blob; width: number; height: number } | null> {
  const service = captureService();
  const { rate, length, start, channels } = stored;
  const view = { from: look.from * rate, to: Math.max(look.from * rate + 8, look.to * rate) };
  const close = needsSamples(view, WIDTH);
  const lanes = await Promise.all(
    channels.map(async ({ name, unit }, index) => {
      const pyramid: Pyramid = pyramidOver(await answered(service.overview(id, index)));
      const from = Math.max(0, Math.floor(view.from) - 2);
      const near = close ? { from, samples: await answered(service.samples(id, index, from, Math.ceil(view.to) + 2)) } : null;
      return { name: nameOf(name), unit, pyramid, near, ...scaleOf(pyramid, name), bands: bands[index] ?? [], less: 0, chosen: false };
    }),
  );
  const height = Math.max(240, LANE_HEIGHT * lanes.length);
  const canvas = document.createElement("canvas");
  [canvas.width, canvas.height] = [WIDTH, height];
  const context = canvas.getContext("2d");
  if (context === null) return null;
  drawPicture(context, { width: WIDTH, height, view, length, rate, start, lanes, marked, cursors: [null, null], inks: PAPER });
  const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, "image/png"));
  return blob === null ? null : { blob, width: WIDTH, height };
}
