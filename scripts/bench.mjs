// npm run bench: figures of the engine, printed and written to docs/measurements.md. `-- --quick` prints a small run only.
import { mkdirSync } from "node:fs";
import { buildAll } from "./lib/build.mjs";
import { startCluster } from "./lib/cluster.mjs";
import { ensureChromium, ensurePostgres, ensureProgram } from "./lib/machine.mjs";
import { main, root, run } from "./lib/say.mjs";
import { startServer } from "./lib/server.mjs";

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
    packages: "bundle",
    external: ["pg", "@playwright/test"],
    format: "esm",
    target: "node20",
    logLevel: "warning",
  });
  const asked = process.argv.slice(2).filter((argument) => !argument.startsWith("--"));
  const served = asked.length === 0 || ["server", "page", "append", "soak", "traces"].some((part) => asked.includes(part));
  const cluster = served ? await startCluster(await ensurePostgres(), "bench", { throwAway: true, durable: true }) : null;
  let server = null;
  try {
    if (cluster) server = await startServer({ DATABASE_URL: cluster.url, PORT: "0", LOG_LEVEL: "silent", DEMO: "yes" });
    const where = cluster
      ? { CHROMIUM: await ensureChromium(), BENCH_ADDRESS: `http://127.0.0.1:${server.port}`, BENCH_DATABASE: cluster.url, BENCH_PID: String(server.pid) }
      : {};
    const { code } = await run(process.execPath, [`${root}/bench/dist/bench.mjs`, ...process.argv.slice(2)], { env: { ...process.env, ...where } });
    return code;
  } finally {
    await server?.stop();
    await cluster?.stop();
  }
});
