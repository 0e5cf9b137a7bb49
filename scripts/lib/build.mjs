// Builds command line, server and web client; nothing is built again while its sources stay the same.
import { createHash } from "node:crypto";
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from "node:fs";
import { brotliCompressSync, constants, gzipSync } from "node:zlib";
import { Refusal, root, run, say } from "./say.mjs";

const SKIPPED = new Set(["node_modules", "dist", ".data", ".git", "test-results", "screenshots"]);

function digest(folders) {
  const hash = createHash("sha256");
  const visit = (path) => {
    for (const entry of readdirSync(path, { withFileTypes: true }).sort((a, b) => (a.name < b.name ? -1 : 1))) {
      if (SKIPPED.has(entry.name)) continue;
      const full = `${path}/${entry.name}`;
      if (entry.isDirectory()) visit(full);
      else {
        const { mtimeMs, size } = statSync(full);
        hash.update(`${full}\0${mtimeMs}\0${size}\0`);
      }
    }
  };
  for (const folder of folders) visit(`${root}/${folder}`);
  hash.update(readFileSync(`${root}/package-lock.json`));
  return hash.digest("hex");
}

async function bundleServer() {
  const { build } = await import("esbuild");
  await build({
    entryPoints: { server: `${root}/apps/server/src/main.ts`, work: `${root}/apps/server/src/work/thread.ts`, command: `${root}/apps/server/src/command.ts` },
    outdir: `${root}/apps/server/dist`,
    outExtension: { ".js": ".mjs" },
    bundle: true,
    platform: "node",
    format: "esm",
    target: "node20",
    packages: "external",
    alias: { "@fox-lamp/language": `${root}/packages/language/src/index.ts`, "@fox-lamp/core": `${root}/packages/core/src/index.ts` },
    sourcemap: true,
    logLevel: "warning",
  });
}

/** Compresses scripts and styles once, beside themselves, so that the server only has to send them. */
function compressAssets(folder) {
  for (const name of readdirSync(folder)) {
    if (!/\.(js|css)$/u.test(name)) continue;
    const content = readFileSync(`${folder}/${name}`);
    const params = { [constants.BROTLI_PARAM_QUALITY]: 11, [constants.BROTLI_PARAM_SIZE_HINT]: content.length };
    writeFileSync(`${folder}/${name}.br`, brotliCompressSync(content, { params }));
    writeFileSync(`${folder}/${name}.gz`, gzipSync(content, { level: 9 }));
  }
}

async function step(name, folders, product, task) {
  const stamps = `${root}/.data/stamps`;
  mkdirSync(stamps, { recursive: true });
  const now = digest(folders);
  const stamp = `${stamps}/${name}`;
  if (existsSync(`${root}/${product}`) && existsSync(stamp) && readFileSync(stamp, "utf8") === now) return;
  say(`Building ${name} ...`);
  await task();
  writeFileSync(stamp, now);
}

export async function buildAll() {
  await step("command line", ["packages", "apps/cli"], "apps/cli/dist/start.cjs", () => import("../build-cli.mjs"));
  await step("server", ["packages", "apps/server"], "apps/server/dist/server.mjs", bundleServer);
  await step("web client", ["packages", "apps/web"], "apps/web/dist/index.html", async () => {
    const { code, output } = await run("npx", ["vite", "build", "--logLevel", "warn"], { quiet: true, cwd: `${root}/apps/web` });
    if (code !== 0) throw new Refusal(`The web client could not be built.\n${output.split("\n").slice(-20).join("\n")}`);
    compressAssets(`${root}/apps/web/dist/assets`);
  });
}
