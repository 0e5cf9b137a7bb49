import { randomInt } from "node:crypto";

/** Letters and digits that are not mistaken for one another when read aloud. */
const LETTERS = "ABCDEFGHJKLMNPQRSTUVWXYZ23456789";

/** A code that is passed on by word of mouth, five bits a letter. */
export function spokenCode(length: number): string {
  return Array.from({ length }, () => LETTERS[randomInt(LETTERS.length)]).join("");
}
