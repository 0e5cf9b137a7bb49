import { readdirSync, readFileSync } from "node:fs";
import pg from "pg";
import { emptyDatabase, entry, MIGRATIONS, newServer, newShop, reading, rules, serverOn } from "../../test/house";
import { Changes } from "./changes";
import { migrateDatabase } from "./open";

/** Tables that are the same on every machine of many: few rows, or looked up before the shop is known. */
const EVERYWHERE = new Set([
  "shops",
  "people",
  "accounts",
  "sessions",
  "verifications",
  "rate_limits",
  "secrets",
  "invitations",
  "password_resets",
  "callouts",
  "shares",
]);

async function connected<T>(url: string, task: (client: pg.Client) => Promise<T>): Promise<T> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    return await task(client);
  } finally {
    await client.end();
  }
}

it("every key of what grows with work starts with the shop, and what names a row of a shop names it with the shop", async () => {
  const server = await newServer();
  const { rows } = await server.pool.query<{ table: string; kind: string; columns: string[] }>(`
    select rel.relname as table, con.contype as kind,
      (select array_agg(att.attname order by position) from unnest(con.conkey) with ordinality key(attnum, position)
        join pg_attribute att on att.attrelid = con.conrelid and att.attnum = key.attnum)::text[] as columns
    from pg_constraint con join pg_class rel on rel.oid = con.conrelid join pg_namespace ns on ns.oid = rel.relnamespace
    where ns.nspname = 'public' and con.contype in ('p', 'u', 'f')`);
  await server.close();
  const keys = rows.filter(({ table, kind }) => !EVERYWHERE.has(table) && kind !== "f");
  expect(new Set(keys.map(({ table }) => table))).toEqual(
    new Set(["capture_parts", "captures", "entries", "job_heads", "jobs", "photos", "recordings", "removals", "shelf", "shelf_imports", "vehicles"]),
  );
  for (const { table, columns } of keys) expect([table, columns[0]]).toEqual([table, "shop_id"]);
  // Only who did it stands without the shop: people are the same everywhere.
  const foreign = rows.filter(({ table, kind, columns }) => !EVERYWHERE.has(table) && kind === "f" && columns[0] !== "shop_id");
  expect(foreign.map(({ columns }) => columns)).toEqual([["assignee_id"]]);
});

