import type { DateLanguage } from "@fox-lamp/language";
import { format } from "date-fns";

/** A moment as the interface shows it: day, month, time. */
export function whenText(at: string): string {
  return format(new Date(at), "d MMM HH:mm");
}

/** A day in the language a shop's papers use: "3 March 2026". */
export function dayIn(language: DateLanguage, at: string): string {
  return new Intl.DateTimeFormat(language, { dateStyle: "long" }).format(new Date(at));
}

/** A moment in the language a shop's papers use. */
export function momentIn(language: DateLanguage, at: string): string {
  return new Intl.DateTimeFormat(language, { dateStyle: "medium", timeStyle: "short" }).format(new Date(at));
}

/** A language by its own name. */
export function languageName(language: DateLanguage): string {
  return new Intl.DisplayNames(language, { type: "language" }).of(language) ?? language;
}
