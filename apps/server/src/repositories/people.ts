import { type Invitation, type Person, type Role, type Shop, type ShopSettings, shopSettingsSchema } from "@fox-lamp/language";
import { and, asc, eq, gt, inArray, sql } from "drizzle-orm";
import { v7 as uuidv7 } from "uuid";
import type { Database } from "../database";
import { invitations, people, shops } from "../schema";
import { spokenCode } from "../spoken-code";

const CODE_LENGTH = 10;
const INVITATION_DAYS = 14;

function personOf(row: typeof people.$inferSelect): Person {
  return { id: row.id, name: row.name, role: row.role, username: row.displayUsername ?? row.username ?? "", active: row.active };
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
}
