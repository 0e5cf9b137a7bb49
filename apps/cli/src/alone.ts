import type { Answer } from "./answer";
import { bundleIn } from "./bundle";
import { optimizeLess } from "./flags";
import type * as CommandLine from "./main";

/** Answers a command in this process. @param given what it reads, where that was read already */
export function answerAlone(folder: string, words: readonly string[], given: Uint8Array | null): Promise<Answer> {
  // A trial runs for minutes: there V8 optimizes as it always does.
  if (words[0] !== "trial") optimizeLess();
  return bundleIn<typeof CommandLine>(folder).load().answerTo(words, given);
}
