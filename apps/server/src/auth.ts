import { randomBytes } from "node:crypto";
import { BadInput, type Role } from "@fox-lamp/language";
import { betterAuth } from "better-auth";
import { drizzleAdapter } from "better-auth/adapters/drizzle";
import { username } from "better-auth/plugins";
import { eq } from "drizzle-orm";
import type { Context } from "hono";
import type { Logger } from "pino";
import { v7 as uuidv7 } from "uuid";
import type { Database } from "./database";
import { accounts, people, rateLimits, secrets, sessions, verifications } from "./schema";

/** Who asks: scopes every query. */
export interface Who {
  readonly id: string;
  readonly name: string;
  readonly username: string;
  readonly email: string | null;
  readonly role: Role;
  readonly shopId: string;
}

/** A person as made by an invitation, by the first visit, or by the demo. */
export interface NewPerson {
  readonly shopId: string;
  readonly name: string;
  readonly role: Role;
  readonly username: string;
  readonly password: string;
  readonly email?: string | undefined;
}

const DAY_SECONDS = 86_400;
/** Wrong passwords from one address within a minute before it has to wait. */
const MOST_ATTEMPTS = 12;
/** Header in which the server itself tells where a request comes from; whatever a client writes there is replaced. */
const ADDRESS_HEADER = "x-fox-lamp-address";
/** How long an answered "who is it" is good for: many requests come in a burst, and access taken back elsewhere must show soon. */
const KNOWN_MS = 2000;
const MOST_KNOWN = 2000;
const NO_MAIL = "@people.invalid";

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
    telemetry: { enabled: false },
    logger: { level: "error", log: (level, message) => logger[level === "error" ? "error" : "warn"]({ from: "sign-in" }, message) },
  });
}

/** People, passwords and sessions, kept by a sign-in library on the same database. */
export class Auth {
  private readonly known = new Map<string, { readonly who: Promise<Who | null>; readonly until: number }>();

  private constructor(
    private readonly auth: ReturnType<typeof buildAuth>,
    private readonly database: Database,
    private readonly trustProxy: boolean,
  ) {}

  /** @param trustProxy whether `x-forwarded-for` tells the client's address (a balancer stands in front) */
  static async open(database: Database, logger: Logger, trustProxy: boolean): Promise<Auth> {
    return new Auth(buildAuth(database, await installationSecret(database), logger), database, trustProxy);
  }

  /** Where a request comes from. */
  private addressOf(context: Context): string {
    const forwarded = this.trustProxy ? context.req.header("x-forwarded-for")?.split(",")[0]?.trim() : undefined;
    const incoming = (context.env as { incoming?: { socket?: { remoteAddress?: string } } } | undefined)?.incoming;
    return forwarded ?? incoming?.socket?.remoteAddress ?? "127.0.0.1";
  }

  /** Signing in and out, changing a password, listing and ending sessions. */
  handle(context: Context): Promise<Response> {
    this.forget();
    const headers = new Headers(context.req.raw.headers);
    headers.set(ADDRESS_HEADER, this.addressOf(context));
    return this.auth.handler(new Request(context.req.raw, { headers }));
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
    const { id, name, email, role, shopId, active, username: own } = found.user as typeof found.user & { username?: string };
    if (!active) return null;
    return { id, name, username: own ?? "", email: email.endsWith(NO_MAIL) ? null : email, role: role as Role, shopId };
  }

  /**
   * Makes a person who can sign in.
   * @returns the person's id
   * @throws BadInput when the short name or the e-mail address is taken
   */
  async createPerson({ shopId, name, role, username: own, password, email }: NewPerson): Promise<string> {
    const short = own.toLowerCase();
    const address = (email ?? `${short}${NO_MAIL}`).toLowerCase();
    const { password: hasher } = await this.auth.$context;
    const hash = await hasher.hash(password);
    const id = uuidv7();
    return this.database.transaction(async (transaction) => {
      const [made] = await transaction
        .insert(people)
        .values({ id, shopId, name, role, email: address, username: short, displayUsername: own })
        .onConflictDoNothing()
        .returning({ id: people.id });
      if (!made) {
        const [same] = await transaction.select({ id: people.id }).from(people).where(eq(people.username, short));
        const where = same ? "username" : "email";
        throw new BadInput({ code: `${where}:taken`, where, message: `"${same ? own : address}" is already used; expected another` });
      }
      await transaction.insert(accounts).values({ id: uuidv7(), userId: id, accountId: id, providerId: "credential", password: hash });
      return id;
    });
  }

  /** Ends every session of a person. */
  async signOutEverywhere(personId: string): Promise<void> {
    this.forget();
    await this.database.delete(sessions).where(eq(sessions.userId, personId));
  }
}
