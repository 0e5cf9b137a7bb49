import { BadInput } from "@fox-lamp/language";
import { dictionary } from "@zxcvbn-ts/language-common";

/** Passwords people have chosen most, as leaked lists have them. */
const COMMON: ReadonlySet<string> = new Set(dictionary["passwords-common"]);

/** Whether a password stands on the list of those tried first, as it is or with digits or signs put behind it; or is the person's own name. */
export function isCommon(password: string, ...names: readonly string[]): boolean {
  const plain = password.toLowerCase();
  const stem = plain.replace(/[\d!?.*#$_-]+$/u, "");
  const own = names.map((name) => name.toLowerCase().replaceAll(/\s/gu, "")).filter((name) => name.length >= 3);
  return (
    COMMON.has(plain) ||
    (stem.length >= 4 && COMMON.has(stem) && plain.length - stem.length <= 6) ||
    /^(.)\1+$/u.test(plain) ||
    own.includes(stem) ||
    own.includes(plain)
  );
}

/** Refuses a password that would be among the first tried. @throws BadInput that names the field */
export function assertUncommon(password: string, where: string, ...names: readonly string[]): void {
  if (isCommon(password, ...names))
    throw new BadInput({
      code: "password:common",
      where,
      message: "is among the passwords tried first; expected one nobody else has, such as three words that do not belong together",
    });
}
