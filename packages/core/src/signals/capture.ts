/** Everything a scope stored in one go: channels sampled together, evenly in time. */
export interface Capture {
  /** Seconds of the first sample. */
  readonly start: number;
  /** Samples a second. */
  readonly rate: number;
  readonly channels: readonly CapturedChannel[];
}

/** One channel's samples in its unit (V, or A from a clamp). */
export interface CapturedChannel {
  /** A pin, `circuit:pin`, or `crank`, `cam`, `cam-intake`, `cam-exhaust`. */
  readonly name: string;
  readonly unit: string;
  readonly samples: Samples;
}

export type Samples = Float64Array | Float32Array;

/** A stretch of samples, from the first to before the last. */
export interface Stretch {
  readonly from: number;
  readonly to: number;
}

/** Number of samples of a capture; 0 for one without channels. */
export function lengthOf(capture: Capture): number {
  return capture.channels[0]?.samples.length ?? 0;
}
