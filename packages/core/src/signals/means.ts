import type { Samples } from "./capture";

/** Means of whole blocks of so many samples; what is left over at the end is left out. */
export function blockMeans(samples: Samples, block: number): number[] {
  return Array.from({ length: Math.floor(samples.length / block) }, (_, index) => {
    let sum = 0;
    for (let at = index * block; at < (index + 1) * block; at += 1) sum += samples[at] as number;
    return sum / block;
  });
}
