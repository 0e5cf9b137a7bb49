import { randomUUID } from "node:crypto";
import { resolve } from "node:path";
import { plainRules } from "@fox-lamp/core";
import { type NewEntry, type Role, shopSettingsSchema } from "@fox-lamp/language";
import pg from "pg";
import { AttachmentTables } from "../src/database/attachments";
import { CalloutRepository } from "../src/database/callouts";
import { CaptureTables } from "../src/database/captures";
import type { Change } from "../src/database/changes";
import { EntryRepository } from "../src/database/entries";
import { FiguresRepository } from "../src/database/figures";
import { JobRepository } from "../src/database/jobs";
import { migrateDatabase, openDatabase } from "../src/database/open";
import { PeopleRepository } from "../src/database/people";
import { Projection } from "../src/database/projection";
import { RemovalRepository } from "../src/database/removals";
import type { Scope } from "../src/database/rows";
import { accounts, people } from "../src/database/schema";
import { ShareRepository } from "../src/database/shares";
import { ShelfRepository } from "../src/database/shelf";
import { VehicleRepository } from "../src/database/vehicles";

export const MIGRATIONS = resolve(__dirname, "../drizzle");
const SILENT = { warn: () => undefined };

/** The address of a new, empty database on the cluster the tests run on. */
export async function emptyDatabase(): Promise<string> {
  const base = process.env["UNIT_DATABASE_URL"] ?? "";
  const name = `t_${randomUUID().replaceAll("-", "")}`;
  const client = new pg.Client({ connectionString: base });
  await client.connect();
  await client.query(`create database ${name}`);
  await client.end();
  const url = new URL(base);
  url.pathname = `/${name}`;
  return url.href;
}

/** What one server works with on a database. */
export function serverOn(url: string) {
  const { database, pool } = openDatabase(url, SILENT);
  const told: Change[] = [];
  const changes = { tell: (change: Change) => void told.push(change) };
  const projection = new Projection(database, changes, SILENT);
  const attachments = new AttachmentTables(database);
  return {
    url,
    database,
    pool,
    told,
    projection,
    attachments,
    captures: new CaptureTables(database),
    jobs: new JobRepository(database, changes),
    entries: new EntryRepository(database, pool, projection, changes),
    people: new PeopleRepository(database),
    vehicles: new VehicleRepository(database),
    figures: new FiguresRepository(database),
    callouts: new CalloutRepository(database, changes),
    shares: new ShareRepository(database),
    shelf: new ShelfRepository(database),
    removals: new RemovalRepository(database, attachments),
    close: async () => {
      await projection.stop();
      await pool.end();
    },
  };
}
export type TestServer = ReturnType<typeof serverOn>;

/** A server on a new database with all tables. */
export async function newServer(): Promise<TestServer> {
  const url = await emptyDatabase();
  await migrateDatabase(url, MIGRATIONS);
  return serverOn(url);
}

/** A shop with somebody of every role. */
export async function newShop({ people: repository, database }: TestServer, name = "Quay Street"): Promise<Record<Role, Scope & { name: string }>> {
  const shopId = await repository.createShop(name, shopSettingsSchema.parse({}));
  const person = async (role: Role): Promise<Scope & { name: string }> => {
    const id = randomUUID();
    const full = `${role} of ${name}`;
    await database.insert(people).values({ id, shopId, name: full, role, email: `${id}@people.invalid`, username: id, displayUsername: role });
    await database.insert(accounts).values({ id: randomUUID(), userId: id, accountId: id, providerId: "credential", password: "hash" });
    return { id, role, shopId, name: full };
  };
  return { technician: await person("technician"), foreman: await person("foreman"), trainee: await person("trainee") };
}

let moments = 0;
/** An entry as a device makes it. */
export function entry<K extends NewEntry["kind"]>(kind: K, body: Extract<NewEntry, { kind: K }>["body"], by = "somebody"): NewEntry {
  moments += 1;
  return { id: randomUUID(), at: new Date(Date.UTC(2026, 2, 2, 9, 0, moments)).toISOString(), by, kind, body } as NewEntry;
}

export const ECT = { id: "ect", family: "thermistor-2w", title: "Coolant temperature" };
/** A reading of the coolant sensor's signal. */
export const reading = (value: number, more: object = {}): NewEntry =>
  entry("reading", { reading: { circuit: "ect", meter: "volts-dc", red: "sig@sensor", black: "bat-", value }, minutes: 1.5, ...more } as never);

/** A job on a new vehicle with the coolant sensor's circuit. */
export async function newJob({ vehicles, jobs }: TestServer, { shopId, id, name }: Scope & { name: string }, circuits: object[] = [ECT]): Promise<string> {
  const vehicle = await vehicles.create(shopId, { name: "Unit 9", plate: "TB 904" }, circuits as never);
  const taken = { bench: null, circuits: circuits as never, simulated: null, entries: [entry("complaint", { text: "stalls when warm" })] };
  return jobs.create(shopId, vehicle, taken, { assigned: { id, name }, author: id });
}

/** The rules of a job as a page knows them. */
export const rules = () => Promise.resolve(() => plainRules);
/** The rules for a trainee. */
export const rulesFor = ({ id, role, name }: Scope & { name: string }) =>
  Promise.resolve((practice: boolean) => ({ ...plainRules, acting: { role, person: id, name, practice } }));
