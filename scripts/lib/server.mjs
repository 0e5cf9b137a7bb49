// Starts the built server as a child process and waits until it listens.
import { spawn } from "node:child_process";
import { Refusal, root } from "./say.mjs";

/** @returns its port and process, a function that stops it, and a promise that resolves when it ends */
export function startServer(env, { quiet = true } = {}) {
  return new Promise((resolve, reject) => {
    const child = spawn(process.execPath, ["--enable-source-maps", `${root}/apps/server/dist/server.mjs`], {
      cwd: root,
      env: { ...process.env, ...env },
      stdio: ["ignore", "inherit", "pipe", "ipc"],
      detached: true,
    });
    let log = "";
    child.stderr.on("data", (chunk) => {
      log = (log + chunk).slice(-4000);
      if (!quiet) process.stderr.write(chunk);
    });
    const ended = new Promise((done) => child.on("close", done));
    const stop = async () => {
      if (child.exitCode === null) child.kill("SIGTERM");
      await ended;
    };
    child.on("message", ({ port }) => resolve({ port, pid: child.pid, stop, ended }));
    child.on("close", (code) => {
      const plain = log.split("\n").filter((line) => line && !line.startsWith("{"));
      reject(new Refusal(plain[0] ?? `The server ended with ${code}.\n${log}`));
    });
  });
}
