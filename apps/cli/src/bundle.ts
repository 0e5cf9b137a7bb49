import { readFileSync, writeFileSync } from "node:fs";
import { createRequire } from "node:module";
import { join } from "node:path";
import { Script } from "node:vm";

/** The bundle of the command line, and what V8 had compiled of it when it was built: so that it need not be compiled again at every start. */
export interface Bundle<Offered> {
  /** Runs the bundle. @returns what it offers */
  readonly load: () => Offered;
  /** Keeps what is compiled by now for the next start. */
  readonly keep: () => void;
}

/** What is kept of the file, or nothing: a start without it only takes longer. */
function keptOf(path: string): Buffer | undefined {
  try {
    return readFileSync(path);
  } catch {
    return undefined;
  }
}

/** @param folder where `fox-lamp.cjs` lies. V8 refuses by itself what another version of it, or other flags, have kept. */
export function bundleIn<Offered>(folder: string): Bundle<Offered> {
  const filename = join(folder, "fox-lamp.cjs");
  const kept = join(folder, "fox-lamp.kept");
  const script = new Script(`(function (require, module) {${readFileSync(filename, "utf8")}\n})`, { filename, cachedData: keptOf(kept) });
  const require = createRequire(filename);
  return {
    load: () => {
      const module = { exports: {} as Offered };
      (script.runInThisContext() as (from: NodeJS.Require, into: { exports: Offered }) => void)(require, module);
      return module.exports;
    },
    keep: () => writeFileSync(kept, script.createCachedData()),
  };
}
