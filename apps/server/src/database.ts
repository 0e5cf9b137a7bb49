import { fileURLToPath } from "node:url";
import { drizzle, type NodePgDatabase } from "drizzle-orm/node-postgres";
import { migrate } from "drizzle-orm/node-postgres/migrator";
import pg from "pg";
import * as schema from "./schema";

export type Database = NodePgDatabase<typeof schema>;

/** Opens a pool on a PostgreSQL server. */
export function openDatabase(url: string): { database: Database; pool: pg.Pool } {
  const pool = new pg.Pool({ connectionString: url, max: 12 });
  return { database: drizzle(pool, { schema }), pool };
}

/** Brings the tables up to date. */
export async function migrateDatabase(database: Database): Promise<void> {
  await migrate(database, { migrationsFolder: fileURLToPath(new URL("../drizzle", import.meta.url)) });
}
