import type { Callout, Circuit, EntryKind, Instrument, NewEntry, ShopSettings, Simulated, Stage, Vehicle } from "@fox-lamp/language";
import { bigserial, index, integer, jsonb, pgTable, text, timestamp, unique, uuid } from "drizzle-orm/pg-core";

export const shops = pgTable("shops", {
  id: uuid("id").primaryKey(),
  name: text("name").notNull(),
  settings: jsonb("settings").$type<Partial<ShopSettings>>().notNull().default({}),
});

export const people = pgTable("people", {
  id: uuid("id").primaryKey(),
  shopId: uuid("shop_id")
    .notNull()
    .references(() => shops.id),
  name: text("name").notNull(),
  role: text("role").$type<"technician" | "foreman" | "trainee">().notNull(),
});

export const vehicles = pgTable("vehicles", {
  id: uuid("id").primaryKey(),
  shopId: uuid("shop_id")
    .notNull()
    .references(() => shops.id),
  details: jsonb("details").$type<Vehicle>().notNull(),
});

export const jobs = pgTable(
  "jobs",
  {
    id: uuid("id").primaryKey(),
    number: bigserial("number", { mode: "number" }).notNull(),
    shopId: uuid("shop_id")
      .notNull()
      .references(() => shops.id),
    vehicleId: uuid("vehicle_id")
      .notNull()
      .references(() => vehicles.id),
    title: text("title").notNull(),
    assignedTo: text("assigned_to"),
    bench: jsonb("bench").$type<Instrument[] | null>(),
    circuits: jsonb("circuits").$type<Circuit[]>().notNull(),
    /** The virtual car behind a demo or practice job; it never leaves the server. */
    simulated: jsonb("simulated").$type<Simulated | null>(),
    /** Kept beside the entries so that lists need not fold them: complaint, codes, stage, number of readings. */
    complaint: text("complaint").notNull().default(""),
    codes: jsonb("codes").$type<string[]>().notNull().default([]),
    stage: text("stage").$type<Stage>().notNull().default("complaint"),
    readings: integer("readings").notNull().default(0),
    updatedAt: timestamp("updated_at", { withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [index("jobs_shop_updated").on(table.shopId, table.updatedAt)],
);

export const entries = pgTable(
  "entries",
  {
    id: uuid("id").primaryKey(),
    jobId: uuid("job_id")
      .notNull()
      .references(() => jobs.id),
    seq: integer("seq").notNull(),
    at: timestamp("at", { withTimezone: true, mode: "string" }).notNull(),
    by: text("by").notNull(),
    kind: text("kind").$type<EntryKind>().notNull(),
    body: jsonb("body").$type<NewEntry["body"]>().notNull(),
    receivedAt: timestamp("received_at", { withTimezone: true }).notNull().defaultNow(),
  },
  (table) => [unique("entries_job_seq").on(table.jobId, table.seq)],
);

/** What a bench shows on other devices; a code opens it. */
export const callouts = pgTable("callouts", {
  code: text("code").primaryKey(),
  shopId: uuid("shop_id")
    .notNull()
    .references(() => shops.id),
  state: jsonb("state").$type<Callout>().notNull(),
  updatedAt: timestamp("updated_at", { withTimezone: true }).notNull().defaultNow(),
});
