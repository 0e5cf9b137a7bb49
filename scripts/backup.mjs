// npm run backup -- FILE: everything of all shops in one file, consistent, while the product runs or not.
import { chmodSync, existsSync, renameSync, rmSync } from "node:fs";
import { resolve } from "node:path";
import { shopDatabase } from "./lib/cluster.mjs";
import { ensurePostgres } from "./lib/machine.mjs";
import { main, Refusal, run, say } from "./lib/say.mjs";

/** Writes a database into a file; what is written only in part is taken away again. */
export async function dump(bin, url, file) {
  const part = `${file}.part`;
  const { code, output } = await run(`${bin}/pg_dump`, ["--format=custom", "--no-owner", "--no-privileges", "-f", part, url], { quiet: true });
  if (code !== 0) {
    rmSync(part, { force: true });
    throw new Refusal(`The backup could not be made.\n${output.split("\n").slice(-5).join("\n")}`);
  }
  chmodSync(part, 0o600);
  renameSync(part, file);
}

if (process.argv[1]?.endsWith("backup.mjs"))
  await main(async () => {
    const [name] = process.argv.slice(2);
    if (!name || name.startsWith("-")) throw new Refusal("Type: npm run backup -- FILE");
    const file = resolve(process.env.INIT_CWD ?? ".", name);
    if (existsSync(file)) throw new Refusal(`${file} is there already; choose another name.`);
    const bin = await ensurePostgres();
    const { url, stop } = await shopDatabase(bin);
    try {
      await dump(bin, url, file);
    } finally {
      await stop();
    }
    say(`Everything is in ${file}. It holds customers' data and hashed passwords: keep it where only you can read it.`);
    return 0;
  });
