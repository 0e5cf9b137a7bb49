import { type CaptureDifference, formatQuantity } from "@fox-lamp/core";
import { messages } from "../../messages";

const t = messages.traces;

/** A difference in words. */
export function differenceText({ channel, what, was, now, unit }: CaptureDifference, nameOf: (channel: string) => string): string {
  if (what === "cam") return t.camBy(nameOf(channel), `${now.toFixed(1)}°`);
  const shown = (value: number): string => (unit === "" ? `${value}` : unit === "%" ? `${value.toFixed(0)} %` : formatQuantity(value, unit));
  return t.comparedRow(nameOf(channel), t.numbers[what], shown(was), shown(now));
}
