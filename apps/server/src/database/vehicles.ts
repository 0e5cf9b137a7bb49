import type { Circuit, RegisteredVehicle, Simulated, Vehicle } from "@fox-lamp/language";
import { and, desc, eq, like, ne, sql } from "drizzle-orm";
import { v7 as uuidv7 } from "uuid";
import type { Database } from "./open";
import { vehicles } from "./schema";

/** Words a vehicle is found by, in lower case. */
export function vehicleWords(details: Vehicle): string {
  const { name = "", make = "", model = "", year = "", engine = "", plate = "" } = details;
  return [name, make, model, String(year), engine, plate, plate.replaceAll(/[\s-]/gu, "")].join(" ").toLowerCase();
}

/** A pattern that finds a word anywhere, with the database's own signs taken literally. */
export function containing(word: string): string {
  return `%${word.toLowerCase().replaceAll(/[\\%_]/gu, (sign) => `\\${sign}`)}%`;
}

const MOST_LISTED = 30;

function registeredOf(row: typeof vehicles.$inferSelect): RegisteredVehicle {
  return { id: row.id, details: row.details, circuits: row.circuits };
}

/** The shop's register of vehicles, each with its circuits as last known. */
export class VehicleRepository {
  constructor(private readonly database: Database) {}

  async create(shopId: string, details: Vehicle, circuits: readonly Circuit[] = [], simulated: Simulated | null = null): Promise<string> {
    const id = uuidv7();
    await this.database.insert(vehicles).values({ id, shopId, details, circuits: [...circuits], simulated, search: vehicleWords(details) });
    return id;
  }

  async find(shopId: string, id: string): Promise<RegisteredVehicle | null> {
    const [row] = await this.database
      .select()
      .from(vehicles)
      .where(and(eq(vehicles.id, id), eq(vehicles.shopId, shopId)));
    return row ? registeredOf(row) : null;
  }

  /** The virtual car that stands for a vehicle; null for a real one. */
  async simulated(shopId: string, id: string): Promise<Simulated | null> {
    const [row] = await this.database
      .select({ simulated: vehicles.simulated })
      .from(vehicles)
      .where(and(eq(vehicles.shopId, shopId), eq(vehicles.id, id)));
    return row?.simulated ?? null;
  }

  /** Vehicles that match every word, the latest first. */
  async search(shopId: string, words: readonly string[]): Promise<RegisteredVehicle[]> {
    const rows = await this.database
      .select()
      .from(vehicles)
      .where(and(eq(vehicles.shopId, shopId), ...words.map((word) => like(vehicles.search, containing(word)))))
      .orderBy(desc(vehicles.id))
      .limit(MOST_LISTED);
    return rows.map(registeredOf);
  }

  /** Other vehicles of the same make, model and engine. */
  async sisters(shopId: string, { id, details }: RegisteredVehicle): Promise<RegisteredVehicle[]> {
    const { make, model, engine } = details;
    if (!make || !model) return [];
    const same = JSON.stringify({ make, model, ...(engine ? { engine } : {}) });
    const rows = await this.database
      .select()
      .from(vehicles)
      .where(and(eq(vehicles.shopId, shopId), ne(vehicles.id, id), sql`${vehicles.details} @> ${same}::jsonb`))
      .limit(MOST_LISTED);
    return rows.map(registeredOf);
  }

  /** Writes what is known of a vehicle. @returns false when the shop has none with this id */
  async change(shopId: string, id: string, { details, circuits }: { details?: Vehicle | undefined; circuits?: Circuit[] | undefined }): Promise<boolean> {
    if (details === undefined && circuits === undefined) return (await this.find(shopId, id)) !== null;
    const changed = await this.database
      .update(vehicles)
      .set({ ...(details === undefined ? {} : { details, search: vehicleWords(details) }), ...(circuits === undefined ? {} : { circuits }) })
      .where(and(eq(vehicles.id, id), eq(vehicles.shopId, shopId)))
      .returning({ id: vehicles.id });
    return changed.length > 0;
  }
}
