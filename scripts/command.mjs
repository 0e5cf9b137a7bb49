// npm run shop -- NAME FOREMAN, npm run password -- SHORT-NAME: for whoever sits at the machine, beside the running product or without it.
import { buildAll } from "./lib/build.mjs";
import { shopDatabase } from "./lib/cluster.mjs";
import { ensurePackages, ensurePostgres } from "./lib/machine.mjs";
import { main, root, run } from "./lib/say.mjs";

await main(async () => {
  await ensurePackages();
  await buildAll();
  const { url, stop } = await shopDatabase(await ensurePostgres());
  try {
    const { code } = await run(process.execPath, [`${root}/apps/server/dist/command.mjs`, ...process.argv.slice(2)], {
      env: { ...process.env, DATABASE_URL: url },
    });
    return code;
  } finally {
    await stop();
  }
});
