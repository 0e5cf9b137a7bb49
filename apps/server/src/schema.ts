import type {
  Callout,
  Circuit,
  EntryKind,
  Instrument,
  NewEntry,
  Outcome,
  Recording,
  Role,
  ShopSettings,
  Simulated,
  Stage,
  Vehicle,
  Wait,
} from "@fox-lamp/language";
import { bigint, bigserial, boolean, customType, index, integer, jsonb, pgTable, real, text, timestamp, unique, uuid } from "drizzle-orm/pg-core";

const bytes = customType<{ data: Buffer }>({ dataType: () => "bytea" });
const moment = (name: string) => timestamp(name, { withTimezone: true });

export const shops = pgTable("shops", {
  id: uuid("id").primaryKey(),
  name: text("name").notNull(),
  settings: jsonb("settings").$type<Partial<ShopSettings>>().notNull().default({}),
});

/** Keys the installation has made for itself, shared by all servers on the database. */
export const secrets = pgTable("secrets", { name: text("name").primaryKey(), value: text("value").notNull() });

export const people = pgTable(
  "people",
  {
    id: uuid("id").primaryKey(),
    shopId: uuid("shop_id")
      .notNull()
      .references(() => shops.id),
    name: text("name").notNull(),
    role: text("role").$type<Role>().notNull(),
    /** False once a foreman has taken the access back; what was done stays in the record. */
    active: boolean("active").notNull().default(true),
    /** People without an e-mail address get one under `.invalid`, which no mail reaches. */
    email: text("email").notNull().unique(),
    emailVerified: boolean("email_verified").notNull().default(false),
    image: text("image"),
    username: text("username").unique(),
    displayUsername: text("display_username"),
    createdAt: moment("created_at").notNull().defaultNow(),
    updatedAt: moment("updated_at").notNull().defaultNow(),
  },
  (table) => [index("people_shop").on(table.shopId)],
);

export const sessions = pgTable(
  "sessions",
  {
    id: uuid("id").primaryKey(),
    userId: uuid("user_id")
      .notNull()
      .references(() => people.id, { onDelete: "cascade" }),
    token: text("token").notNull().unique(),
    expiresAt: moment("expires_at").notNull(),
    ipAddress: text("ip_address"),
    userAgent: text("user_agent"),
    createdAt: moment("created_at").notNull().defaultNow(),
    updatedAt: moment("updated_at").notNull().defaultNow(),
  },
  (table) => [index("sessions_user").on(table.userId)],
);

export const accounts = pgTable(
  "accounts",
  {
    id: uuid("id").primaryKey(),
    userId: uuid("user_id")
      .notNull()
      .references(() => people.id, { onDelete: "cascade" }),
    accountId: text("account_id").notNull(),
    providerId: text("provider_id").notNull(),
    accessToken: text("access_token"),
    refreshToken: text("refresh_token"),
    idToken: text("id_token"),
    accessTokenExpiresAt: moment("access_token_expires_at"),
    refreshTokenExpiresAt: moment("refresh_token_expires_at"),
    scope: text("scope"),
    password: text("password"),
    createdAt: moment("created_at").notNull().defaultNow(),
    updatedAt: moment("updated_at").notNull().defaultNow(),
  },
  (table) => [index("accounts_user").on(table.userId)],
);

export const verifications = pgTable("verifications", {
  id: uuid("id").primaryKey(),
  identifier: text("identifier").notNull(),
  value: text("value").notNull(),
  expiresAt: moment("expires_at").notNull(),
  createdAt: moment("created_at").notNull().defaultNow(),
  updatedAt: moment("updated_at").notNull().defaultNow(),
});

export const rateLimits = pgTable("rate_limits", {
  id: uuid("id").primaryKey(),
  key: text("key").notNull().unique(),
  count: integer("count").notNull(),
  lastRequest: bigint("last_request", { mode: "number" }).notNull(),
});

