/** The longest side a stored photo has, pixels: readable in full, small enough for a phone's uplink. */
const LONGEST = 1600;
const QUALITY = 0.82;

export interface Picture {
  readonly blob: Blob;
  readonly width: number;
  readonly height: number;
}

/** A logo is no larger than this, pixels: sharp on paper, small in every report. */
const LOGO = { width: 480, height: 200 } as const;

/** A picture file drawn no larger than a box, turned as it was held; null for a file that is no picture. */
async function drawnWithin(file: Blob, box: { readonly width: number; readonly height: number }): Promise<HTMLCanvasElement | null> {
  const bitmap = await createImageBitmap(file, { imageOrientation: "from-image" }).catch(() => null);
  if (bitmap === null || bitmap.width === 0 || bitmap.height === 0) return null;
  const scale = Math.min(1, box.width / bitmap.width, box.height / bitmap.height);
  const canvas = document.createElement("canvas");
  canvas.width = Math.max(1, Math.round(bitmap.width * scale));
  canvas.height = Math.max(1, Math.round(bitmap.height * scale));
  canvas.getContext("2d")?.drawImage(bitmap, 0, 0, canvas.width, canvas.height);
  bitmap.close();
  return canvas;
}

/** Reads a picture file as a logo. @returns a data address; null for a file that is no picture */
export async function smallLogo(file: Blob): Promise<string | null> {
  return (await drawnWithin(file, LOGO))?.toDataURL("image/png") ?? null;
}

/** Reads a picture file and makes it small enough to keep. @returns null for a file that is no picture */
export async function smallPicture(file: Blob): Promise<Picture | null> {
  const canvas = await drawnWithin(file, { width: LONGEST, height: LONGEST });
  if (canvas === null) return null;
  const blob = await new Promise<Blob | null>((resolve) => canvas.toBlob(resolve, "image/jpeg", QUALITY));
  return blob === null ? null : { blob, width: canvas.width, height: canvas.height };
}

/** Hands a file to the person, under a name. */
export function saveAs(content: Blob, name: string): void {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(content);
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 10_000);
}
