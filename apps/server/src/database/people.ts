import { type Invitation, type Person, type Role, type Shop, type ShopOfHouse, type ShopSettings, shopSettingsSchema } from "@fox-lamp/language";
import { and, asc, countDistinct, eq, gt, inArray, sql } from "drizzle-orm";
import { v7 as uuidv7 } from "uuid";
import { spokenCode } from "../accounts/spoken-code";
import type { Database } from "./open";
import { accounts, entries, invitations, jobs, passwordResets, people, sessions, shops } from "./schema";

const CODE_LENGTH = 10;
const INVITATION_DAYS = 14;
const RESET_HOURS = 24;

function personOf(row: typeof people.$inferSelect): Person {
  return { id: row.id, name: row.name, role: row.role, username: row.displayUsername ?? row.username ?? "", active: row.active };
}

/** What an installation has of a person, for that person to take away. */
export interface PersonFile {
  readonly format: "fox-lamp/person@1";
  readonly person: Person & { readonly email: string | null; readonly since: string };
  readonly passwordSet: string | null;
  readonly devices: readonly { readonly since: string; readonly until: string; readonly address: string | null; readonly browser: string | null }[];
  readonly assignedJobs: readonly number[];
  readonly entries: readonly {
    readonly job: number;
    readonly seq: number;
    readonly at: string;
    readonly by: string;
    readonly kind: string;
    readonly body: unknown;
  }[];
}

/** Shops, their people and their invitations. */
export class PeopleRepository {
  constructor(private readonly database: Database) {}

  /** Whether nobody can sign in yet. */
  async empty(): Promise<boolean> {
    const [row] = await this.database.select({ id: people.id }).from(people).limit(1);
    return row === undefined;
  }

  /** Which of these short names belong to somebody who may enter. */
  async known(usernames: readonly string[]): Promise<string[]> {
    const rows = await this.database
      .select({ username: people.username })
      .from(people)
      .where(and(inArray(people.username, [...usernames]), eq(people.active, true)));
    return rows.flatMap(({ username }) => (username === null ? [] : [username]));
  }

  /** The installation's first shop; null in an empty database. */
  async firstShopId(): Promise<string | null> {
    const [shop] = await this.database.select({ id: shops.id }).from(shops).orderBy(asc(shops.name)).limit(1);
    return shop?.id ?? null;
  }

  /** Makes a shop. @returns its id */
  async createShop(name: string, settings: ShopSettings): Promise<string> {
    const id = uuidv7();
    await this.database.insert(shops).values({ id, name, settings });
    return id;
  }

  /** A shop with its people. */
  async shop(shopId: string): Promise<Shop | null> {
    const [shop] = await this.database.select().from(shops).where(eq(shops.id, shopId));
    if (!shop) return null;
    const members = await this.database.select().from(people).where(eq(people.shopId, shopId)).orderBy(asc(people.name));
    return { id: shop.id, name: shop.name, people: members.map(personOf), settings: shopSettingsSchema.parse(shop.settings) };
  }

  /** Writes what a shop has decided. */
  async changeSettings(shopId: string, settings: ShopSettings): Promise<void> {
    await this.database.update(shops).set({ settings }).where(eq(shops.id, shopId));
  }

  async find(shopId: string, personId: string): Promise<Person | null> {
    const [row] = await this.database
      .select()
      .from(people)
      .where(and(eq(people.id, personId), eq(people.shopId, shopId)));
    return row ? personOf(row) : null;
  }

  /**
   * Changes what a person may do. The shop's last foreman who is still active stays one.
   * @returns null for nobody of this shop, "last-foreman" when that would leave the shop without one
   */
  async change(shopId: string, personId: string, changed: { role?: Role | undefined; active?: boolean | undefined }): Promise<Person | "last-foreman" | null> {
    return this.database.transaction(async (transaction) => {
      const members = await transaction.select().from(people).where(eq(people.shopId, shopId)).for("update");
      const own = members.find(({ id }) => id === personId);
      if (!own) return null;
      const [role, active] = [changed.role ?? own.role, changed.active ?? own.active];
      const others = members.some((member) => member.id !== personId && member.role === "foreman" && member.active);
      if (!others && !(role === "foreman" && active)) return "last-foreman";
      const [row] = await transaction.update(people).set({ role, active, updatedAt: new Date() }).where(eq(people.id, personId)).returning();
      return row ? personOf(row) : null;
    });
  }

  /** Invites somebody into a shop. */
  async invite(shopId: string, name: string, role: Role): Promise<Invitation | null> {
    const code = spokenCode(CODE_LENGTH);
    await this.database.insert(invitations).values({ code, shopId, name, role, expiresAt: new Date(Date.now() + INVITATION_DAYS * 86_400_000) });
    return (await this.invitation(code))?.invitation ?? null;
  }

  /** An invitation that still holds, with the shop it leads to. */
  async invitation(code: string): Promise<{ invitation: Invitation; shopId: string } | null> {
    const [row] = await this.database
      .select({ invitation: invitations, shop: shops.name })
      .from(invitations)
      .innerJoin(shops, eq(shops.id, invitations.shopId))
      .where(and(eq(invitations.code, code), gt(invitations.expiresAt, sql`now()`)));
    if (!row) return null;
    const { name, role, expiresAt, shopId } = row.invitation;
    return { invitation: { code, name, role, shop: row.shop, expiresAt: expiresAt.toISOString() }, shopId };
  }

