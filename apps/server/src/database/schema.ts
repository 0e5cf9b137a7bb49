import type {
  Callout,
  Circuit,
  EntryKind,
  Instrument,
  NewEntry,
  Outcome,
  Recording,
  RemovedThing,
  Role,
  SharedPage,
  ShelfKind,
  ShelfRecord,
  ShopSettings,
  Simulated,
  Stage,
  StoredCapture,
  StoredSpec,
  Vehicle,
  Wait,
} from "@fox-lamp/language";
import { sql } from "drizzle-orm";
import { bigint, boolean, customType, foreignKey, index, integer, jsonb, pgTable, primaryKey, real, text, timestamp, unique, uuid } from "drizzle-orm/pg-core";

const bytes = customType<{ data: Buffer }>({ dataType: () => "bytea" });
const moment = (name: string) => timestamp(name, { withTimezone: true });

export const shops = pgTable("shops", {
  id: uuid("id").primaryKey(),
  name: text("name").notNull(),
  settings: jsonb("settings").$type<Partial<ShopSettings>>().notNull().default({}),
  /** The number of the latest job: every shop counts its own. */
  lastJobNumber: integer("last_job_number").notNull().default(0),
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
    /** Whether this person may open further shops on this installation. */
    owner: boolean("owner").notNull().default(false),
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

/** A new password may be set once with the code: a foreman made it for somebody who forgot the old one. */
export const passwordResets = pgTable("password_resets", {
  code: text("code").primaryKey(),
  personId: uuid("person_id")
    .notNull()
    .references(() => people.id, { onDelete: "cascade" }),
  expiresAt: moment("expires_at").notNull(),
});

// Every key of what grows with work starts with the shop: a shop's rows can stand on one machine of many.

export const vehicles = pgTable(
  "vehicles",
  {
    id: uuid("id").notNull(),
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
  (table) => [primaryKey({ columns: [table.shopId, table.id] }), index("vehicles_search").using("gin", table.search.op("gin_trgm_ops"))],
);

export const jobs = pgTable(
  "jobs",
  {
    id: uuid("id").notNull(),
    number: integer("number").notNull(),
    shopId: uuid("shop_id")
      .notNull()
      .references(() => shops.id),
    vehicleId: uuid("vehicle_id").notNull(),
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
    waitingSince: moment("waiting_since"),
    /** When the customer gets the vehicle. */
    promisedAt: moment("promised_at"),
    outcome: text("outcome").$type<Outcome | null>(),
    /** Minutes on the clock to the first verdict; null where no clock ran. */
    verdictMinutes: real("verdict_minutes"),
    /** The family of the circuit the verdict is about. */
    family: text("family"),
    /** The unit of the last verdict; null while nothing is proven. */
    verdict: text("verdict"),
    overrides: jsonb("overrides").$type<{ unit: string; probability: number | null }[]>().notNull().default([]),
    /** Words to find it by, in lower case. */
    search: text("search").notNull().default(""),
    updatedAt: moment("updated_at").notNull().defaultNow(),
  },
  (table) => [
    primaryKey({ columns: [table.shopId, table.id] }),
    unique("jobs_number").on(table.shopId, table.number),
    foreignKey({ name: "jobs_vehicle_fk", columns: [table.shopId, table.vehicleId], foreignColumns: [vehicles.shopId, vehicles.id] }),
    index("jobs_shop_stage").on(table.shopId, table.stage, table.updatedAt),
    index("jobs_vehicle").on(table.shopId, table.vehicleId),
    // What was found before: few of many jobs.
    index("jobs_found").on(table.shopId, table.family).where(sql`stage = 'closed' and verdict is not null`),
    index("jobs_assignee").on(table.shopId, table.assigneeId),
    index("jobs_search").using("gin", table.search.op("gin_trgm_ops")),
  ],
);

/** Where a job's entries stand. Its row is what one append waits for another by; what lists show of the job is a row of its own. */
export const jobHeads = pgTable(
  "job_heads",
  {
    shopId: uuid("shop_id").notNull(),
    jobId: uuid("job_id").notNull(),
    /** The number of the latest entry. */
    seq: integer("seq").notNull().default(0),
    /** The number of the latest entry that may have changed the circuits on the sheet. */
    sheet: integer("sheet").notNull().default(0),
    /** Up to which entry the job's folded columns are true. */
    folded: integer("folded").notNull().default(0),
  },
  (table) => [
    primaryKey({ columns: [table.shopId, table.jobId] }),
    foreignKey({ name: "job_heads_job_fk", columns: [table.shopId, table.jobId], foreignColumns: [jobs.shopId, jobs.id] }).onDelete("cascade"),
    index("job_heads_behind").on(table.shopId, table.jobId).where(sql`folded < seq`),
  ],
);

export const entries = pgTable(
  "entries",
  {
    shopId: uuid("shop_id").notNull(),
    jobId: uuid("job_id").notNull(),
    seq: integer("seq").notNull(),
    id: uuid("id").notNull(),
    at: timestamp("at", { withTimezone: true, mode: "string" }).notNull(),
    by: text("by").notNull(),
    /** Who was signed in; null for what was brought in with a file. */
    personId: uuid("person_id"),
    imported: boolean("imported").notNull().default(false),
    kind: text("kind").$type<EntryKind>().notNull(),
    body: jsonb("body").$type<NewEntry["body"]>().notNull(),
    receivedAt: moment("received_at").notNull().defaultNow(),
  },
  (table) => [
    primaryKey({ columns: [table.shopId, table.jobId, table.seq] }),
    unique("entries_id").on(table.shopId, table.id),
    foreignKey({ name: "entries_head_fk", columns: [table.shopId, table.jobId], foreignColumns: [jobHeads.shopId, jobHeads.jobId] }).onDelete("cascade"),
  ],
);

export const photos = pgTable(
  "photos",
  {
    shopId: uuid("shop_id").notNull(),
    jobId: uuid("job_id").notNull(),
    id: uuid("id").notNull(),
    type: text("type").notNull(),
    content: bytes("content").notNull(),
    receivedAt: moment("received_at").notNull().defaultNow(),
  },
  (table) => [
    primaryKey({ columns: [table.shopId, table.jobId, table.id] }),
    foreignKey({ name: "photos_job_fk", columns: [table.shopId, table.jobId], foreignColumns: [jobs.shopId, jobs.id] }).onDelete("cascade"),
  ],
);

export const recordings = pgTable(
  "recordings",
  {
    shopId: uuid("shop_id").notNull(),
    jobId: uuid("job_id").notNull(),
    id: uuid("id").notNull(),
    content: jsonb("content").$type<Recording>().notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.shopId, table.jobId, table.id] }),
    foreignKey({ name: "recordings_job_fk", columns: [table.shopId, table.jobId], foreignColumns: [jobs.shopId, jobs.id] }).onDelete("cascade"),
  ],
);

