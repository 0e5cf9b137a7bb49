// After `npm install`: writes into package-lock.json the optional packages of other platforms that the registry in use does
// not carry. npm drops them from the lock when it cannot see them, and `npm ci` then refuses the lock as incomplete.
import { readFileSync, writeFileSync } from "node:fs";
import { fileURLToPath } from "node:url";

const path = fileURLToPath(new URL("../package-lock.json", import.meta.url));
const lock = JSON.parse(readFileSync(path, "utf8"));
const SYSTEMS = ["android", "darwin", "freebsd", "openharmony", "netbsd", "openbsd", "sunos", "aix", "win32", "linux"];
const PROCESSORS = {
  "arm-eabi": "arm",
  armhf: "arm",
  gnueabihf: "arm",
  musleabihf: "arm",
  arm64: "arm64",
  x64: "x64",
  ia32: "ia32",
  ppc64: "ppc64",
  riscv64: "riscv64",
  s390x: "s390x",
  loong64: "loong64",
  mips64el: "mips64el",
  arm: "arm",
  wasm32: "wasm32",
};

/** Where a package asked for by `from` would be found, nearest first. */
function locate(from, name) {
  let base = from;
  for (;;) {
    const candidate = `${base === "" ? "" : `${base}/`}node_modules/${name}`;
    if (lock.packages[candidate]) return candidate;
    if (base === "") return null;
    base = base.includes("/node_modules/") ? base.slice(0, base.lastIndexOf("/node_modules/")) : "";
  }
}

let added = 0;
for (const [from, entry] of Object.entries(lock.packages)) {
  for (const [name, version] of Object.entries(entry.optionalDependencies ?? {})) {
    if (locate(from, name) !== null) continue;
    const processor = Object.entries(PROCESSORS).find(([token]) => name.includes(token));
    const system = SYSTEMS.find((token) => name.includes(token));
    lock.packages[`node_modules/${name}`] = {
      version: version.replace(/^[\^~]/, ""),
      ...(processor ? { cpu: [processor[1]] } : {}),
      ...(entry.dev ? { dev: true } : {}),
      ...(name.includes("musl") ? { libc: ["musl"] } : {}),
      optional: true,
      os: [system ?? "none"],
    };
    added += 1;
  }
}
lock.packages = Object.fromEntries(Object.entries(lock.packages).sort(([a], [b]) => (a < b ? -1 : 1)));
writeFileSync(path, `${JSON.stringify(lock, null, 2)}\n`);
process.stderr.write(`${added} packages of other platforms added to the lock\n`);
