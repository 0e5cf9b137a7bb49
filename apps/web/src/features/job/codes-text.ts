import type { Code } from "@fox-lamp/language";
import { messages } from "../../messages";

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

/** Codes as typed or pasted: one a line or separated by commas, each with a status and a freeze frame where they are written. */
export function codesIn(text: string): { codes: Code[]; problem: string | null } {
  const codes: Code[] = [];
  for (const line of text.split(/[\n;]+/u)) {
    if (line.trim() === "") continue;
    const frame = Object.fromEntries(
      [...line.matchAll(/([\p{L}][\p{L}\d ._-]*?)\s*=\s*([^,=]+)(?=,|$)/gu)].map(([, name = "", value = ""]) => [afterStatus(name), value.trim()]),
    );
    const head = line.includes("=") ? line.slice(0, line.indexOf("=")) : line;
    const words = head.split(/[\s,]+/u).filter(Boolean);
    const found: Code[] = [];
    for (const word of words) {
      const code = word.toUpperCase();
      if (CODE.test(code)) found.push({ code });
      else if (found.length === 0) return { codes, problem: messages.codes.notACode(word) };
      else if (STATUS[word.toLowerCase()] !== undefined) {
        const last = found.at(-1) as Code;
        found[found.length - 1] = { ...last, status: STATUS[word.toLowerCase()] as string };
      }
    }
    codes.push(...found.map((code) => (Object.keys(frame).length > 0 ? { ...code, freezeFrame: frame } : code)));
  }
  return { codes, problem: null };
}

/** The name of a frame's value, without the code and status that stand before the first one in a line. */
function afterStatus(name: string): string {
  const words = name.trim().split(/\s+/u);
  const start = words.findIndex((word) => !CODE.test(word.toUpperCase()) && STATUS[word.toLowerCase()] === undefined);
  return words.slice(Math.max(0, start)).join(" ");
}

/** A channel's value as a figure of three digits. */
export function figure(value: number | null | undefined, unit: string): string {
  return value == null ? "–" : `${Math.abs(value) >= 1000 ? Math.round(value) : Number(value.toPrecision(3))} ${unit}`.trim();
}
