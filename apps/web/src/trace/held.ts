import { BLOCK_SAMPLES, type Capture, decodeBlock, encodeBlock, lowestLevel } from "@fox-lamp/core";
import type { CaptureAnswer, StoredCapture } from "@fox-lamp/language";
import { packed, unpacked } from "./packed";

/** Where packed parts of a stored capture come from; null where one is not there. */
export type PartSource = (part: string) => Promise<Uint8Array<ArrayBuffer> | null>;

/** A capture as the worker holds it: whole after it was read, by the blocks that were asked for when it comes from the server. */
export class HeldCapture {
  private readonly blocks = new Map<string, Promise<Float32Array>>();

  constructor(
    readonly length: number,
    readonly channels: number,
    private readonly whole: readonly Float32Array[] | null,
    private readonly source: PartSource,
  ) {}

  /** Samples of a channel, from the first to before the last. @throws RangeError where a block is missing or broken */
  async samples(channel: number, from: number, to: number): Promise<Float32Array> {
    const [first, last] = [Math.max(0, Math.floor(from)), Math.min(this.length, Math.ceil(to))];
    const own = this.whole?.[channel];
    if (own !== undefined) return own.slice(first, last);
    const out = new Float32Array(Math.max(0, last - first));
    for (let block = Math.floor(first / BLOCK_SAMPLES); block * BLOCK_SAMPLES < last; block += 1) {
      const samples = await this.block(channel, block);
      const begin = block * BLOCK_SAMPLES;
      const [cut, end] = [Math.max(first, begin), Math.min(last, begin + samples.length)];
      out.set(samples.subarray(cut - begin, end - begin), cut - first);
    }
    return out;
  }

  private block(channel: number, block: number): Promise<Float32Array> {
    const part = `${channel}-${block}`;
    let found = this.blocks.get(part);
    if (found === undefined) {
      found = this.source(part).then(async (bytes) => {
        if (bytes === null) throw new RangeError(`part ${part} of the capture is not there`);
        return decodeBlock(await unpacked(bytes));
      });
      this.blocks.set(part, found);
    }
    return found;
  }

  /** The lowest level of a channel's pyramid. */
  async lowest(channel: number): Promise<Float32Array> {
    const own = this.whole?.[channel];
    if (own !== undefined) return lowestLevel(own);
    const bytes = await this.source(`${channel}-p`);
    if (bytes === null) throw new RangeError("the overview of the capture is not there yet");
    return new Float32Array((await unpacked(bytes)).buffer);
  }

  /** Every part, packed, in order. */
  async *parts(): AsyncGenerator<{ part: string; content: Uint8Array<ArrayBuffer> }> {
    for (let channel = 0; channel < this.channels; channel += 1) {
      const level = await this.lowest(channel);
      yield { part: `${channel}-p`, content: await packed(new Uint8Array(level.slice().buffer)) };
      for (let block = 0; block * BLOCK_SAMPLES < this.length; block += 1) {
        const samples = await this.samples(channel, block * BLOCK_SAMPLES, (block + 1) * BLOCK_SAMPLES);
        yield { part: `${channel}-${block}`, content: await packed(encodeBlock(samples) as Uint8Array<ArrayBuffer>) };
      }
    }
  }
}

/** A capture whose samples are all there. */
export function wholeCapture({ channels }: Capture): HeldCapture {
  const whole = channels.map(({ samples }) => (samples instanceof Float32Array ? samples : Float32Array.from(samples)));
  return new HeldCapture(whole[0]?.length ?? 0, whole.length, whole, async () => null);
}

/** What is known of a capture without what the server adds to it. */
export function storedOf({ parts: _parts, ...stored }: CaptureAnswer): StoredCapture {
  return stored;
}
