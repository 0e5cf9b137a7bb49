import { createHash } from "node:crypto";
import { type JudgedRecord, sameness } from "@fox-lamp/core";
import {
  type ShelfPage,
  type ShelfQuery,
  type ShelfRecord,
  type SpecFile,
  type StoredImport,
  type StoredSpec,
  unitOfReading,
  type Vehicle,
} from "@fox-lamp/language";
import { and, desc, eq, inArray, isNull, like, type SQL, sql } from "drizzle-orm";
import { v7 as uuidv7 } from "uuid";
import type { Database } from "./open";
import { shelf, shelfImports } from "./schema";
import { containing } from "./vehicles";

const MOST_LISTED = 100;
/** Of one vehicle all are wanted: what is used depends on every one. */
const MOST_OF_VEHICLE = 1000;
const MOST_IMPORTS = 30;
/** Rows of one statement: a statement takes no more than 65535 values. */
const ROWS_AT_ONCE = 500;

/** A record with what physics says of it. */
export interface Judged extends JudgedRecord {
  readonly item: ShelfRecord;
}

/** A digest of what a record says, whoever entered it and when. */
function digestOf(item: ShelfRecord): string {
  return createHash("sha256").update(sameness(item)).digest("hex").slice(0, 32);
}

/** Words a record is found by, in lower case. */
function wordsOf({ kind, record }: ShelfRecord): string {
  const { vehicle, family, source } = record;
  const of = [vehicle.make, vehicle.model, vehicle.engine, vehicle.years?.join(" "), family, source.title, source.edition];
  const own = (): (string | number | undefined)[] => {
    switch (kind) {
      case "limit":
        return [record.id, record.circuit, record.meter, record.red, record.black, record.setup?.key, record.unit, unitOfReading(record)];
      case "curve":
        return [record.id, record.kind];
      case "variant":
        return [record.part, record.connector, record.seal];
      case "known":
        return [record.circuit, record.meter, record.red, record.black, record.setup?.key, record.unit];
    }
  };
  return [kind, ...of, ...own()]
    .filter((word) => word !== undefined)
    .join(" ")
    .toLowerCase();
}

function makeOf({ record: { vehicle } }: ShelfRecord): string | null {
  return vehicle.make?.trim().toLowerCase() ?? null;
}

function storedOf(row: typeof shelf.$inferSelect): StoredSpec {
  const { id, item, problems, passes, importId, by, at } = row;
  return { id, item, problems, passes, importId, by, at: at.toISOString() };
}

/** What a record's vehicles leave open holds for every vehicle; what they name must be this one's. */
function holdsFor({ make = "", model = "", engine = "", year }: Vehicle): SQL {
  const part = (name: string, value: string): SQL =>
    sql`coalesce(lower(trim(${shelf.item} #>> ${`{record,vehicle,${name}}`}::text[])), ${value.trim().toLowerCase()}) = ${value.trim().toLowerCase()}`;
  const years = sql`${shelf.item} #> '{record,vehicle,years}'`;
  const inYears =
    year === undefined
      ? sql`${years} is null`
      : sql`(${years} is null or (${year} >= (${shelf.item} #>> '{record,vehicle,years,0}')::int and ${year} <= (${shelf.item} #>> '{record,vehicle,years,1}')::int))`;
  // Few of many records are of one make: the others are not looked at.
  return sql`(${shelf.make} is null or ${shelf.make} = ${make.trim().toLowerCase()}) and ${part("model", model)} and ${part("engine", engine)} and ${inYears}`;
}

/** What a shop looks up: limits, curves and look-alikes. */
export class ShelfRepository {
  constructor(private readonly database: Database) {}

  /** What matches every word, the latest first. @param vehicle only what holds for it */
  async search(shopId: string, { kind, family, bad }: Omit<ShelfQuery, "q" | "vehicle">, words: readonly string[], vehicle?: Vehicle): Promise<ShelfPage> {
    const wanted = and(
      eq(shelf.shopId, shopId),
      ...words.map((word) => like(shelf.search, containing(word))),
      ...(kind === undefined ? [] : [eq(shelf.kind, kind)]),
      ...(family === undefined ? [] : [eq(shelf.family, family)]),
      ...(bad ? [sql`${shelf.problems} <> '[]'::jsonb`] : []),
      ...(vehicle === undefined ? [] : [holdsFor(vehicle)]),
    );
    const [rows, [counted]] = await Promise.all([
      this.database
        .select()
        .from(shelf)
        .where(wanted)
        .orderBy(desc(shelf.id))
        .limit(vehicle === undefined ? MOST_LISTED : MOST_OF_VEHICLE),
      this.database.select({ count: sql<number>`count(*)::int` }).from(shelf).where(wanted),
    ]);
    return { items: rows.map(storedOf), count: counted?.count ?? 0 };
  }

  /** For each record the id of one on the shelf that says the same; null where there is none. */
  async twins(shopId: string, items: readonly ShelfRecord[]): Promise<(string | null)[]> {
    const digests = items.map(digestOf);
    const found = await this.database
      .select({ id: shelf.id, sameness: shelf.sameness })
      .from(shelf)
      .where(and(eq(shelf.shopId, shopId), inArray(shelf.sameness, [...new Set(digests)])));
    const known = new Map(found.map(({ id, sameness: digest }) => [digest, id]));
    return digests.map((digest) => known.get(digest) ?? null);
  }

  private rowOf(shopId: string, { item, problems, passes }: Judged, by: string, importId: string | null): typeof shelf.$inferInsert {
    const { kind, record } = item;
    const judged = { problems: [...problems], passes: [...passes] };
    return {
      shopId,
      id: uuidv7(),
      item,
      kind,
      family: record.family,
      make: makeOf(item),
      ...judged,
      sameness: digestOf(item),
      search: wordsOf(item),
      importId,
      by,
    };
  }

