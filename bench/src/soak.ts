import { randomUUID } from "node:crypto";
import { readdirSync, readFileSync } from "node:fs";
import { get } from "node:http";
import { percentile } from "@fox-lamp/core/numeric";
import pg from "pg";
import { type BenchServer, signedIn, timed } from "./server";

const CLIENTS = 50;
const PAUSE_MS = 1000;
const SAMPLES = 12;

/** What the server held at a moment. */
export interface Held {
  readonly minutes: number;
  readonly megabytes: number;
  readonly handles: number;
  readonly connections: number;
  readonly requests: number;
  readonly p99: number;
  readonly failed: number;
}

/**
 * Many clients at work for a long time, each with a job of its own, an event stream, and something to do every second: reads, readings, a
 * corrected one, the yard. What the server holds is looked at again and again.
 * @param pid the server's process
 */
export async function soak({ address, database }: BenchServer, pid: number, minutes: number): Promise<Held[]> {
  const cookie = await signedIn(address);
  const made = (kind: string, body: unknown) => ({ id: randomUUID(), at: new Date().toISOString(), by: "bench", kind, body });
  const start = performance.now();
  const end = start + minutes * 60_000;
  let [requests, failed] = [0, 0];
  let times: number[] = [];
  const work = async (client: number): Promise<void> => {
    const job = async (): Promise<string> => {
      const body = { vehicle: { name: `soak ${client}` }, circuits: [{ id: "ect", family: "thermistor-2w" }], entries: [made("complaint", { text: "soak" })] };
      return (await timed<{ id: string }>(address, "/api/jobs", cookie, body)).value.id;
    };
    let id = await job();
    let stream = get(`${address}/api/jobs/${id}/events`, { headers: { cookie } }, (answer) => answer.resume());
    stream.on("error", () => undefined);
    for (let turn = 0; performance.now() < end; turn += 1) {
      const reading = { circuit: "ect", meter: "volts-dc", red: "sig@sensor", black: "bat-", value: turn / 100 };
      try {
        const asked =
          turn % 10 === 9
            ? await timed(address, "/api/yard", cookie)
            : turn % 5 === 4
              ? await timed(address, `/api/jobs/${id}`, cookie)
              : await timed(address, `/api/jobs/${id}/entries`, cookie, { entries: [made("reading", { reading })] });
        times.push(asked.ms);
      } catch {
        failed += 1;
      }
      requests += 1;
      // A job is done, the next one is opened, with a stream of its own.
      if (turn % 60 === 59) {
        stream.destroy();
        id = await job();
        stream = get(`${address}/api/jobs/${id}/events`, { headers: { cookie } }, (answer) => answer.resume());
        stream.on("error", () => undefined);
      }
      await new Promise((resolve) => setTimeout(resolve, PAUSE_MS));
    }
    stream.destroy();
  };
  const watcher = new pg.Client({ connectionString: database });
  await watcher.connect();
  const held: Held[] = [];
  const look = async (): Promise<void> => {
    const { rows } = await watcher.query<{ count: number }>("select count(*)::int as count from pg_stat_activity where datname = current_database()");
    const kilobytes = Number(/VmRSS:\s+(\d+)/u.exec(readFileSync(`/proc/${pid}/status`, "utf8"))?.[1] ?? 0);
    held.push({
      minutes: (performance.now() - start) / 60_000,
      megabytes: kilobytes / 1024,
      handles: readdirSync(`/proc/${pid}/fd`).length,
      connections: rows[0]?.count ?? 0,
      requests,
      p99: times.length === 0 ? 0 : percentile(times, 0.99),
      failed,
    });
    times = [];
  };
  const watching = (async () => {
    for (let sample = 1; sample <= SAMPLES; sample += 1) {
      await new Promise((resolve) => setTimeout(resolve, (minutes * 60_000) / SAMPLES - 50));
      await look();
    }
  })();
  await Promise.all([...Array.from({ length: CLIENTS }, (_, client) => work(client)), watching]);
  await watcher.end();
  return held;
}