describe("a database from before", () => {
  const SHOP = "018f0000-0000-7000-8000-000000000001";
  const [ANN, BO] = ["018f0000-0000-7000-8000-0000000000a1", "018f0000-0000-7000-8000-0000000000b1"];
  const JOB = "018f0000-0000-7000-8000-00000000c001";

  /** Tables and rows as they were before keys started with the shop. */
  async function old(): Promise<string> {
    const url = await emptyDatabase();
    const files = readdirSync(MIGRATIONS).filter((name) => /^000[0-2]_.*\.sql$/u.test(name));
    await connected(url, async (client) => {
      for (const file of files)
        for (const statement of readFileSync(`${MIGRATIONS}/${file}`, "utf8").split("--> statement-breakpoint")) await client.query(statement);
      await client.query("create schema drizzle; create table drizzle.__drizzle_migrations (id serial primary key, hash text not null, created_at bigint)");
      const { entries } = JSON.parse(readFileSync(`${MIGRATIONS}/meta/_journal.json`, "utf8")) as { entries: { idx: number; when: number }[] };
      for (const { when } of entries.filter(({ idx }) => idx < 3))
        await client.query("insert into drizzle.__drizzle_migrations (hash, created_at) values ('x', $1)", [when]);
      await client.query("insert into shops (id, name) values ($1, 'Old Quay')", [SHOP]);
      for (const [id, name, role] of [
        [ANN, "Ann", "foreman"],
        [BO, "Bo", "technician"],
      ])
        await client.query("insert into people (id, shop_id, name, role, email, username) values ($1, $2, $3, $4, $5, $3)", [
          id,
          SHOP,
          name,
          role,
          `${name}@people.invalid`,
        ]);
      const vehicle = "018f0000-0000-7000-8000-00000000d001";
      await client.query(`insert into vehicles (id, shop_id, details) values ($1, $2, '{"name":"Unit 3"}')`, [vehicle, SHOP]);
      await client.query("insert into jobs (id, shop_id, vehicle_id, title, circuits, search) values ($1, $2, $3, 't', $4, 'words')", [
        JOB,
        SHOP,
        vehicle,
        JSON.stringify([{ id: "ect", family: "thermistor-2w" }]),
      ]);
      const made = [
        entry("complaint", { text: "stalls" }, "Ann"),
        reading(4.9),
        entry("note", { text: "by Bo" }, "Bo"),
        entry("note", { text: "by nobody here" }, "Cy"),
      ];
      for (const [index, { id, at, by, kind, body }] of made.entries())
        await client.query("insert into entries (id, job_id, seq, at, by, kind, body) values ($1, $2, $3, $4, $5, $6, $7)", [
          id,
          JOB,
          index + 1,
          at,
          by,
          kind,
          body,
        ]);
      await client.query(`insert into photos (id, job_id, type, content) values ($1, $2, 'image/png', '\\x00')`, ["018f0000-0000-7000-8000-00000000e001", JOB]);
    });
    return url;
  }

  it("keeps everything: entries with who made them, photos, numbers, an owner; and work goes on", async () => {
    const url = await old();
    await migrateDatabase(url, MIGRATIONS);
    const server = serverOn(url);
    const ann = { id: ANN, role: "foreman" as const, shopId: SHOP };
    const before = await server.entries.after(ann, JOB, 0);
    expect(before?.map(({ seq, by, person }) => [seq, by, person])).toEqual([
      [1, "Ann", ANN],
      [2, "somebody", null],
      [3, "Bo", BO],
      [4, "Cy", null],
    ]);
    expect(await server.attachments.photo({ shopId: SHOP, jobId: JOB }, "018f0000-0000-7000-8000-00000000e001")).not.toBeNull();
    const added = await server.entries.append(ann, JOB, [reading(4.8)], rules);
    expect(added?.[0]).toMatchObject({ seq: 5, person: ANN });
    const { rows } = await server.pool.query("select owner, name from people where owner");
    expect(rows).toEqual([{ owner: true, name: "Ann" }]);
    const shops = await server.people.shops();
    expect(shops).toEqual([{ id: SHOP, name: "Old Quay", people: 2, jobs: 1 }]);
    await server.close();
  });

  it("is not changed under a server that still works on it", async () => {
    const url = await old();
    const quiet = { warn: () => undefined };
    const running = new Changes(url, { query: (() => Promise.resolve({ rows: [] })) as never }, quiet);
    await running.open();
    await expect(migrateDatabase(url, MIGRATIONS)).rejects.toThrow(/1 other server works on this database/u);
    await running.close();
    await migrateDatabase(url, MIGRATIONS);
    // Done once, it is done: it asks nobody to stop.
    const again = new Changes(url, { query: (() => Promise.resolve({ rows: [] })) as never }, quiet);
    await again.open();
    await migrateDatabase(url, MIGRATIONS);
    await again.close();
  });

  it("is brought up to date once by servers that start together", async () => {
    const url = await old();
    await Promise.all([1, 2, 3].map(() => migrateDatabase(url, MIGRATIONS)));
    await connected(url, async (client) => {
      const { rows } = await client.query("select count(*)::int as count from drizzle.__drizzle_migrations");
      const { entries: steps } = JSON.parse(readFileSync(`${MIGRATIONS}/meta/_journal.json`, "utf8"));
      expect(rows).toEqual([{ count: steps.length }]);
    });
  });
});

it("changes are told to every server, gathered; after a lost connection everybody looks again", async () => {
  const server = await newServer();
  const quiet = { warn: () => undefined };
  const [one, two] = [new Changes(server.url, server.pool, quiet), new Changes(server.url, server.pool, quiet)];
  await Promise.all([one.open(), two.open()]);
  const heard: unknown[] = [];
  two.listen((change) => heard.push(change));
  for (let seq = 1; seq <= 120; seq += 1) one.tell({ job: `j${seq % 60}`, seq });
  await new Promise((resolve) => setTimeout(resolve, 300));
  // The latest of each job, each once.
  expect(heard).toHaveLength(60);
  expect(heard).toContainEqual({ job: "j0", seq: 120 });
  heard.length = 0;
  await connected(server.url, (client) =>
    client.query("select pg_terminate_backend(pid) from pg_stat_activity where query like 'LISTEN%' and datname = current_database()"),
  );
  const shop = await newShop(server);
  expect(shop.foreman.role).toBe("foreman");
  for (let wait = 0; wait < 50 && heard.length === 0; wait += 1) await new Promise((resolve) => setTimeout(resolve, 100));
  expect(heard).toEqual([null]);
  await Promise.all([one.close(), two.close()]);
  await server.close();
});