  /** Puts one record on the shelf. @returns its id */
  async put(shopId: string, judged: Judged, by: string): Promise<string> {
    const row = this.rowOf(shopId, judged, by, null);
    await this.database.insert(shelf).values(row);
    return row.id;
  }

  /** Puts many on the shelf at once, all or none. @returns how many came, and the import they came with */
  async bringIn(
    shopId: string,
    name: string,
    all: readonly Judged[],
    by: string,
    skipTwins: boolean,
  ): Promise<{ id: string; stored: number; skipped: number }> {
    const id = uuidv7();
    return this.database.transaction(async (transaction) => {
      const inside = new ShelfRepository(transaction as unknown as Database);
      const twins = skipTwins
        ? await inside.twins(
            shopId,
            all.map(({ item }) => item),
          )
        : [];
      const seen = new Set<string>();
      // What stands twice in the file itself comes once too.
      const fresh = all.filter(({ item }, index) => {
        const digest = digestOf(item);
        const again = skipTwins && ((twins[index] ?? null) !== null || seen.has(digest));
        seen.add(digest);
        return !again;
      });
      await transaction.insert(shelfImports).values({ shopId, id, name, by, count: fresh.length });
      const rows = fresh.map((one) => this.rowOf(shopId, one, by, id));
      for (let from = 0; from < rows.length; from += ROWS_AT_ONCE) await transaction.insert(shelf).values(rows.slice(from, from + ROWS_AT_ONCE));
      return { id, stored: fresh.length, skipped: all.length - fresh.length };
    });
  }

  /** The latest imports, each with how much of it still stands. */
  async imports(shopId: string): Promise<StoredImport[]> {
    const left = sql<number>`(select count(*)::int from shelf s where s.shop_id = shelf_imports.shop_id and s.import_id = shelf_imports.id)`;
    const rows = await this.database
      .select({ row: shelfImports, left })
      .from(shelfImports)
      .where(eq(shelfImports.shopId, shopId))
      .orderBy(desc(shelfImports.id))
      .limit(MOST_IMPORTS);
    return rows.map(({ row: { id, name, by, at, count, undoneAt }, left: standing }) => ({
      id,
      name,
      by,
      at: at.toISOString(),
      count,
      left: standing,
      undone: undoneAt !== null,
    }));
  }

  /** Takes an import back. @returns how many records went; null when there is no such import that still stands */
  undo(shopId: string, id: string): Promise<number | null> {
    return this.database.transaction(async (transaction) => {
      const [taken] = await transaction
        .update(shelfImports)
        .set({ undoneAt: new Date() })
        .where(and(eq(shelfImports.shopId, shopId), eq(shelfImports.id, id), isNull(shelfImports.undoneAt)))
        .returning({ id: shelfImports.id });
      if (taken === undefined) return null;
      const gone = await transaction
        .delete(shelf)
        .where(and(eq(shelf.shopId, shopId), eq(shelf.importId, id)))
        .returning({ id: shelf.id });
      return gone.length;
    });
  }

  /** Writes a record anew; from then on it is its own, and stays when the import it came with is taken back. @returns false when the shop has none with this id */
  async change(shopId: string, id: string, judged: Judged, by: string): Promise<boolean> {
    const { item, kind, family, make, problems, passes, sameness: digest, search } = this.rowOf(shopId, judged, by, null);
    const changed = await this.database
      .update(shelf)
      .set({ item, kind, family, make, problems, passes, sameness: digest, search, by, at: new Date(), importId: null })
      .where(and(eq(shelf.shopId, shopId), eq(shelf.id, id)))
      .returning({ id: shelf.id });
    return changed.length > 0;
  }

  /** Takes a record off the shelf. @returns false when the shop has none with this id */
  async remove(shopId: string, id: string): Promise<boolean> {
    const gone = await this.database
      .delete(shelf)
      .where(and(eq(shelf.shopId, shopId), eq(shelf.id, id)))
      .returning({ id: shelf.id });
    return gone.length > 0;
  }

  /** Of what stands there more than once keeps the oldest. @returns how many went */
  async merge(shopId: string): Promise<number> {
    const gone = await this.database.execute(sql`
      delete from ${shelf} using (
        select id, row_number() over (partition by sameness order by id) as turn from ${shelf} where shop_id = ${shopId}) ordered
      where ${shelf.shopId} = ${shopId} and ${shelf.id} = ordered.id and ordered.turn > 1`);
    return gone.rowCount ?? 0;
  }

  /** The whole shelf as a file, or what holds for one vehicle. */
  async file(shopId: string, vehicle?: Vehicle): Promise<SpecFile> {
    const rows = await this.database
      .select({ item: shelf.item, by: shelf.by, at: shelf.at })
      .from(shelf)
      .where(and(eq(shelf.shopId, shopId), ...(vehicle === undefined ? [] : [holdsFor(vehicle)])))
      .orderBy(shelf.id);
    const file: SpecFile = { format: "fox-lamp/spec@1", limits: [], curves: [], variants: [], known: [] };
    for (const { item, by } of rows) {
      switch (item.kind) {
        case "limit":
          file.limits.push({ by, ...item.record });
          break;
        case "curve":
          file.curves.push({ by, ...item.record });
          break;
        case "variant":
          file.variants.push({ by, ...item.record });
          break;
        case "known":
          file.known.push({ by, ...item.record });
          break;
      }
    }
    return file;
  }
}
