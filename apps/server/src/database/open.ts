import { readFileSync } from "node:fs";
import { sql } from "drizzle-orm";
import { drizzle, type NodePgDatabase } from "drizzle-orm/node-postgres";
import { migrate } from "drizzle-orm/node-postgres/migrator";
import pg from "pg";
import type { Logger } from "pino";
import { LISTEN } from "./changes";
import * as schema from "./schema";

export type Database = NodePgDatabase<typeof schema>;
export type Transaction = Parameters<Parameters<Database["transaction"]>[0]>[0];

export const MOST_CONNECTIONS = 12;
/** A request waits so long for a connection, and no statement, lock or open transaction holds one for longer: milliseconds. */
const CONNECT_MS = 4000;
const STATEMENT_MS = 15_000;
const LOCK_MS = 4000;
const IDLE_IN_TRANSACTION_MS = 10_000;
/** Any number, the same on every server. */
const MIGRATION_LOCK = 7_151_002;
const NEEDS_ALONE = "-- needs: no other server running";

/** Opens a pool on a PostgreSQL server. A connection that breaks, in use or not, is reported and replaced; it never ends the process. */
export function openDatabase(url: string, logger: Pick<Logger, "warn">): { database: Database; pool: pg.Pool } {
  const pool = new pg.Pool({
    connectionString: url,
    max: MOST_CONNECTIONS,
    connectionTimeoutMillis: CONNECT_MS,
    statement_timeout: STATEMENT_MS,
    lock_timeout: LOCK_MS,
    idle_in_transaction_session_timeout: IDLE_IN_TRANSACTION_MS,
    keepAlive: true,
  });
  const lost = (error: Error): void => logger.warn({ reason: error.message }, "lost a database connection");
  pool.on("error", lost);
  // While a connection is in use the pool does not listen to it: without this its loss would end the process.
  pool.on("connect", (client) => client.on("error", lost));
  return { database: drizzle(pool, { schema }), pool };
}

/** A server of before still works on the database, and would go on writing what the new tables cannot take. */
export class OtherServers extends Error {
  constructor(count: number) {
    super(
      `${count} other ${count === 1 ? "server works" : "servers work"} on this database, and this version changes its tables: stop them, then start this one`,
    );
  }
}

/** The migrations not made yet that old servers cannot live with. */
async function pendingAlone(database: Database, folder: string): Promise<boolean> {
  const { rows } = await database.execute<{ known: string | null }>(sql`select to_regclass('drizzle.__drizzle_migrations')::text as known`);
  // An empty database has no servers of before.
  if (rows[0]?.known == null) return false;
  const done = await database.execute<{ latest: string | null }>(sql`select max(created_at)::text as latest from drizzle.__drizzle_migrations`);
  const latest = Number(done.rows[0]?.latest ?? 0);
  const journal = JSON.parse(readFileSync(`${folder}/meta/_journal.json`, "utf8")) as { entries: { when: number; tag: string }[] };
  return journal.entries.some(({ when, tag }) => when > latest && readFileSync(`${folder}/${tag}.sql`, "utf8").includes(NEEDS_ALONE));
}

/**
 * Brings the tables up to date. Of servers that start together one does it and the others wait; a migration that old servers cannot live
 * with is made only when none works on the database.
 * @throws OtherServers
 */
export async function migrateDatabase(url: string, folder: string): Promise<void> {
  const client = new pg.Client({ connectionString: url });
  await client.connect();
  try {
    // A connection of its own: its lock goes with it, and no time limit of the pool ends a long change.
    await client.query("select pg_advisory_lock($1)", [MIGRATION_LOCK]);
    const database = drizzle(client, { schema });
    if (await pendingAlone(database, folder)) {
      const { rows } = await client.query<{ count: number }>(
        "select count(*)::int as count from pg_stat_activity where datname = current_database() and query = $1 and pid <> pg_backend_pid()",
        [LISTEN],
      );
      const count = rows[0]?.count ?? 0;
      if (count > 0) throw new OtherServers(count);
    }
    await migrate(database, { migrationsFolder: folder });
  } finally {
    await client.end();
  }
}
