// npm run e2e: the built application on a throw-away database, driven by Playwright on Debian's Chromium.
import { buildAll } from "./lib/build.mjs";
import { startCluster } from "./lib/cluster.mjs";
import { ensureChromium, ensurePostgres } from "./lib/machine.mjs";
import { main, root, run } from "./lib/say.mjs";
import { startServer } from "./lib/server.mjs";

await main(async () => {
  const chromium = await ensureChromium();
  const cluster = await startCluster(await ensurePostgres(), "throw-away", { throwAway: true });
  let server = null;
  try {
    await buildAll();
    server = await startServer({ DATABASE_URL: cluster.url, PORT: "0", LOG_LEVEL: "warn", TRUST_PROXY: "yes", DEMO: "yes" }, { quiet: false });
    const env = { ...process.env, BASE_URL: `http://127.0.0.1:${server.port}`, CHROMIUM: chromium, DATABASE_URL: cluster.url };
    const { code } = await run("npx", ["playwright", "test", ...process.argv.slice(2)], { cwd: `${root}/e2e`, env });
    return code;
  } finally {
    await server?.stop();
    await cluster.stop();
  }
});
