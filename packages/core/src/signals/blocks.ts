/** Samples of one block. */
export const BLOCK_SAMPLES = 131_072;

/** What the first byte of a block says of the rest. */
const AS_FLOATS = 0;
const AS_STEPS = 1;
const HEAD_BYTES = 16;
const MOST_STEPS = 32_767;

/** The step of an instrument that all samples of a block are whole multiples of, from its lowest; null where there is none. */
function stepOf(samples: Float32Array): { low: number; step: number } | null {
  let [low, high] = [Number.POSITIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const value of samples) {
    if (value < low) low = value;
    if (value > high) high = value;
  }
  if (!(high > low)) return { low, step: 1 };
  let smallest = high - low;
  for (let at = 1; at < samples.length; at += 1) {
    const move = Math.abs((samples[at] as number) - (samples[at - 1] as number));
    if (move > 1e-7 * (high - low) && move < smallest) smallest = move;
  }
  const steps = Math.round((high - low) / smallest);
  return steps <= MOST_STEPS ? { low, step: (high - low) / steps } : null;
}

/**
 * A block of samples as bytes, without loss: 16-bit steps where the samples are an instrument's whole steps to the last bit, else 32-bit
 * floats. Layout: kind (1 byte, 7 spare), lowest and step (two 32-bit floats), then the numbers, little-endian.
 */
export function encodeBlock(samples: Float32Array): Uint8Array {
  const found = stepOf(samples);
  if (found !== null) {
    const low = Math.fround(found.low);
    const step = Math.fround(found.step);
    const bytes = new Uint8Array(HEAD_BYTES + 2 * samples.length);
    const view = new DataView(bytes.buffer);
    view.setUint8(0, AS_STEPS);
    view.setFloat32(8, low, true);
    view.setFloat32(12, step, true);
    const exact = samples.every((value, at) => {
      const count = Math.round((value - low) / step);
      if (count < 0 || count > MOST_STEPS) return false;
      view.setInt16(HEAD_BYTES + 2 * at, count, true);
      return Math.fround(low + count * step) === value;
    });
    if (exact) return bytes;
  }
  const bytes = new Uint8Array(HEAD_BYTES + 4 * samples.length);
  const view = new DataView(bytes.buffer);
  view.setUint8(0, AS_FLOATS);
  samples.forEach((value, at) => {
    view.setFloat32(HEAD_BYTES + 4 * at, value, true);
  });
  return bytes;
}

/** The samples of a block. @throws RangeError for bytes that are no block */
export function decodeBlock(bytes: Uint8Array): Float32Array {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const kind = bytes.length >= HEAD_BYTES ? view.getUint8(0) : -1;
  if (kind === AS_FLOATS && (bytes.length - HEAD_BYTES) % 4 === 0) {
    return Float32Array.from({ length: (bytes.length - HEAD_BYTES) / 4 }, (_, at) => view.getFloat32(HEAD_BYTES + 4 * at, true));
  }
  if (kind === AS_STEPS && (bytes.length - HEAD_BYTES) % 2 === 0) {
    const [low, step] = [view.getFloat32(8, true), view.getFloat32(12, true)];
    return Float32Array.from({ length: (bytes.length - HEAD_BYTES) / 2 }, (_, at) => low + view.getInt16(HEAD_BYTES + 2 * at, true) * step);
  }
  throw new RangeError("the bytes are no block of samples");
}
