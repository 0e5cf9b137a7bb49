import type { Code } from "@fox-lamp/language";
import { messages } from "../../../messages";

const CODE = /^[PCBU][0-9A-F]{4}(?:-?[0-9A-F]{2})?$|^[A-Z0-9]+-[A-Z-]+$/u;
const STATUS: Readonly<Record<string, string>> = {
  current: "current",
  confirmed: "current",
  stored: "current",
  active: "current",
  pending: "pending",
  history: "history",
  past: "history",
  permanent: "history",
};

/** Units values of a freeze frame are written in; with one of them a name and a number need no sign between them. */
const UNIT = "°C|°F|degC|degF|C|F|V|mV|kPa|hPa|psi|inHg|bar|mbar|rpm|/min|1/min|%|km/h|mph|g/s|kg/h|s|ms|min|h|km|miles|m|ft|Hz|kHz|ohm|Ω|kΩ|A|mA|deg|°";
const NUMBER = "[-+\u2212]?\\d+(?:[.,]\\d+)?";
const ONE_VALUE = new RegExp(`^(\\p{L}[^=:]*?)(?:\\s*[=:]\\s*|\\s+)(${NUMBER}(?:\\s*(?:${UNIT}))?)$`, "iu");
const SIGNED = /^(\p{L}[^=:]*?)\s*[=:]\s*(\S.*)$/u;
const WITH_UNIT = new RegExp(`(\\p{L}[^=:]*?)\\s*[=:]?\\s*(${NUMBER}\\s*(?:${UNIT}))(?=\\s|$)`, "giu");

type Frame = Record<string, string>;

/** Several values one after the other with nothing but room between them, each with its unit; null where something else stands there too. */
function unitedValues(text: string): Frame | null {
  const found = [...text.matchAll(WITH_UNIT)];
  if (found.length === 0 || text.replace(WITH_UNIT, "").trim() !== "") return null;
  return Object.fromEntries(found.map(([, name = "", value = ""]) => [name.trim(), value.trim()]));
}

/** What a piece of text says of a freeze frame: "coolant = -40 °C", "engine speed 820"; null where it says nothing of one. */
function frameIn(text: string): Frame | null {
  const piece = text.trim();
  if ((piece.match(/[=:]/gu) ?? []).length <= 1) {
    const one = ONE_VALUE.exec(piece) ?? SIGNED.exec(piece);
    if (one !== null && unitedValues(piece) === null) return { [(one[1] ?? "").trim()]: (one[2] ?? "").trim() };
  }
  return unitedValues(piece);
}

/** Where one piece ends and the next begins: lines, semicolons, tabs, and commas that are no decimal commas. */
const PIECES = /[\n;\t]+|,(?!\d)|(?<!\d),/u;

/**
 * Codes as typed or pasted: with spaces, commas, semicolons, tabs or line breaks between them, each with a status, a description and a
 * freeze frame where they are written. Nothing is dropped: what cannot be read is named.
 *
 * @returns the codes that were understood, and what was not; null where all was
 */
export function codesIn(text: string): { codes: Code[]; problem: string | null } {
  const codes: Code[] = [];
  const change = (part: Partial<Code>): void => {
    const last = codes.pop();
    if (last !== undefined) codes.push({ ...last, ...part } as Code);
  };
  for (const piece of text.split(PIECES)) {
    const words = piece.trim().split(/\s+/u).filter(Boolean);
    let taken = 0;
    let begins = false;
    for (const word of words) {
      const status = STATUS[word.toLowerCase().replace(/[()]/gu, "")];
      if (CODE.test(word.toUpperCase())) {
        codes.push({ code: word.toUpperCase() });
        begins = true;
      } else if (status !== undefined && codes.length > 0) change({ status });
      else break;
      taken += 1;
    }
    const rest = words
      .slice(taken)
      .join(" ")
      .replace(/^[-–:]\s*/u, "");
    if (rest === "") continue;
    const last = codes.at(-1);
    const frame = last === undefined ? null : frameIn(rest);
    if (frame !== null) change({ freezeFrame: { ...last?.freezeFrame, ...frame } });
    // Words behind a code describe it.
    else if (begins && last?.["text"] === undefined) change({ text: rest });
    else return { codes, problem: messages.codes.notACode(rest) };
  }
  return { codes, problem: null };
}

/** A channel's value as a figure of three digits. */
export function figure(value: number | null | undefined, unit: string): string {
  return value == null ? "–" : `${Math.abs(value) >= 1000 ? Math.round(value) : Number(value.toPrecision(3))} ${unit}`.trim();
}