export const invitations = pgTable("invitations", {
  code: text("code").primaryKey(),
  shopId: uuid("shop_id")
    .notNull()
    .references(() => shops.id),
  name: text("name").notNull(),
  role: text("role").$type<Role>().notNull(),
  expiresAt: moment("expires_at").notNull(),
});

export const vehicles = pgTable(
  "vehicles",
  {
    id: uuid("id").primaryKey(),
    shopId: uuid("shop_id")
      .notNull()
      .references(() => shops.id),
    details: jsonb("details").$type<Vehicle>().notNull(),
    /** The vehicle's circuits as last known, to start the next job from. */
    circuits: jsonb("circuits").$type<Circuit[]>().notNull().default([]),
    /** The virtual car that stands for it in the demo; null for a real one. Jobs on it work on this car. */
    simulated: jsonb("simulated").$type<Simulated | null>(),
    /** Words to find it by, in lower case. */
    search: text("search").notNull().default(""),
  },
  (table) => [index("vehicles_shop").on(table.shopId), index("vehicles_search").using("gin", table.search.op("gin_trgm_ops"))],
);

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
    bench: jsonb("bench").$type<Instrument[] | null>(),
    /** The circuits it started with; entries edit them. */
    circuits: jsonb("circuits").$type<Circuit[]>().notNull(),
    /** The virtual car behind a demo or practice job; it never leaves the server. */
    simulated: jsonb("simulated").$type<Simulated | null>(),
    createdAt: moment("created_at").notNull().defaultNow(),
    // What follows is folded from the entries, so that lists need not fold them.
    title: text("title").notNull(),
    complaint: text("complaint").notNull().default(""),
    codes: jsonb("codes").$type<string[]>().notNull().default([]),
    stage: text("stage").$type<Stage>().notNull().default("complaint"),
    readings: integer("readings").notNull().default(0),
    minutes: real("minutes").notNull().default(0),
    assignedTo: text("assigned_to"),
    assigneeId: uuid("assignee_id").references(() => people.id),
    waitingFor: text("waiting_for").$type<Wait | null>(),
    outcome: text("outcome").$type<Outcome | null>(),
    /** The unit of the last verdict; null while nothing is proven. */
    verdict: text("verdict"),
    overrides: jsonb("overrides").$type<{ unit: string; probability: number | null }[]>().notNull().default([]),
    /** Words to find it by, in lower case. */
    search: text("search").notNull().default(""),
    updatedAt: moment("updated_at").notNull().defaultNow(),
  },
  (table) => [
    index("jobs_shop_stage").on(table.shopId, table.stage, table.updatedAt),
    index("jobs_vehicle").on(table.vehicleId),
    index("jobs_assignee").on(table.assigneeId),
    index("jobs_search").using("gin", table.search.op("gin_trgm_ops")),
  ],
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
    receivedAt: moment("received_at").notNull().defaultNow(),
  },
  (table) => [unique("entries_job_seq").on(table.jobId, table.seq)],
);

export const photos = pgTable(
  "photos",
  {
    id: uuid("id").primaryKey(),
    jobId: uuid("job_id")
      .notNull()
      .references(() => jobs.id),
    type: text("type").notNull(),
    content: bytes("content").notNull(),
  },
  (table) => [index("photos_job").on(table.jobId)],
);

export const recordings = pgTable(
  "recordings",
  {
    id: uuid("id").primaryKey(),
    jobId: uuid("job_id")
      .notNull()
      .references(() => jobs.id),
    content: jsonb("content").$type<Recording>().notNull(),
  },
  (table) => [index("recordings_job").on(table.jobId)],
);

/** What a bench shows on other devices; a code opens it. */
export const callouts = pgTable("callouts", {
  code: text("code").primaryKey(),
  shopId: uuid("shop_id")
    .notNull()
    .references(() => shops.id),
  state: jsonb("state").$type<Callout>().notNull(),
  updatedAt: moment("updated_at").notNull().defaultNow(),
});