/** A capture of a scope: what is known of it; its samples are in parts. */
export const captures = pgTable(
  "captures",
  {
    shopId: uuid("shop_id").notNull(),
    jobId: uuid("job_id").notNull(),
    id: uuid("id").notNull(),
    content: jsonb("content").$type<StoredCapture>().notNull(),
    receivedAt: moment("received_at").notNull().defaultNow(),
  },
  (table) => [
    primaryKey({ columns: [table.shopId, table.jobId, table.id] }),
    foreignKey({ name: "captures_job_fk", columns: [table.shopId, table.jobId], foreignColumns: [jobs.shopId, jobs.id] }).onDelete("cascade"),
  ],
);

/** Packed samples of one channel of a capture, a block each, and the lowest level of its pyramid. */
export const captureParts = pgTable(
  "capture_parts",
  {
    shopId: uuid("shop_id").notNull(),
    jobId: uuid("job_id").notNull(),
    captureId: uuid("capture_id").notNull(),
    part: text("part").notNull(),
    content: bytes("content").notNull(),
  },
  (table) => [
    primaryKey({ columns: [table.shopId, table.jobId, table.captureId, table.part] }),
    foreignKey({
      name: "capture_parts_capture_fk",
      columns: [table.shopId, table.jobId, table.captureId],
      foreignColumns: [captures.shopId, captures.jobId, captures.id],
    }).onDelete("cascade"),
  ],
);

