// npm run restore -- FILE: puts a backup in place, in one piece or not at all.
import { existsSync, mkdirSync } from "node:fs";
import { resolve } from "node:path";
import { dump } from "./backup.mjs";
import { dataFolder, shopDatabase } from "./lib/cluster.mjs";
import { ensurePostgres } from "./lib/machine.mjs";
import { main, Refusal, run, say } from "./lib/say.mjs";

/** Whether a database holds shops already. */
async function isUsed(bin, url) {
  const asked = (text) => run(`${bin}/psql`, ["-X", "-A", "-t", "-c", text, url], { quiet: true });
  const { code, output } = await asked("select to_regclass('public.shops') is not null");
  if (code !== 0) throw new Refusal(`The database does not answer.\n${output.split("\n").slice(-3).join("\n")}`);
  if (output.trim() !== "t") return false;
  return (await asked("select exists (select 1 from shops)")).output.trim() === "t";
}

await main(async () => {
  const words = process.argv.slice(2);
  const name = words.find((word) => !word.startsWith("-"));
  if (!name) throw new Refusal("Type: npm run restore -- FILE (and --replace where shops are to be replaced by it)");
  const file = resolve(process.env.INIT_CWD ?? ".", name);
  if (!existsSync(file)) throw new Refusal(`There is no file ${file}.`);
  const bin = await ensurePostgres();
  const listed = await run(`${bin}/pg_restore`, ["--list", file], { quiet: true });
  if (listed.code !== 0 || !/ TABLE public jobs /.test(listed.output)) throw new Refusal(`${file} is no backup of Fox Lamp.`);
  const { url, stop } = await shopDatabase(bin);
  try {
    if (await isUsed(bin, url)) {
      if (!words.includes("--replace"))
        throw new Refusal("There are shops in the database already. With --replace the backup takes their place; they are saved first.");
      const kept = `${dataFolder()}/before-restore`;
      mkdirSync(kept, { recursive: true, mode: 0o700 });
      const saved = `${kept}/${new Date().toISOString().replaceAll(":", "-")}.backup`;
      await dump(bin, url, saved);
      say(`What was there is in ${saved}.`);
    }
    const how = ["--clean", "--if-exists", "--no-owner", "--no-privileges", "--single-transaction", "--exit-on-error", "-d", url, file];
    const { code, output } = await run(`${bin}/pg_restore`, how, { quiet: true });
    if (code !== 0) throw new Refusal(`The backup could not be put in place; nothing was changed.\n${output.split("\n").slice(-5).join("\n")}`);
  } finally {
    await stop();
  }
  say("The backup is in place. If the product runs, start it anew.");
  return 0;
});
