import { inArray, sql } from "drizzle-orm";
import { v7 as uuidv7 } from "uuid";
import type { Database } from "../database/open";
import { rateLimits } from "../database/schema";

/** Wrong passwords for one account from one address, and from anywhere, before it has to wait; and how long it waits after the last: seconds. */
const MOST_FROM_ADDRESS = 10;
const MOST_FOR_ACCOUNT = 60;
/** Codes that open nothing, from one address: of call-outs, invitations and new passwords. */
const MOST_CODES = 30;
export const GUESS_SECONDS = 300;

/** What wrong guesses are counted under, and how many are too many. */
type Limits = readonly (readonly [key: string, most: number])[];

/** Limits for signing in: the account's own person is not kept out by somebody who guesses elsewhere. */
export function passwordLimits(account: string, address: string): Limits {
  return [
    [`guesses:${account}@${address}`, MOST_FROM_ADDRESS],
    [`guesses:${account}`, MOST_FOR_ACCOUNT],
  ];
}

/** Limits for codes that were given by word of mouth. */
export function codeLimits(address: string): Limits {
  return [[`codes@${address}`, MOST_CODES]];
}

/** Wrong guesses, counted on the database: all servers count together. */
export class Guesses {
  constructor(private readonly database: Database) {}

  /** Whether so many were wrong lately that nobody may try just now. */
  async tooMany(limits: Limits): Promise<boolean> {
    const keys = new Map(limits);
    const rows = await this.database
      .select()
      .from(rateLimits)
      .where(inArray(rateLimits.key, [...keys.keys()]));
    return rows.some(({ key, count, lastRequest }) => count >= (keys.get(key) ?? Number.POSITIVE_INFINITY) && Date.now() - lastRequest < GUESS_SECONDS * 1000);
  }

  /** Counts one more; begins anew where the last was long ago. */
  async count(limits: Limits): Promise<void> {
    const now = Date.now();
    const since = now - GUESS_SECONDS * 1000;
    await this.database
      .insert(rateLimits)
      .values(limits.map(([key]) => ({ id: uuidv7(), key, count: 1, lastRequest: now })))
      .onConflictDoUpdate({
        target: rateLimits.key,
        set: { count: sql`case when ${rateLimits.lastRequest} < ${since} then 1 else ${rateLimits.count} + 1 end`, lastRequest: now },
      });
  }
}
