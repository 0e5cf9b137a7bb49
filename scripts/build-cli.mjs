// Bundles the command line and keeps what V8 compiles of it, so that it starts in a moment. Runs after `npm ci` (npm's "prepare").
import { spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import { existsSync, readFileSync, renameSync, rmSync, writeFileSync } from "node:fs";
import { fileURLToPath } from "node:url";

const root = fileURLToPath(new URL("..", import.meta.url));

if (!existsSync(`${root}node_modules/esbuild`)) {
  process.stderr.write("Development packages are missing, so the command line was not built; run npm ci.\n");
} else {
  const { build } = await import("esbuild");
  const cli = `${root}apps/cli`;
  // Made beside what is in use, which somebody may be running.
  const made = `${cli}/dist/new`;
  rmSync(made, { recursive: true, force: true });
  await build({
    entryPoints: {
      "fox-lamp": `${cli}/src/main.ts`,
      start: `${cli}/src/start.ts`,
      keep: `${cli}/src/keep.ts`,
      standby: `${cli}/src/standby/standby.ts`,
      thread: `${cli}/src/standby/thread.ts`,
    },
    external: ["piscina"],
    outdir: made,
    outExtension: { ".js": ".cjs" },
    bundle: true,
    platform: "node",
    format: "cjs",
    target: "node20",
    minify: true,
    legalComments: "none",
    logLevel: "warning",
  });
  // What V8 compiles for the examples is kept beside the bundle. Without it a command only starts later.
  spawnSync(process.execPath, [`${made}/keep.cjs`, `${cli}/warm-up`], { stdio: ["ignore", "ignore", "inherit"] });
  // V8 knows what it kept by the length of the bundle alone: what is kept of the old one goes first, of the new one it comes last.
  rmSync(`${cli}/dist/fox-lamp.kept`, { force: true });
  for (const name of ["fox-lamp.cjs", "keep.cjs", "start.cjs", "standby.cjs", "thread.cjs", "fox-lamp.kept"])
    if (existsSync(`${made}/${name}`)) renameSync(`${made}/${name}`, `${cli}/dist/${name}`);
  rmSync(made, { recursive: true });
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
