import { readdirSync, readFileSync } from "node:fs";

/** Debian's own browser. */
export const CHROMIUM = process.env["CHROMIUM"] ?? "/usr/bin/chromium";
export const CHROMIUM_FLAGS = ["--no-sandbox", "--disable-gpu", "--disable-background-networking", "--disable-component-update", "--disable-sync"] as const;

/** Ends every process of the browser that works on a folder, at once and without asking. @returns how many */
export function killBrowserOn(folder: string): number {
  const found = readdirSync("/proc").filter((pid) => {
    if (!/^\d+$/u.test(pid)) return false;
    try {
      return readFileSync(`/proc/${pid}/cmdline`, "utf8").includes(`--user-data-dir=${folder}`);
    } catch {
      return false;
    }
  });
  for (const pid of found) {
    try {
      process.kill(Number(pid), "SIGKILL");
    } catch {
      // It went with its parent.
    }
  }
  return found.length;
}
