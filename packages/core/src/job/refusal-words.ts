import type { Problem } from "@fox-lamp/language";
import type { Refusal } from "./decide";

const NEEDS = {
  circuits: "a circuit on the sheet",
  decision: "a verdict, or a part fitted before proof, on record",
  closing: "a word on how the job ends",
} as const;

/** What closing still asks for, as people say it. */
const LACKING: Readonly<Record<string, string>> = {
  complaint: "the complaint",
  codes: "the codes",
  circuits: "a circuit",
  verdict: "a verdict",
  located: "where the damage was found",
  repaired: "a repair",
  tasks: "the tasks the repair leaves",
  repeated: "the failed tests repeated",
  cleared: "the codes cleared",
  driven: "a drive",
  rescanned: "the codes read again",
  gone: "a word on the complaint",
  text: "a few words",
  plan: "a plan for next time",
  despite: "why it is closed although something is still outside",
  left: "at least two suspects that are left open",
};

function sentence(refusal: Refusal): string {
  switch (refusal.code) {
    case "circuit:unknown":
      return `no circuit of this job is called "${refusal.circuit}"`;
    case "circuit:read":
      return `${refusal.title} has readings (${refusal.readings.join(", ")}): take them back first, or leave it on the sheet`;
    case "circuit:joined":
      return `the wire of ${refusal.title} is shared by ${refusal.by.join(", ")}: take these off the sheet first`;
    case "circuit:readings-lost":
      return `reading ${refusal.reading} would lose its place: ${refusal.problem.message}`;
    case "reading:misplaced":
      return refusal.problem.message;
    case "entry:unknown":
      return "it names an entry this job does not have";
    case "entry:others":
      return `it was entered by ${refusal.by}; a trainee takes back only what is the own`;
    case "role:trainee":
      return refusal.kind === "closing"
        ? "a trainee closes no job on a real car; whoever assigned it does"
        : "a trainee records no verdict on a real car; whoever assigned the job does";
    case "stage:too-early":
      return `the stage "${refusal.stage}" needs ${NEEDS[refusal.needs]} first`;
    case "closing:lacking":
      return `it cannot be closed as ${refusal.outcome} yet; it lacks ${refusal.lacking.map((name) => LACKING[name] ?? name).join(", ")}`;
  }
}

/** A refusal as one clear sentence, with its code and place. */
export function problemOfRefusal(refusal: Refusal): Problem {
  const where = "problem" in refusal && refusal.code === "reading:misplaced" ? refusal.problem.where : refusal.where;
  return { code: refusal.code, where, message: sentence(refusal) };
}
