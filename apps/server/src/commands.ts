import type { PeopleRepository } from "./database/people";

const USAGE = `npm run shop -- NAME FOREMAN     opens a further shop and invites its foreman
npm run password -- SHORT-NAME   gives a code with which this person sets a new password`;

/** Runs a command for whoever sits at the machine. @returns what to print, and the exit code */
export async function runCommand(
  people: Pick<PeopleRepository, "openShop" | "resetByName">,
  [what, ...words]: readonly string[],
): Promise<readonly [text: string, code: number]> {
  const [first, second] = words.map((word) => word.trim());
  if (what === "shop" && first && second) {
    const invitation = await people.openShop(first, second);
    if (invitation === null) return [`There is a shop called "${first}" already; expected another name.`, 1];
    return [`${second} comes in at /come/${invitation.code} (until ${invitation.expiresAt.slice(0, 10)}).`, 0];
  }
  if (what === "password" && first) {
    const reset = await people.resetByName(first);
    if (reset === null) return [`Nobody who may enter has the short name "${first}".`, 1];
    return [`A new password is set at /new-password/${reset.code} (until ${reset.expiresAt.slice(0, 16).replace("T", " ")} UTC, once).`, 0];
  }
  return [USAGE, 2];
}
