// Run once after the bundle is made: does what the command line is asked most often, and keeps what was compiled for it.
import { dirname, join } from "node:path";
import { bundleIn } from "./bundle";

const [node = "", self = "", examples = ""] = process.argv;
const bundle = bundleIn(dirname(self));
for (const words of [
  ["measure", join(examples, "measure.json")],
  ["diagnose", join(examples, "hall.json")],
  ["diagnose", join(examples, "shared-reference.json")],
]) {
  process.argv = [node, self, ...words];
  bundle.run();
}
process.on("exit", () => bundle.keep());
