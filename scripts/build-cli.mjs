// Bundles the command line and keeps what V8 compiles of it, so that it starts in a moment. Runs after `npm ci` (npm's "prepare").
import { spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { existsSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { fileURLToPath } from "node:url";

const root = fileURLToPath(new URL("..", import.meta.url));

if (!existsSync(`${root}node_modules/esbuild`)) {
  process.stderr.write("Development packages are missing, so the command line was not built; run npm ci.\n");
} else {
  const { build } = await import("esbuild");
  const cli = `${root}apps/cli`;
  // V8 knows what it kept by the length of the bundle alone: nothing of an older one may stay.
  rmSync(`${cli}/dist`, { recursive: true, force: true });
  await build({
    entryPoints: { "fox-lamp": `${cli}/src/main.ts`, start: `${cli}/src/start.ts`, keep: `${cli}/src/keep.ts` },
    outdir: `${cli}/dist`,
    outExtension: { ".js": ".cjs" },
    bundle: true,
    platform: "node",
    format: "cjs",
    target: "node20",
    minify: true,
    legalComments: "none",
    logLevel: "warning",
  });
  // What V8 compiles for the examples is kept beside the bundle, for starts with the same flags. Where this Node takes neither, a command only starts later.
  const flags = readFileSync(`${cli}/v8-flags`, "utf8").trim();
  const { status } = spawnSync(process.execPath, [...flags.split(" "), `${cli}/dist/keep.cjs`, `${cli}/warm-up`], { stdio: ["ignore", "ignore", "inherit"] });
  writeFileSync(`${cli}/dist/v8-flags`, `${status === 0 ? flags : ""}\n`);
  // `npm ci` has just run: npm start need not run it again.
  if (process.env.npm_lifecycle_event === "prepare") {
    writeFileSync(
      `${root}node_modules/.fox-lamp-lock`,
      createHash("sha256")
        .update(readFileSync(`${root}package-lock.json`))
        .digest("hex"),
    );
  }
}
