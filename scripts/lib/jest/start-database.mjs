// Starts a throw-away cluster before the tests of repositories.
import { startCluster } from "../cluster.mjs";
import { ensurePostgres } from "../machine.mjs";

export default async function start() {
  const cluster = await startCluster(await ensurePostgres(), "unit", { throwAway: true });
  process.env.UNIT_DATABASE_URL = cluster.url;
  globalThis.stopUnitDatabase = cluster.stop;
}
