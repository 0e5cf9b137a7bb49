// What the machine must have: Node, packages, and Debian's PostgreSQL and Chromium.
import { createHash } from "node:crypto";
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { Refusal, root, run, say } from "./say.mjs";

const LEAST_NODE = [20, 19];

export function checkNode() {
  const [major, minor] = process.versions.node.split(".").map(Number);
  if (major > LEAST_NODE[0] || (major === LEAST_NODE[0] && minor >= LEAST_NODE[1])) return;
  throw new Refusal(`Node ${process.versions.node} is too old; Fox Lamp needs ${LEAST_NODE.join(".")} or newer.`);
}

/** Installs npm packages when they are missing or the lock file has changed since. */
export async function ensurePackages() {
  const lock = createHash("sha256")
    .update(readFileSync(`${root}/package-lock.json`))
    .digest("hex");
  const stamp = `${root}/node_modules/.fox-lamp-lock`;
  if (existsSync(stamp) && readFileSync(stamp, "utf8") === lock) return;
  say("Installing packages ...");
  const { code, output } = await run("npm", ["ci", "--no-audit", "--no-fund"], { quiet: true });
  if (code !== 0) throw new Refusal(`The packages could not be installed (npm ci ended with ${code}).\n${output.split("\n").slice(-8).join("\n")}`);
  writeFileSync(stamp, lock);
}

let aptUpdated = false;

/** Installs a Debian package as root or through sudo; refuses with the command to type otherwise. */
async function installDebian(name, purpose) {
  const command = `apt-get install -y --no-install-recommends ${name}`;
  if (!existsSync("/usr/bin/apt-get")) throw new Refusal(`${purpose} is missing, and this is not a Debian machine; install ${name} and start again.`);
  const isRoot = process.getuid?.() === 0;
  const sudo = !isRoot && (await run("sudo", ["-n", "true"], { quiet: true })).code === 0;
  if (!isRoot && !sudo) throw new Refusal(`${purpose} is missing and this user may not install it; type: sudo ${command}`);
  say(`Installing ${name} from Debian's packages ...`);
  const apt = async (args) =>
    run(isRoot ? "apt-get" : "sudo", isRoot ? args : ["-n", "apt-get", ...args], { quiet: true, env: { ...process.env, DEBIAN_FRONTEND: "noninteractive" } });
  if (!aptUpdated) await apt(["update"]);
  aptUpdated = true;
  const { code, output } = await apt(["install", "-y", "--no-install-recommends", name]);
  if (code !== 0) throw new Refusal(`${name} could not be installed.\n${output.split("\n").slice(-6).join("\n")}`);
}

function postgresBin() {
  const base = "/usr/lib/postgresql";
  if (!existsSync(base)) return null;
  const versions = readdirSync(base)
    .filter((version) => existsSync(`${base}/${version}/bin/initdb`) && existsSync(`${base}/${version}/bin/postgres`))
    .sort((a, b) => Number(b) - Number(a));
  return versions.length === 0 ? null : `${base}/${versions[0]}/bin`;
}

/** Folder of PostgreSQL's programs, installed from Debian's packages when missing. */
export async function ensurePostgres() {
  const found = postgresBin();
  if (found) return found;
  // Without this Debian would make and start a cluster of its own.
  const isRoot = process.getuid?.() === 0;
  if (isRoot && !existsSync("/etc/postgresql-common/createcluster.conf")) {
    mkdirSync("/etc/postgresql-common", { recursive: true });
    writeFileSync("/etc/postgresql-common/createcluster.conf", "create_main_cluster = false\n");
  }
  await installDebian("postgresql", "PostgreSQL");
  const installed = postgresBin();
  if (!installed) throw new Refusal("PostgreSQL was installed, but its programs were not found under /usr/lib/postgresql.");
  return installed;
}

/** A program of Debian's, installed when missing. @returns its path */
export async function ensureProgram(path, name, purpose) {
  if (!existsSync(path)) await installDebian(name, purpose);
  return path;
}

/** Path of Debian's Chromium, installed when missing. */
export function ensureChromium() {
  return ensureProgram("/usr/bin/chromium", "chromium", "Chromium");
}

/** An independent circuit simulator, for the comparison of decks. */
export function ensureSimulator() {
  return ensureProgram("/usr/bin/ngspice", "ngspice", "ngspice");
}
