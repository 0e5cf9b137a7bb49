import { randomBytes } from "node:crypto";
import { BadInput, type Role, shopSettingsSchema } from "@fox-lamp/language";
import { betterAuth } from "better-auth";
import { drizzleAdapter } from "better-auth/adapters/drizzle";
import { username } from "better-auth/plugins";
import { and, asc, eq, gt, sql } from "drizzle-orm";
import type { Context } from "hono";
import type { Logger } from "pino";
import { v7 as uuidv7 } from "uuid";
import type { Database, Transaction } from "../database/open";
import { accounts, invitations, passwordResets, people, rateLimits, secrets, sessions, shops, verifications } from "../database/schema";
import { codeLimits, GUESS_SECONDS, Guesses, passwordLimits } from "./guesses";
import { assertUncommon } from "./passwords";
import { spokenCode } from "./spoken-code";
import type { Who } from "./who";

/** A person as made by an invitation, by the first visit, or by the demo. */
export interface NewPerson {
  readonly shopId: string;
  readonly name: string;
  readonly role: Role;
  readonly username: string;
  readonly password: string;
  readonly email?: string | undefined;
  /** Whether this person may open further shops on the installation. */
  readonly owner?: boolean;
}

const DAY_SECONDS = 86_400;
/** Attempts from one address within a minute before it has to wait: a whole shop sits behind one address, and guessing is held by the account. */
const MOST_ATTEMPTS = 60;
/** Header in which the server itself tells where a request comes from; whatever a client writes there is replaced. */
const ADDRESS_HEADER = "x-fox-lamp-address";
/** How long an answered "who is it" is good for: many requests come in a burst, and access taken back elsewhere must show soon. */
const KNOWN_MS = 2000;
const MOST_KNOWN = 2000;
const NO_MAIL = "@people.invalid";

/** What the first visitor brings. */
export interface FirstVisit extends Omit<NewPerson, "shopId" | "role"> {
  readonly code: string;
  readonly shop: string;
}

const FIRST_CODE = "first-visit";
const FIRST_CODE_LENGTH = 8;
/** Any number, the same on every server. */
const FIRST_LOCK = 7_151_001;

/** Stores a person with the password's hash. @throws BadInput when the short name or the e-mail address is taken */
async function insertPerson(transaction: Transaction, person: Omit<NewPerson, "password">, hash: string): Promise<string> {
  const { shopId, name, role, username: own, email, owner = false } = person;
  const short = own.toLowerCase();
  const address = (email ?? `${short}${NO_MAIL}`).toLowerCase();
  const id = uuidv7();
  const [made] = await transaction
    .insert(people)
    .values({ id, shopId, name, role, owner, email: address, username: short, displayUsername: own })
    .onConflictDoNothing()
    .returning({ id: people.id });
  if (!made) {
    const [same] = await transaction.select({ id: people.id }).from(people).where(eq(people.username, short));
    const where = same ? "username" : "email";
    throw new BadInput({ code: `${where}:taken`, where, message: `"${same ? own : address}" is already used; expected another` });
  }
  await transaction.insert(accounts).values({ id: uuidv7(), userId: id, accountId: id, providerId: "credential", password: hash });
  return id;
}

/** The installation's own key, made once and shared by every server on the database. */
async function installationSecret(database: Database): Promise<string> {
  await database
    .insert(secrets)
    .values({ name: "sessions", value: randomBytes(32).toString("base64url") })
    .onConflictDoNothing();
  const [row] = await database.select().from(secrets).where(eq(secrets.name, "sessions"));
  return row?.value ?? "";
}

