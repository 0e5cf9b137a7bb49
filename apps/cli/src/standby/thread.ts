// One thread of the standby.
import type { Answer } from "../answer";
import { bundleIn } from "../bundle";
import type * as CommandLine from "../main";
import type { Request } from "./wire";

const { answerTo } = bundleIn<typeof CommandLine>(__dirname).load();

/** Runs one command on what was read for it. */
export default ({ words, given }: Request): Promise<Answer> => answerTo(words, given);
