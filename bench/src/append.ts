import { randomUUID } from "node:crypto";
import { Agent, request } from "node:http";
import { percentile } from "@fox-lamp/core/numeric";
import pg from "pg";
import { type BenchServer, signedIn, timed } from "./server";

/** As many connections as the server has. */
const CONNECTIONS = 12;
/** Connections are opened and plans made in the first part of a run, which is not counted. */
const WARM_MS = 1500;
const RUN_MS = 5000;

/** How quickly something was stored. */
export interface StoreSpeed {
  readonly p50: number;
  readonly p99: number;
  readonly perSecond: number;
}

/** What is measured: how many write, in jobs of how many readings, each in a job of its own or all in one. */
export interface AppendCase {
  readonly clients: number;
  readonly readings: number;
  readonly hot: boolean;
}

export const APPEND_CASES: readonly AppendCase[] = [
  ...[10, 300].flatMap((readings) => [1, 10, 100].map((clients) => ({ clients, readings, hot: false }))),
  { clients: 100, readings: 300, hot: true },
];

/** So many clients do one thing after another for a while: how long each took. */
async function together(clients: number, act: (client: number) => Promise<void>): Promise<StoreSpeed> {
  const times: number[] = [];
  const start = performance.now();
  await Promise.all(
    Array.from({ length: clients }, async (_, client) => {
      while (performance.now() - start < RUN_MS) {
        const before = performance.now();
        await act(client);
        if (before - start >= WARM_MS) times.push(performance.now() - before);
      }
    }),
  );
  const seconds = (performance.now() - start - WARM_MS) / 1000;
  return { p50: percentile(times, 0.5), p99: percentile(times, 0.99), perSecond: times.length / seconds };
}

const reading = (value: number) => ({
  id: randomUUID(),
  at: new Date().toISOString(),
  by: "bench",
  kind: "reading",
  body: { reading: { circuit: "ect", meter: "volts-dc", red: "sig@sensor", black: "bat-", value } },
});

/** The same row put into a table of its own by the same number of clients over as many connections as the server has, each with its commit. */
export async function bareCommit(database: string, clients: number): Promise<StoreSpeed> {
  const pool = new pg.Pool({ connectionString: database, max: CONNECTIONS });
  await pool.query(
    "drop table if exists bench_bare; create table bench_bare (shop uuid, job uuid, seq bigserial, id uuid, at timestamptz, by text, kind text, body jsonb, primary key (shop, job, seq), unique (shop, id))",
  );
  const [shop, jobs] = [randomUUID(), Array.from({ length: clients }, () => randomUUID())];
  const speed = await together(clients, async (client) => {
    const { id, at, by, kind, body } = reading(client);
    await pool.query({
      name: "bare",
      text: "insert into bench_bare (shop, job, id, at, by, kind, body) values ($1, $2, $3, $4, $5, $6, $7)",
      values: [shop, jobs[client], id, at, by, kind, body],
    });
  });
  await pool.query("drop table bench_bare");
  await pool.end();
  return speed;
}

const agent = new Agent({ keepAlive: true, maxSockets: 200 });

/** One request over a connection that stays open, with as little of the client's own work as there can be. */
function ask(address: string, path: string, cookie: string, body?: unknown): Promise<void> {
  const text = body === undefined ? "" : JSON.stringify(body);
  const headers = body === undefined ? { cookie } : { cookie, "content-type": "application/json", "content-length": Buffer.byteLength(text) };
  return new Promise((resolve, reject) => {
    const sent = request(`${address}${path}`, { method: body === undefined ? "GET" : "POST", agent, headers }, (answer) => {
      answer.on("data", () => undefined);
      answer.on("end", () => (answer.statusCode === 200 ? resolve() : reject(new Error(`${path}: ${answer.statusCode}`))));
    });
    sent.on("error", reject);
    sent.end(text);
  });
}

/** An answer for which the server does nothing: what the way there and back takes. */
export async function emptyAnswer({ address }: BenchServer, clients: number): Promise<StoreSpeed> {
  const cookie = await signedIn(address);
  return together(clients, () => ask(address, "/api/health", cookie));
}

/** Jobs that already have so many readings. */
async function jobsWith(address: string, cookie: string, count: number, readings: number): Promise<string[]> {
  const made: string[] = [];
  for (let job = 0; job < count; job += 1) {
    const complaint = { id: randomUUID(), at: new Date().toISOString(), by: "bench", kind: "complaint", body: { text: "bench" } };
    const body = { vehicle: { name: "b" }, circuits: [{ id: "ect", family: "thermistor-2w" }], entries: [complaint] };
    const { value } = await timed<{ id: string }>(address, "/api/jobs", cookie, body);
    for (let left = readings; left > 0; left -= 100)
      await timed(address, `/api/jobs/${value.id}/entries`, cookie, {
        entries: Array.from({ length: Math.min(left, 100) }, (_, index) => reading(index / 100)),
      });
    made.push(value.id);
  }
  return made;
}

/** Readings stored through the server as it is built. */
export async function appendSpeed({ address }: BenchServer, { clients, readings, hot }: AppendCase): Promise<StoreSpeed> {
  const cookie = await signedIn(address);
  const jobs = await jobsWith(address, cookie, hot ? 1 : clients, readings);
  return together(clients, async (client) => {
    await ask(address, `/api/jobs/${jobs[hot ? 0 : client]}/entries`, cookie, { entries: [reading(client)] });
  });
}
