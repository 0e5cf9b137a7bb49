import { lstatSync, mkdirSync, statSync } from "node:fs";
import { join, resolve } from "node:path";

/** Linux takes no longer name for a socket; a process adds its own number to it while it starts. */
const MOST_NAME = 107 - ".4194304".length;

/** Makes a folder nobody else may enter. @returns whether it is one */
function ownFolder(folder: string, uid: number): boolean {
  mkdirSync(folder, { recursive: true, mode: 0o700 });
  const stats = lstatSync(folder);
  return stats.isDirectory() && stats.uid === uid && (stats.mode & 0o077) === 0;
}

/**
 * Where the standby of one bundle listens: in a folder of this user, under a name that another build or another checkout does not have. `ask.pl` says the
 * same.
 *
 * @returns null where there can be none, or none is wanted (`FOX_LAMP_STANDBY=off`)
 */
export function placeOf(bundle: string): string | null {
  const uid = process.getuid?.();
  const { env } = process;
  if (uid === undefined || env["FOX_LAMP_STANDBY"] === "off") return null;
  try {
    const folder = resolve(env["TMPDIR"] || env["TMP"] || env["TEMP"] || "/tmp", `fox-lamp-${uid}`);
    const { dev, ino, mtimeMs, size } = statSync(bundle);
    const socket = join(folder, [dev, ino, Math.floor(mtimeMs / 1000), size].join("-"));
    return socket.length <= MOST_NAME && ownFolder(folder, uid) ? socket : null;
  } catch {
    return null;
  }
}
