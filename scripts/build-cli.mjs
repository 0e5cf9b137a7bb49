// Bundles the command line into one file, so that it starts in a moment. Runs after `npm ci` (npm's "prepare").
import { createHash } from "node:crypto";
import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { fileURLToPath } from "node:url";

const root = fileURLToPath(new URL("..", import.meta.url));

if (!existsSync(`${root}node_modules/esbuild`)) {
  process.stderr.write("Development packages are missing, so the command line was not built; run npm ci.\n");
} else {
  const { build } = await import("esbuild");
  await build({
    entryPoints: [`${root}apps/cli/src/main.ts`],
    outfile: `${root}apps/cli/dist/fox-lamp.mjs`,
    bundle: true,
    platform: "node",
    format: "esm",
    target: "node20",
    minify: true,
    legalComments: "none",
    logLevel: "warning",
  });
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
