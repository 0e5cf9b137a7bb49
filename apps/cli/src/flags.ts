import { setFlagsFromString } from "node:v8";

/** A process that runs for seconds does not earn back what V8 spends on optimizing by inlining, and all but the busiest functions (decision 45). */
const FLAGS = ["--interrupt-budget=400000", "--no-turbo-inlining"];

/**
 * Has V8 optimize less. Set once it runs, so that Node's own code starts from what Node keeps of it; and before the bundle is loaded, since V8 takes what
 * was kept of that only with the flags it was kept with.
 */
export function optimizeLess(): void {
  for (const flag of FLAGS) setFlagsFromString(flag);
}