function buildAuth(database: Database, secret: string, logger: Logger) {
  return betterAuth({
    appName: "Fox Lamp",
    secret,
    basePath: "/api/auth",
    database: drizzleAdapter(database, {
      provider: "pg",
      schema: { user: people, session: sessions, account: accounts, verification: verifications, rateLimit: rateLimits },
    }),
    // The address people type is the address the server answers on, whatever stands in front of it.
    trustedOrigins: (request) => {
      const origin = request?.headers.get("origin");
      const host = request?.headers.get("host");
      return origin && host && URL.canParse(origin) && new URL(origin).host === host ? [origin] : [];
    },
    emailAndPassword: { enabled: true, disableSignUp: true, minPasswordLength: 8, maxPasswordLength: 128 },
    session: { expiresIn: 30 * DAY_SECONDS, updateAge: DAY_SECONDS },
    user: {
      additionalFields: {
        shopId: { type: "string", input: false, required: true },
        role: { type: "string", input: false, required: true },
        active: { type: "boolean", input: false, required: true },
        owner: { type: "boolean", input: false, required: true },
      },
    },
    plugins: [username({ minUsernameLength: 2, maxUsernameLength: 30, usernameValidator: (name) => /^[a-zA-Z0-9._-]+$/u.test(name) })],
    rateLimit: {
      enabled: true,
      storage: "database",
      window: 60,
      max: 300,
      customRules: { "/sign-in/username": { window: 60, max: MOST_ATTEMPTS }, "/sign-in/email": { window: 60, max: MOST_ATTEMPTS } },
    },
    advanced: {
      cookiePrefix: "fox-lamp",
      database: { generateId: () => uuidv7() },
      ipAddress: { ipAddressHeaders: [ADDRESS_HEADER] },
    },
    databaseHooks: {
      session: {
        create: {
          // Whoever's access was taken back gets no session, whatever password was typed.
          before: async ({ userId }) => {
            const [person] = await database.select({ active: people.active }).from(people).where(eq(people.id, userId));
            return person?.active === true ? undefined : false;
          },
        },
      },
    },
    telemetry: { enabled: false },
    logger: { level: "error", log: (level, message) => logger[level === "error" ? "error" : "warn"]({ from: "sign-in" }, message) },
  });
}

/** What of the sign-in library people use. */
const OPEN_ROUTES: ReadonlyMap<string, string> = new Map([
  ["/sign-in/username", "POST"],
  ["/sign-in/email", "POST"],
  ["/sign-out", "POST"],
  ["/change-password", "POST"],
  ["/list-sessions", "GET"],
  ["/get-session", "GET"],
  ["/revoke-session", "POST"],
  ["/revoke-other-sessions", "POST"],
]);
const SIGN_IN = /\/sign-in\//u;

async function fieldsOf(request: Request): Promise<Readonly<Record<string, unknown>>> {
  const body: unknown = await request
    .clone()
    .json()
    .catch(() => null);
  return typeof body === "object" && body !== null ? (body as Record<string, unknown>) : {};
}

/** The name somebody tries to sign in with, in lower case; null where the body names nobody. */
async function accountIn(request: Request): Promise<string | null> {
  const { username: own, email } = await fieldsOf(request);
  const name = typeof own === "string" ? own : typeof email === "string" ? email : null;
  return name === null ? null : name.slice(0, 120).toLowerCase();
}

/** People, passwords and sessions, kept by a sign-in library on the same database. */
export class Auth {
  private readonly guesses: Guesses;
  private readonly known = new Map<string, { readonly who: Promise<Who | null>; readonly until: number }>();

  private constructor(
    private readonly auth: ReturnType<typeof buildAuth>,
    private readonly database: Database,
    private readonly trustedProxies: number,
  ) {
    this.guesses = new Guesses(database);
  }

  /** @param trustedProxies how many proxies in front add to `x-forwarded-for` where a request came from; 0 believes nobody */
  static async open(database: Database, logger: Logger, trustedProxies: number): Promise<Auth> {
    return new Auth(buildAuth(database, await installationSecret(database), logger), database, trustedProxies);
  }