  /** Invitations of a shop that nobody has taken yet. */
  async invitations(shopId: string): Promise<Invitation[]> {
    const rows = await this.database
      .select({ code: invitations.code })
      .from(invitations)
      .where(and(eq(invitations.shopId, shopId), gt(invitations.expiresAt, sql`now()`)))
      .orderBy(asc(invitations.expiresAt));
    const found = await Promise.all(rows.map(({ code }) => this.invitation(code)));
    return found.flatMap((one) => (one === null ? [] : [one.invitation]));
  }

  /** Takes an invitation away. @returns whether this call did: of two who try, one gets it */
  async takeInvitation(code: string, shopId: string): Promise<boolean> {
    const gone = await this.database
      .delete(invitations)
      .where(and(eq(invitations.code, code), eq(invitations.shopId, shopId)))
      .returning({ code: invitations.code });
    return gone.length > 0;
  }

  /** All shops of the installation, by name. */
  async shops(): Promise<ShopOfHouse[]> {
    const rows = await this.database
      .select({ id: shops.id, name: shops.name, people: countDistinct(people.id), jobs: shops.lastJobNumber })
      .from(shops)
      .leftJoin(people, eq(people.shopId, shops.id))
      .groupBy(shops.id)
      .orderBy(asc(shops.name));
    return rows;
  }

  /**
   * Opens a further shop and invites its first foreman.
   * @returns null where a shop has this name already
   */
  async openShop(name: string, foreman: string): Promise<Invitation | null> {
    const [same] = await this.database.select({ id: shops.id }).from(shops).where(sql`lower(${shops.name}) = lower(${name})`);
    if (same) return null;
    return this.invite(await this.createShop(name, shopSettingsSchema.parse({})), foreman, "foreman");
  }

  /** A code with which a person sets a new password, once. @returns null for nobody of this shop who may enter */
  async resetPassword(shopId: string, personId: string): Promise<{ code: string; expiresAt: string } | null> {
    const found = await this.find(shopId, personId);
    if (!found?.active) return null;
    const code = spokenCode(CODE_LENGTH);
    const expiresAt = new Date(Date.now() + RESET_HOURS * 3_600_000);
    await this.database.transaction(async (transaction) => {
      // The code given last is the one that holds.
      await transaction.delete(passwordResets).where(eq(passwordResets.personId, personId));
      await transaction.insert(passwordResets).values({ code, personId, expiresAt });
    });
    return { code, expiresAt: expiresAt.toISOString() };
  }

  /** A reset code for whoever has a short name, in whichever shop: for who sits at the machine. */
  async resetByName(username: string): Promise<{ code: string; expiresAt: string } | null> {
    const [person] = await this.database.select({ id: people.id, shopId: people.shopId }).from(people).where(eq(people.username, username.toLowerCase()));
    return person ? this.resetPassword(person.shopId, person.id) : null;
  }

  /** The person a reset code is for; null where it does not hold (any more). */
  async resetFor(code: string): Promise<{ name: string; username: string } | null> {
    const [row] = await this.database
      .select({ name: people.name, username: people.displayUsername })
      .from(passwordResets)
      .innerJoin(people, eq(people.id, passwordResets.personId))
      .where(and(eq(passwordResets.code, code), gt(passwordResets.expiresAt, sql`now()`), eq(people.active, true)));
    return row ? { name: row.name, username: row.username ?? "" } : null;
  }

  /** Everything the installation has of a person. */
  async everythingOf(shopId: string, personId: string): Promise<PersonFile | null> {
    const [person] = await this.database
      .select()
      .from(people)
      .where(and(eq(people.id, personId), eq(people.shopId, shopId)));
    if (!person) return null;
    const [done, devices, assigned, [account]] = await Promise.all([
      this.database
        .select({ job: jobs.number, seq: entries.seq, at: entries.at, by: entries.by, kind: entries.kind, body: entries.body })
        .from(entries)
        .innerJoin(jobs, and(eq(jobs.shopId, entries.shopId), eq(jobs.id, entries.jobId)))
        .where(and(eq(entries.shopId, shopId), eq(entries.personId, personId)))
        .orderBy(asc(jobs.number), asc(entries.seq)),
      this.database
        .select({ since: sessions.createdAt, until: sessions.expiresAt, address: sessions.ipAddress, browser: sessions.userAgent })
        .from(sessions)
        .where(eq(sessions.userId, personId)),
      this.database
        .select({ job: jobs.number })
        .from(jobs)
        .where(and(eq(jobs.shopId, shopId), eq(jobs.assigneeId, personId)))
        .orderBy(asc(jobs.number)),
      this.database.select({ changed: accounts.updatedAt }).from(accounts).where(eq(accounts.userId, personId)),
    ]);
    return {
      format: "fox-lamp/person@1",
      person: { ...personOf(person), email: person.email.endsWith(".invalid") ? null : person.email, since: person.createdAt.toISOString() },
      passwordSet: account?.changed.toISOString() ?? null,
      devices: devices.map(({ since, until, ...device }) => ({ ...device, since: since.toISOString(), until: until.toISOString() })),
      assignedJobs: assigned.map(({ job }) => job),
      entries: done.map(({ at, ...entry }) => ({ ...entry, at: new Date(at).toISOString() })),
    };
  }
}
