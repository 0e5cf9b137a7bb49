// npm start: everything on a fresh machine, one address at the end. Ctrl-C stops what was started here, nothing else.
import { buildAll } from "./lib/build.mjs";
import { startCluster } from "./lib/cluster.mjs";
import { keep } from "./lib/keep.mjs";
import { checkNode, ensurePackages, ensurePostgres } from "./lib/machine.mjs";
import { main, Refusal, say } from "./lib/say.mjs";
import { startServer } from "./lib/server.mjs";

const HELP = `npm start: installs what is missing, builds, starts the database and the server.

  PORT=4680           address to listen on (127.0.0.1)
  DATABASE_URL=...    a PostgreSQL server of your own instead of the private cluster; FOX_LAMP_DATA=... where that lies
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
  // A terminal that is closed asks as Ctrl-C does.
  for (const signal of ["SIGINT", "SIGTERM", "SIGHUP"]) process.on(signal, () => asked(signal));
  const stopAll = async () => {
    await server?.stop();
    await cluster?.stop();
  };
  try {
    if (!process.env.DATABASE_URL) {
      const bin = await ensurePostgres();
      // On the same port again: the server finds it where it was.
      cluster = await keep("database", (before) => startCluster(bin, "postgres", before === null ? {} : { port: before.port }));
    }
    await buildAll();
    const env = {
      DATABASE_URL: process.env.DATABASE_URL ?? cluster.current().url,
      PORT: port,
      LOG_LEVEL: process.env.LOG_LEVEL ?? "warn",
      DEMO: process.env.DEMO ?? (cluster === null ? "no" : "yes"),
    };
    server = await keep("server", (before) => startServer(before === null ? env : { ...env, PORT: String(before.port) }, { quiet: false }));
  } catch (error) {
    await stopAll();
    throw error;
  }
  say(`\nFox Lamp is at http://127.0.0.1:${server.current().port}  (Ctrl-C stops it)`);
  const gaveUp = (what) => () => what;
  const failed = await Promise.race([
    interrupted.then(() => null),
    server.givenUp.then(gaveUp("server")),
    ...(cluster === null ? [] : [cluster.givenUp.then(gaveUp("database"))]),
  ]);
  say(failed === null ? "Stopping ..." : `The ${failed} does not stay up. Stopping ...`);
  await stopAll();
  return failed === null ? 0 : 1;
});