  /** Where a request comes from. */
  private addressOf(context: Context): string {
    // Whoever asks may write what he likes at the left; each proxy adds the address it saw at the right.
    const forwarded = this.trustedProxies > 0 ? context.req.header("x-forwarded-for")?.split(",").at(-this.trustedProxies)?.trim() : undefined;
    const incoming = (context.env as { incoming?: { socket?: { remoteAddress?: string } } } | undefined)?.incoming;
    return forwarded ?? incoming?.socket?.remoteAddress ?? "127.0.0.1";
  }

  /**
   * Signing in and out, changing a password, listing and ending sessions; whatever else the library could do is not there: with it people
   * would rename themselves.
   */
  async handle(context: Context): Promise<Response> {
    const { method, path } = context.req;
    if (OPEN_ROUTES.get(path.slice("/api/auth".length)) !== method)
      return context.json({ code: "route:unknown", where: path, message: "there is no such route" }, 404);
    this.forget();
    if (path.endsWith("/change-password")) {
      const [{ newPassword }, who] = await Promise.all([fieldsOf(context.req.raw), this.who(context.req.raw.headers)]);
      if (typeof newPassword === "string") assertUncommon(newPassword, "newPassword", who?.name ?? "", who?.username ?? "");
    }
    const address = this.addressOf(context);
    const account = SIGN_IN.test(path) ? await accountIn(context.req.raw) : null;
    const attempt = account === null ? null : passwordLimits(account, address);
    if (attempt !== null && (await this.guesses.tooMany(attempt))) {
      context.header("retry-after", String(GUESS_SECONDS));
      return context.json(
        { code: "sign-in:too-many", where: "", message: "too many wrong passwords for this name; wait some minutes, or ask a foreman for a new one" },
        429,
      );
    }
    const headers = new Headers(context.req.raw.headers);
    headers.set(ADDRESS_HEADER, address);
    const answer = await this.auth.handler(new Request(context.req.raw, { headers }));
    if (attempt !== null && answer.status === 401) await this.guesses.count(attempt);
    return answer;
  }

  /**
   * Looks something up by a code somebody was given; codes that open nothing are counted by where they come from.
   * @returns "too-many" where so many were wrong lately that none is looked up
   */
  async byCode<T>(context: Context, look: () => Promise<T | null>): Promise<T | null | "too-many"> {
    const limits = codeLimits(this.addressOf(context));
    if (await this.guesses.tooMany(limits)) return "too-many";
    const found = await look();
    if (found === null) await this.guesses.count(limits);
    return found;
  }

  /** Looks everybody up anew: somebody signed in or out, or may do something else than before. */
  forget(): void {
    this.known.clear();
  }

  /** Who asks; null for nobody, or for somebody whose access was taken back. */
  async who(headers: Headers): Promise<Who | null> {
    const cookie = headers.get("cookie");
    if (cookie === null) return null;
    const known = this.known.get(cookie);
    if (known !== undefined && known.until > Date.now()) return known.who;
    // The promise is kept, not its answer: requests that come together ask once.
    const who = this.lookUp(headers);
    if (this.known.size >= MOST_KNOWN) this.known.clear();
    this.known.set(cookie, { who, until: Date.now() + KNOWN_MS });
    who.catch(() => this.known.delete(cookie));
    return who;
  }

  private async lookUp(headers: Headers): Promise<Who | null> {
    const found = await this.auth.api.getSession({ headers });
    if (found === null) return null;
    const { id, name, email, role, shopId, active, owner, username: own } = found.user as typeof found.user & { username?: string };
    if (!active) return null;
    return { id, name, username: own ?? "", email: email.endsWith(NO_MAIL) ? null : email, role: role as Role, shopId, owner };
  }

  private async hashed(password: string): Promise<string> {
    const { password: hasher } = await this.auth.$context;
    return hasher.hash(password);
  }

  /**
   * Makes a person who can sign in.
   * @returns the person's id
   * @throws BadInput when the short name or the e-mail address is taken
   */
  async createPerson(person: NewPerson): Promise<string> {
    assertUncommon(person.password, "password", person.name, person.username);
    const hash = await this.hashed(person.password);
    return this.database.transaction((transaction) => insertPerson(transaction, person, hash));
  }

