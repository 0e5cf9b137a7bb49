import { randomUUID } from "node:crypto";
import { percentile } from "@fox-lamp/core/numeric";
import pg from "pg";

/** A server that runs on a database of its own, as `npm run bench` starts it. */
export interface BenchServer {
  readonly address: string;
  readonly database: string;
}

const CLIENTS = 100;
const READINGS_EACH = 20;
const PAUSE_MS = 500;
const JOBS = 100_000;
const VEHICLES = 20_000;
const ASKED = 40;

/** Signs the demo's technician in. @returns the cookie to send */
export async function signedIn(address: string): Promise<string> {
  const answer = await fetch(`${address}/api/auth/sign-in/username`, {
    method: "POST",
    headers: { "content-type": "application/json", origin: address },
    body: JSON.stringify({ username: "wren", password: "lamp-on-the-bench" }),
  });
  if (!answer.ok) throw new Error(`nobody can sign in: ${answer.status}`);
  return (answer.headers.get("set-cookie") ?? "").split(";")[0] ?? "";
}

/** Milliseconds of a request, and what it answered. */
export async function timed<T>(address: string, path: string, cookie: string, body?: unknown): Promise<{ ms: number; value: T }> {
  const start = performance.now();
  const answer = await fetch(`${address}${path}`, {
    method: body === undefined ? "GET" : "POST",
    headers: { cookie, "content-type": "application/json" },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  const value = (await answer.json()) as T;
  if (!answer.ok) throw new Error(`${path}: ${answer.status} ${JSON.stringify(value)}`);
  return { ms: performance.now() - start, value };
}

const entry = (kind: string, body: unknown) => ({ id: randomUUID(), at: new Date().toISOString(), by: "bench", kind, body });

/** Many clients taking readings at once, each on a job of its own: milliseconds a reading, and how many were lost. */
export async function readingSpeed({ address }: BenchServer): Promise<{ p50: number; p99: number; lost: number; readings: number }> {
  const cookie = await signedIn(address);
  const circuits = [{ id: "ect", family: "thermistor-2w" }];
  const jobs: string[] = [];
  for (let client = 0; client < CLIENTS; client += 1) {
    const { value } = await timed<{ id: string }>(address, "/api/jobs", cookie, {
      vehicle: { name: "b" },
      circuits,
      entries: [entry("complaint", { text: "b" })],
    });
    jobs.push(value.id);
  }
  const times: number[] = [];
  await Promise.all(
    jobs.map(async (job, client) => {
      // People do not press Enter in step.
      await new Promise((resolve) => setTimeout(resolve, (PAUSE_MS * client) / CLIENTS));
      for (let taken = 0; taken < READINGS_EACH; taken += 1) {
        const reading = { circuit: "ect", meter: "volts-dc", red: "sig@sensor", black: "bat-", value: 2 + taken / 100 };
        const { ms } = await timed(address, `/api/jobs/${job}/entries`, cookie, { entries: [entry("reading", { reading })] });
        times.push(ms);
        // A technician does other things between two readings; all clients together ask about 200 times a second.
        await new Promise((resolve) => setTimeout(resolve, PAUSE_MS));
      }
    }),
  );
  let stored = 0;
  for (const job of jobs) {
    const { value } = await timed<{ entries: { kind: string }[] }>(address, `/api/jobs/${job}`, cookie);
    stored += value.entries.filter(({ kind }) => kind === "reading").length;
  }
  return { p50: percentile(times, 0.5), p99: percentile(times, 0.99), lost: CLIENTS * READINGS_EACH - stored, readings: times.length };
}

/** Fills the yard with made-up jobs. */
async function fill(database: string): Promise<void> {
  const client = new pg.Client({ connectionString: database });
  await client.connect();
  const { rows } = await client.query("select shop_id, id from people where username = 'wren'");
  const { shop_id: shop, id: person } = rows[0] as { shop_id: string; id: string };
  await client.query(
    `insert into vehicles (id, shop_id, details, search)
     select gen_random_uuid(), $1, jsonb_build_object('name', 'Unit ' || n, 'plate', 'TB ' || n), lower('unit ' || n || ' tb ' || n || ' tb' || n) from generate_series(1000, $2::int) n`,
    [shop, 999 + VEHICLES],
  );
  await client.query(
    `with v as (select id, details, row_number() over () as n from vehicles where shop_id = $1)
     insert into jobs (id, number, shop_id, vehicle_id, title, circuits, complaint, codes, stage, assignee_id, assigned_to, search, updated_at)
     select gen_random_uuid(), 1000000 + j, $1, v.id, 'Coolant temperature', '[]', words, jsonb_build_array(code), stage, case when j % 7 = 0 then $2::uuid end, 'somebody',
       lower(j || ' coolant temperature ' || words || ' ' || (v.details ->> 'name') || ' tb' || (999 + v.n) || ' ' || code || ' part-' || (j % 5000)), now() - make_interval(mins => j)
     from (select j, 1 + j % $3::int as n, 'P' || lpad((j % 2500)::text, 4, '0') as code,
       (array['hunts at idle','no start when cold','lamp on the hill road','gauge jumps on bumps','smells of fuel','fans run on'])[1 + j % 6] as words,
       (array['complaint','codes','triage','bench','repair','check','closed','closed','closed','closed'])[1 + j % 10] as stage from generate_series(1, $4::int) j) made
     join v on v.n = made.n`,
    [shop, person, VEHICLES, JOBS],
  );
  await client.query("vacuum analyze jobs");
  await client.query("vacuum analyze vehicles");
  await client.end();
}

/** The yard with a hundred thousand jobs: milliseconds of each kind of search. */
export async function yardSpeed({ address, database }: BenchServer): Promise<{ what: string; p50: number; p99: number; found: number }[]> {
  const cookie = await signedIn(address);
  await fill(database);
  const results = [];
  for (const [what, query] of [
    ["the yard as it opens", ""],
    ["a code", "q=P0118"],
    ["a vehicle by its plate", "q=TB12345"],
    ["words of a complaint and a part", "q=bumps part-123"],
    ["a word that half of all jobs have", "q=on"],
    ["nothing", "q=zeppelin"],
    ["only mine", "mine=yes"],
  ] as const) {
    const times: number[] = [];
    let found = 0;
    for (let asked = 0; asked < ASKED; asked += 1) {
      const { ms, value } = await timed<{ count: number }[]>(address, `/api/yard?${query}`, cookie);
      times.push(ms);
      found = value.reduce((sum, { count }) => sum + count, 0);
    }
    results.push({ what, p50: percentile(times, 0.5), p99: percentile(times, 0.99), found });
  }
  return results;
}

const SPECS = 50_000;

/** Fills the shelf with made-up limits, curves and look-alikes. */
async function fillShelf(database: string): Promise<void> {
  const client = new pg.Client({ connectionString: database });
  await client.connect();
  await client.query(
    `insert into shelf (shop_id, id, item, kind, family, make, problems, passes, sameness, search, by)
     select (select shop_id from people where username = 'wren'), gen_random_uuid(),
       jsonb_build_object('kind', 'limit', 'record', jsonb_build_object('vehicle', jsonb_build_object('make', make, 'model', 'Model ' || n % 900, 'years', jsonb_build_array(2000 + n % 15, 2004 + n % 15)),
         'family', family, 'meter', 'volts-dc', 'red', pin, 'low', 4.8, 'high', 5.2, 'unit', 'V', 'source', jsonb_build_object('kind', 'document', 'title', 'Book ' || n % 300))),
       'limit', family, lower(make), '[]', '[]', 'bench-' || n, lower(concat_ws(' ', 'limit', make, 'model ' || n % 900, family, 'book ' || n % 300, 'volts-dc', pin, 'v')), 'bench'
     from (select n, (array['Orrin','Veldane','Kestrow','Testmake'])[1 + n % 4] as make, (array['thermistor-2w','pressure-3w','hall-3w'])[1 + n % 3] as family,
       (array['sig@sensor','ref@sensor','gnd@sensor'])[1 + n % 3] as pin from generate_series(1, $1::int) n) made`,
    [SPECS],
  );
  await client.query("vacuum analyze shelf");
  await client.end();
}

/** The shelf with fifty thousand records: milliseconds of each kind of search. */
export async function shelfSpeed({ address, database }: BenchServer): Promise<{ what: string; p50: number; p99: number; found: number }[]> {
  const cookie = await signedIn(address);
  await fillShelf(database);
  const { value: vehicles } = await timed<{ id: string; details: { make?: string } }[]>(address, "/api/vehicles?q=orrin", cookie);
  const results = [];
  for (const [what, query] of [
    ["as it opens", ""],
    ["a book and a pin", "q=book 123 ref@sensor"],
    ["a model", "q=veldane model 417"],
    ["a word that a quarter of all have", "q=orrin"],
    ["nothing", "q=zeppelin"],
    ["all limits that hold for one vehicle", `kind=limit&vehicle=${vehicles[0]?.id ?? ""}`],
  ] as const) {
    const times: number[] = [];
    let found = 0;
    for (let asked = 0; asked < ASKED; asked += 1) {
      const { ms, value } = await timed<{ count: number }>(address, `/api/shelf?${query}`, cookie);
      times.push(ms);
      found = value.count;
    }
    results.push({ what, p50: percentile(times, 0.5), p99: percentile(times, 0.99), found });
  }
  return results;
}
