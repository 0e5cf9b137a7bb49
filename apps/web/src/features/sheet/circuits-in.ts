import { BadInput, type Circuit, circuitSchema, circuitsSchema, parseOrThrow } from "@fox-lamp/language";
import { messages } from "../../messages";

/** Circuits of a file: a job, a circuit, a list of them. @throws BadInput */
export function circuitsIn(text: string, name: string): Circuit[] {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch {
    throw new BadInput({ code: "file:not-json", where: "", message: messages.sheet.notJson(name) });
  }
  if (typeof value === "object" && value !== null && "circuits" in value) return parseOrThrow(circuitsSchema, value.circuits, "circuits");
  return Array.isArray(value) ? parseOrThrow(circuitsSchema, value) : [parseOrThrow(circuitSchema, value)];
}
