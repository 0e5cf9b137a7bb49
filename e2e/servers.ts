import { type ChildProcess, spawn } from "node:child_process";
import { fileURLToPath } from "node:url";
import pg from "pg";

const DATABASE = process.env["DATABASE_URL"] ?? "";
const SERVER = fileURLToPath(new URL("../apps/server/dist/server.mjs", import.meta.url));

/** Does something on a database, over a connection of its own. */
export async function onDatabase<T>(url: string, task: (client: pg.Client) => Promise<T>): Promise<T> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    return await task(client);
  } finally {
    await client.end();
  }
}

let made = 0;
/** The address of a new, empty database on the cluster the tests run on. */
export async function newDatabase(): Promise<string> {
  made += 1;
  const name = `house_${Date.now()}_${made}`;
  await onDatabase(DATABASE, (client) => client.query(`create database ${name}`));
  const url = new URL(DATABASE);
  url.pathname = `/${name}`;
  return url.href;
}

/** A server of a test's own. */
export interface OwnServer {
  readonly port: number;
  readonly url: string;
  readonly child: ChildProcess;
  /** What it printed before it listened. */
  readonly said: string;
}

/** Starts the built server on a database; resolves when it listens. */
export function startServer(database: string, { demo = true, port = 0 }: { demo?: boolean; port?: number } = {}): Promise<OwnServer> {
  const child = spawn(process.execPath, [SERVER], {
    env: { ...process.env, DATABASE_URL: database, DEMO: demo ? "yes" : "no", PORT: String(port), LOG_LEVEL: "silent", TRUST_PROXY: "yes" },
    stdio: ["ignore", "ignore", "pipe", "ipc"],
  });
  let said = "";
  child.stderr?.on("data", (chunk: Buffer) => {
    said += chunk.toString();
  });
  return new Promise((resolve, reject) => {
    child.on("message", ({ port: at }: { port: number }) => resolve({ port: at, url: `http://127.0.0.1:${at}`, child, said }));
    child.on("exit", (code) => reject(new Error(`the server ended with ${code}: ${said}`)));
  });
}