  /**
   * Takes an invitation and makes the person it invites, in one piece: of many who take it at once one comes in.
   * @returns false where the invitation does not hold (any more)
   */
  async accept(code: string, { password, ...person }: Omit<NewPerson, "shopId" | "role">): Promise<boolean> {
    assertUncommon(password, "password", person.name, person.username);
    const hash = await this.hashed(password);
    return this.database.transaction(async (transaction) => {
      const [taken] = await transaction
        .delete(invitations)
        .where(and(eq(invitations.code, code), gt(invitations.expiresAt, sql`now()`)))
        .returning();
      if (!taken) return false;
      await insertPerson(transaction, { ...person, shopId: taken.shopId, role: taken.role }, hash);
      return true;
    });
  }

  /** The code the first visitor needs: made once, told where the server was started, gone when somebody has come. */
  async firstCode(): Promise<string> {
    const code = spokenCode(FIRST_CODE_LENGTH);
    await this.database.insert(secrets).values({ name: FIRST_CODE, value: code }).onConflictDoNothing();
    const [row] = await this.database.select().from(secrets).where(eq(secrets.name, FIRST_CODE));
    return row?.value ?? code;
  }

  /**
   * Makes the first shop and its foreman, once for the whole installation: whoever comes at the same moment waits, and finds it taken.
   * @returns what stands in the way; null when it is done
   */
  async makeFirst({ code, shop, password, ...person }: FirstVisit): Promise<"taken" | "wrong-code" | null> {
    assertUncommon(password, "password", person.name, person.username, shop);
    const hash = await this.hashed(password);
    return this.database.transaction(async (transaction) => {
      await transaction.execute(sql`select pg_advisory_xact_lock(${FIRST_LOCK})`);
      const [somebody] = await transaction.select({ id: people.id }).from(people).limit(1);
      if (somebody) return "taken";
      const [secret] = await transaction.select().from(secrets).where(eq(secrets.name, FIRST_CODE));
      if (secret === undefined || secret.value !== code.trim().toUpperCase()) return "wrong-code";
      const [known] = await transaction.select({ id: shops.id }).from(shops).orderBy(asc(shops.name)).limit(1);
      const shopId = known?.id ?? uuidv7();
      if (known) await transaction.update(shops).set({ name: shop }).where(eq(shops.id, shopId));
      else await transaction.insert(shops).values({ id: shopId, name: shop, settings: shopSettingsSchema.parse({}) });
      await insertPerson(transaction, { ...person, shopId, role: "foreman", owner: true }, hash);
      await transaction.delete(secrets).where(eq(secrets.name, FIRST_CODE));
      return null;
    });
  }

  /**
   * Sets a new password with a code a foreman gave; wherever the person was signed in ends.
   * @returns false where the code does not hold (any more)
   */
  async setPassword(code: string, password: string): Promise<boolean> {
    const hash = await this.hashed(password);
    const changed = await this.database.transaction(async (transaction) => {
      const [reset] = await transaction
        .delete(passwordResets)
        .where(and(eq(passwordResets.code, code), gt(passwordResets.expiresAt, sql`now()`)))
        .returning();
      if (!reset) return false;
      const [person] = await transaction
        .select({ name: people.name, username: people.username })
        .from(people)
        .where(and(eq(people.id, reset.personId), eq(people.active, true)));
      if (!person) return false;
      assertUncommon(password, "password", person.name, person.username ?? "");
      await transaction.update(accounts).set({ password: hash, updatedAt: new Date() }).where(eq(accounts.userId, reset.personId));
      await transaction.delete(sessions).where(eq(sessions.userId, reset.personId));
      return true;
    });
    this.forget();
    return changed;
  }

  /** Ends every session of a person. */
  async signOutEverywhere(personId: string): Promise<void> {
    this.forget();
    await this.database.delete(sessions).where(eq(sessions.userId, personId));
  }
}
