// npm run bench: figures of the engine, printed and written to docs/measurements.md. `-- --quick` prints a small run only.
import { mkdirSync } from "node:fs";
import { buildAll } from "./lib/build.mjs";
import { ensureProgram } from "./lib/machine.mjs";
import { main, root, run } from "./lib/say.mjs";

await main(async () => {
  await buildAll();
  await ensureProgram("/usr/bin/ngspice", "ngspice", "The circuit simulator to compare with");
  const { build } = await import("esbuild");
  mkdirSync(`${root}/bench/dist`, { recursive: true });
  await build({
    entryPoints: [`${root}/bench/src/main.ts`],
    outfile: `${root}/bench/dist/bench.mjs`,
    bundle: true,
    platform: "node",
    format: "esm",
    target: "node20",
    logLevel: "warning",
  });
  const { code } = await run(process.execPath, [`${root}/bench/dist/bench.mjs`, ...process.argv.slice(2)]);
  return code;
});
