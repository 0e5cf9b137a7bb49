import { fileURLToPath } from "node:url";
import { drizzle, type NodePgDatabase } from "drizzle-orm/node-postgres";
import { migrate } from "drizzle-orm/node-postgres/migrator";
import pg from "pg";
import type { Logger } from "pino";
import * as schema from "./schema";

export type Database = NodePgDatabase<typeof schema>;
export type Transaction = Parameters<Parameters<Database["transaction"]>[0]>[0];

const MOST_CONNECTIONS = 12;
/** A request waits so long for a connection, and no statement, lock or open transaction holds one for longer: milliseconds. */
const CONNECT_MS = 4000;
const STATEMENT_MS = 15_000;
const LOCK_MS = 4000;
const IDLE_IN_TRANSACTION_MS = 10_000;

/** Opens a pool on a PostgreSQL server. A connection that breaks, in use or not, is reported and replaced; it never ends the process. */
export function openDatabase(url: string, logger: Logger): { database: Database; pool: pg.Pool } {
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

/** Brings the tables up to date. */
export async function migrateDatabase(database: Database): Promise<void> {
  await migrate(database, { migrationsFolder: fileURLToPath(new URL("../drizzle", import.meta.url)) });
}
