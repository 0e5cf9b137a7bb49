import { dirname } from "node:path";
import { bundleIn } from "./bundle";

bundleIn(dirname(process.argv[1] ?? "")).run();
