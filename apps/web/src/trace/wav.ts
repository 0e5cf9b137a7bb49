import type { Capture } from "@fox-lamp/core";
import { BadInput } from "@fox-lamp/language";
import { WaveFile } from "wavefile";

/** Channels a capture holds. */
const MOST_CHANNELS = 8;

/** A channel as a WAV file of 32-bit floats, its numbers in its own unit: nothing is scaled or cut. @throws BadInput for a rate WAV cannot tell */
export function channelWav(samples: Float32Array, rate: number): Uint8Array<ArrayBuffer> {
  const whole = Math.round(rate);
  if (whole < 1 || Math.abs(whole / rate - 1) > 1e-6) {
    throw new BadInput({ code: "capture:wav-rate", where: "", message: `WAV knows only whole samples a second, and this is ${rate}; save it as CSV` });
  }
  const file = new WaveFile();
  file.fromScratch(1, whole, "32f", samples);
  return new Uint8Array(file.toBuffer());
}

/** A WAV file as a capture: floats are taken as volts, whole numbers as shares of the recorder's full scale. @throws BadInput for what is no WAV */
export function wavCapture(bytes: Uint8Array): { capture: Capture; notes: string[] } {
  const file = new WaveFile();
  try {
    file.fromBuffer(bytes);
    file.toBitDepth("32f");
  } catch {
    throw new BadInput({ code: "capture:wav", where: "", message: "cannot be read as WAV; expected a RIFF file of samples" });
  }
  const floats = new WaveFile(bytes).bitDepth.endsWith("f") || new WaveFile(bytes).bitDepth === "64";
  const { sampleRate: rate, numChannels: count } = file.fmt as { sampleRate: number; numChannels: number };
  const read = file.getSamples(false, Float32Array) as unknown as Float32Array | Float32Array[];
  const channels = Array.isArray(read) ? read : [read];
  if (count > MOST_CHANNELS || (channels[0]?.length ?? 0) < 2)
    throw new BadInput({
      code: "capture:wav",
      where: "",
      message: `has ${count} channels of ${channels[0]?.length ?? 0} samples; expected up to 8 of two at least`,
    });
  const unit = floats ? "V" : "of full scale";
  return {
    capture: { start: 0, rate, channels: channels.map((samples, index) => ({ name: `channel ${index + 1}`, unit, samples: Float32Array.from(samples) })) },
    notes: floats ? [] : ["WAV tells shares of the recorder's full scale, not volts: what is read from it weighs nothing, its times and rates hold."],
  };
}