/** What a bench shows on other devices; a code opens it. */
export const callouts = pgTable(
  "callouts",
  {
    code: text("code").primaryKey(),
    shopId: uuid("shop_id").notNull(),
    jobId: uuid("job_id").notNull(),
    /** Null until the bench shows something. */
    state: jsonb("state").$type<Callout | null>(),
    expiresAt: moment("expires_at").notNull(),
  },
  (table) => [
    index("callouts_job").on(table.shopId, table.jobId),
    foreignKey({ name: "callouts_job_fk", columns: [table.shopId, table.jobId], foreignColumns: [jobs.shopId, jobs.id] }).onDelete("cascade"),
  ],
);

/** Customers' pages that were shared: whoever has the code sees the page, and nothing else, until it expires. */
export const shares = pgTable(
  "shares",
  {
    code: text("code").primaryKey(),
    shopId: uuid("shop_id").notNull(),
    jobId: uuid("job_id").notNull(),
    page: jsonb("page").$type<SharedPage>().notNull(),
    by: text("by").notNull(),
    createdAt: moment("created_at").notNull().defaultNow(),
    expiresAt: moment("expires_at").notNull(),
  },
  (table) => [
    index("shares_job").on(table.shopId, table.jobId),
    foreignKey({ name: "shares_job_fk", columns: [table.shopId, table.jobId], foreignColumns: [jobs.shopId, jobs.id] }).onDelete("cascade"),
  ],
);

/** The shop's shelf: limits, curves and look-alikes, each with what physics says of it. */
export const shelf = pgTable(
  "shelf",
  {
    shopId: uuid("shop_id")
      .notNull()
      .references(() => shops.id),
    id: uuid("id").notNull(),
    item: jsonb("item").$type<ShelfRecord>().notNull(),
    kind: text("kind").$type<ShelfKind>().notNull(),
    family: text("family").notNull(),
    /** The make it is of, in lower case; null where it holds for any. */
    make: text("make"),
    problems: jsonb("problems").$type<StoredSpec["problems"]>().notNull(),
    passes: jsonb("passes").$type<string[]>().notNull(),
    /** A digest of what it says: two with the same are one thing said twice. */
    sameness: text("sameness").notNull(),
    /** Words to find it by, in lower case. */
    search: text("search").notNull(),
    importId: uuid("import_id"),
    by: text("by").notNull(),
    at: moment("at").notNull().defaultNow(),
  },
  (table) => [
    primaryKey({ columns: [table.shopId, table.id] }),
    index("shelf_import").on(table.shopId, table.importId),
    index("shelf_sameness").on(table.shopId, table.sameness),
    index("shelf_make").on(table.shopId, table.make),
    index("shelf_family").on(table.shopId, table.family),
    index("shelf_search").using("gin", table.search.op("gin_trgm_ops")),
  ],
);

/** What was put on the shelf at once, so that it can be taken back at once. */
export const shelfImports = pgTable(
  "shelf_imports",
  {
    shopId: uuid("shop_id")
      .notNull()
      .references(() => shops.id),
    id: uuid("id").notNull(),
    name: text("name").notNull(),
    by: text("by").notNull(),
    count: integer("count").notNull(),
    at: moment("at").notNull().defaultNow(),
    undoneAt: moment("undone_at"),
  },
  (table) => [primaryKey({ columns: [table.shopId, table.id] })],
);

/** What was taken out of the record for good: the trace it leaves. */
export const removals = pgTable(
  "removals",
  {
    shopId: uuid("shop_id")
      .notNull()
      .references(() => shops.id),
    id: uuid("id").notNull(),
    what: text("what").$type<RemovedThing>().notNull(),
    /** The job it was, or was in: its number is never given again. */
    jobNumber: integer("job_number"),
    subject: uuid("subject").notNull(),
    by: text("by").notNull(),
    personId: uuid("person_id"),
    reason: text("reason").notNull(),
    at: moment("at").notNull().defaultNow(),
  },
  (table) => [primaryKey({ columns: [table.shopId, table.id] }), index("removals_job").on(table.shopId, table.jobNumber)],
);
