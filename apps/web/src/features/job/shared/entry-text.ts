import { type EntryOf, type JobDetail, pointWord, unitOfReading, unitTitle } from "@fox-lamp/language";
import { factWords } from "../../../circuit/facts";
import type { NamedCircuit } from "../../../circuit/names-of";
import { plugWord, readingTitle, titleOf, valueText } from "../../../circuit/wording";
import { messages } from "../../../messages";
import { whenText } from "../../../ui/dates";
import { unitsAsWritten } from "../../../ui/display";

/** A value of a freeze frame or of an open record, as text. */
export function printed(value: unknown): string {
  return typeof value === "string" || typeof value === "number" ? unitsAsWritten(String(value)) : JSON.stringify(value);
}

/** What a task is about, in words: the connectors to be plugged in, the reading that left a hole, or a unit. */
export function aboutText(kind: string, about: string, circuits: readonly { readonly id: string; readonly title: string }[] = []): string {
  switch (kind) {
    case "plug-in":
      return about
        .split(", ")
        .map((open) => plugWord(open, circuits))
        .join(", ");
    case "seal": {
      const [reading = "", point = ""] = about.split(" ");
      return `${reading}, ${pointWord(point)}`;
    }
    default:
      return unitTitle(about, "Sensor").toLowerCase();
  }
}

/** A task of the record in words: its kind and what it is about. */
export function taskText(task: string, circuits: readonly { readonly id: string; readonly title: string }[] = []): string {
  const [, kind = task, about] = /^(\S+) (.+)$/u.exec(task) ?? [];
  const words = (messages.tasks as Readonly<Record<string, string>>)[kind];
  if (words === undefined) return task;
  return about === undefined ? words : `${words} (${aboutText(kind, about, circuits)})`;
}

/** What was said to be known, in words. */
function conditionsText({ temperature, pressure, intermittent, hints = [], facts = {} }: EntryOf<"conditions">["body"]): string {
  return [
    ...(temperature === undefined ? [] : [valueText(temperature, "degC")]),
    ...(pressure === undefined ? [] : [valueText(pressure, "kPa")]),
    ...(intermittent === undefined ? [] : [intermittent ? messages.bench.comesAndGoes : messages.bench.staysThere]),
    ...factWords(facts, hints),
  ].join(", ");
}

/** A decision of the record in words, with the unit it is about. */
function decisionText({ decision, unit }: EntryOf<"decision">["body"], circuits: readonly NamedCircuit[]): string {
  const words = (messages.decisions as Readonly<Record<string, string>>)[decision] ?? decision;
  return unit ? `${words}: ${titleOf(unit, circuits)}` : words;
}

/** What an entry says, in a few words. @param circuits the job's, by which units are called */
export function entryText(entry: JobDetail["entries"][number], circuits: readonly NamedCircuit[] = []): string {
  switch (entry.kind) {
    case "complaint":
    case "repair":
    case "note":
      return entry.body.text;
    case "verification":
      return unitsAsWritten(entry.body.text);
    case "confirmation":
      return entry.body.seen ? messages.complaint.seenText : messages.complaint.notSeenText;
    case "battery":
      return `${entry.body.restVolts} V${entry.body.crankingVolts === undefined ? "" : `, cranking ${entry.body.crankingVolts} V`}`;
    case "code":
      return `${entry.body.code}${entry.body.status ? ` ${entry.body.status}` : ""}`;
    case "cleared":
      return entry.body.codes.join(", ");
    case "rescan":
      return entry.body.codes.map(({ code }) => code).join(", ") || messages.codes.none;
    case "recording":
      return [entry.body.title, ...entry.body.findings].join(". ");
    case "capture":
      return [entry.body.known ? messages.traces.knownGood(entry.body.title) : entry.body.title, ...entry.body.findings].join(". ");
    case "mark":
      return [entry.body.channel, entry.body.word, entry.body.text].filter(Boolean).join(": ");
    case "circuit":
      return "remove" in entry.body ? `${messages.sheet.remove}: ${entry.body.remove}` : (entry.body.circuit.title ?? entry.body.circuit.id);
    case "conditions":
      return conditionsText(entry.body);
    case "reading": {
      const { reading } = entry.body;
      return `${readingTitle(reading, circuits)}: ${valueText(reading.value, unitOfReading(reading))}`;
    }
    case "skip":
      return entry.body.reason;
    case "decision":
      return decisionText(entry.body, circuits);
    case "located":
      return `${messages.repair.way[entry.body.way]}: ${entry.body.place}${entry.body.text ? `, ${entry.body.text}` : ""}`;
    case "task":
      return unitsAsWritten(`${taskText(entry.body.task, circuits)}${entry.body.text ? `: ${entry.body.text}` : ""}`);
    case "failed":
      return entry.body.failed ? messages.check.toRepeat : messages.check.notToRepeat;
    case "stage":
      return messages.stages[entry.body.stage];
    case "closing":
      return [messages.check.outcome[entry.body.outcome], entry.body.text, entry.body.plan].filter(Boolean).join(". ");
    case "waiting":
      return `${messages.complaint.waits[entry.body.for ?? "none"]}${entry.body.text ? `: ${entry.body.text}` : ""}`;
    case "promised":
      return [entry.body.at === null ? messages.complaint.notPromised : whenText(entry.body.at), entry.body.text].filter(Boolean).join(": ");
    case "assigned":
      return entry.body.name;
    case "photo":
      return entry.body.caption;
    case "retraction":
      return "";
  }
}
