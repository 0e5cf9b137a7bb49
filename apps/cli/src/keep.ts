// Run once after the bundle is made: does what the command line is asked most often, and keeps what was compiled for it.
import { dirname, join } from "node:path";
import { bundleIn } from "./bundle";
import { optimizeLess } from "./flags";
import type * as CommandLine from "./main";

const [, self = "", examples = ""] = process.argv;
optimizeLess();
const bundle = bundleIn<typeof CommandLine>(dirname(self));

async function keep(): Promise<void> {
  const { answerTo } = bundle.load();
  for (const [command, file] of [
    ["measure", "measure.json"],
    ["diagnose", "hall.json"],
    ["diagnose", "shared-reference.json"],
  ] as const) {
    const { code, stderr } = await answerTo([command, join(examples, file)]);
    if (code !== 0) throw new Error(stderr);
  }
  bundle.keep();
}

keep().catch((error: unknown) => {
  process.stderr.write(`${error instanceof Error ? error.stack : error}\n`);
  process.exitCode = 1;
});
