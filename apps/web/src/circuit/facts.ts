import type { Facts } from "@fox-lamp/language";
import { messages } from "../messages";

const t = messages.facts;
const METRES_A_FOOT = 0.3048;

/** An altitude as typed: metres, kilometres or feet; null for an empty field, undefined for what is none. */
export function altitudeIn(text: string): number | null | undefined {
  const plain = text.trim().toLowerCase().replace(",", ".");
  if (plain === "") return null;
  const match = /^(-?\d+(?:\.\d+)?)\s*(m|km|ft)?$/u.exec(plain);
  if (match === null) return undefined;
  const value = Number(match[1]) * (match[2] === "km" ? 1000 : match[2] === "ft" ? METRES_A_FOOT : 1);
  return value < -400 || value > 5000 ? undefined : Math.round(value);
}

/** Whether something typed where a pressure or temperature belongs is rather an altitude: "300 m" is not 0.3 of anything. */
export function looksLikeAltitude(text: string): boolean {
  return /^\s*\d+(?:[.,]\d+)?\s*(?:m|km|ft|metres?|meters?|feet)\s*$/iu.test(text);
}

/** What is known of the car, in words, one thing each. */
export function factWords(facts: Facts, hints: readonly string[]): string[] {
  const hint = messages.intake.hint as Readonly<Record<string, string>>;
  return [
    ...(facts.engine === undefined ? [] : [t.engine[facts.engine]]),
    ...(facts.codes === undefined ? [] : [t.codes[facts.codes]]),
    ...(facts.lamp === undefined ? [] : [t.lamp[facts.lamp]]),
    ...(facts.altitudeMetres === undefined ? [] : [t.at(facts.altitudeMetres)]),
    ...(facts.leftOpen === undefined ? [] : [t.leftOpen(facts.leftOpen.job)]),
    ...(facts.symptoms ?? []).map((symptom) => t.symptoms[symptom]),
    ...hints.map((name) => hint[name] ?? name),
  ];
}
