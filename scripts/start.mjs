// npm start: everything on a fresh machine, one address at the end. Ctrl-C stops what was started here, nothing else.
import { buildAll } from "./lib/build.mjs";
import { startCluster } from "./lib/cluster.mjs";
import { checkNode, ensurePackages, ensurePostgres } from "./lib/machine.mjs";
import { main, Refusal, say } from "./lib/say.mjs";
import { startServer } from "./lib/server.mjs";

const HELP = `npm start: installs what is missing, builds, starts the database and the server.

  PORT=4680           address to listen on (127.0.0.1)
  DATABASE_URL=...    a PostgreSQL server of your own instead of the private cluster in .data/
  DEMO=no             leave an empty private database empty
  DEMO=yes            load the demo, with its public passwords, into an empty database of your own`;

await main(async () => {
  if (process.argv.includes("--help")) {
    say(HELP);
    return 0;
  }
  checkNode();
  const port = process.env.PORT ?? "4680";
  if (!/^\d{1,5}$/.test(port) || Number(port) > 65535) throw new Refusal(`PORT is "${port}"; expected a number from 0 to 65535.`);
  await ensurePackages();
  let cluster = null;
  let server = null;
  let asked = () => {};
  const interrupted = new Promise((resolve) => (asked = resolve));
  for (const signal of ["SIGINT", "SIGTERM"]) process.on(signal, () => asked(signal));
  const stopAll = async () => {
    await server?.stop();
    await cluster?.stop();
  };
  try {
    if (!process.env.DATABASE_URL) cluster = await startCluster(await ensurePostgres(), "postgres");
    await buildAll();
    server = await startServer(
      {
        DATABASE_URL: process.env.DATABASE_URL ?? cluster.url,
        PORT: port,
        LOG_LEVEL: process.env.LOG_LEVEL ?? "warn",
        DEMO: process.env.DEMO ?? (cluster === null ? "no" : "yes"),
      },
      { quiet: false },
    );
  } catch (error) {
    await stopAll();
    throw error;
  }
  say(`\nFox Lamp is at http://127.0.0.1:${server.port}  (Ctrl-C stops it)`);
  await Promise.race([interrupted, server.ended]);
  say("Stopping ...");
  await stopAll();
  return 0;
});
