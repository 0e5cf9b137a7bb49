import type { z } from "zod";

/** A failure as data: a stable code, where it is, and one sentence for people. */
export interface Problem {
  readonly code: string;
  readonly where: string;
  readonly message: string;
}

/** Thrown at the edges (files, commands, routes) for input that cannot be used. */
export class BadInput extends Error {
  readonly problem: Problem;
  constructor(problem: Problem) {
    super(problem.where === "" ? problem.message : `${problem.where}: ${problem.message}`);
    this.name = "BadInput";
    this.problem = problem;
  }
}

/** Prints a path as people write it: `readings[2].setup.key`. */
export function printPath(path: readonly PropertyKey[]): string {
  let text = "";
  for (const part of path) {
    if (typeof part === "number") text += `[${part}]`;
    else text += text === "" ? String(part) : `.${String(part)}`;
  }
  return text;
}

function valueAt(input: unknown, path: readonly PropertyKey[]): unknown {
  let value: unknown = input;
  for (const part of path) {
    if (typeof value !== "object" || value === null) return undefined;
    value = (value as Record<PropertyKey, unknown>)[part];
  }
  return value;
}

function shorten(value: unknown): string {
  if (value === undefined) return "nothing";
  const text = JSON.stringify(value) ?? String(value);
  return text.length > 60 ? `${text.slice(0, 57)}...` : text;
}

/** @param input what was checked; undefined when it is not at hand, and the sentence then says only what was expected */
function sentence(issue: z.core.$ZodIssue, input: unknown): string {
  const found = shorten(valueAt(input, issue.path));
  const got = input === undefined ? "" : `, got ${found}`;
  switch (issue.code) {
    case "invalid_type":
      return `expected ${issue.expected}${got}`;
    case "invalid_value":
      return `expected one of ${issue.values.map(String).join(", ")}${got}`;
    case "unrecognized_keys":
      return `unknown field ${issue.keys.map((key) => `"${key}"`).join(", ")}`;
    case "too_small":
      return issue.message.startsWith("Too small") ? `expected at least ${String(issue.minimum)}${got}` : issue.message;
    case "too_big":
      return `expected at most ${String(issue.maximum)}${got}`;
    case "invalid_union":
      return `${found} fits none of the allowed forms`;
    default:
      return issue.message;
  }
}

/** The first issue of a failed parse as one {@link Problem}: what, where, what was expected. */
export function problemOf(error: z.ZodError, input: unknown, under = ""): Problem {
  const issue = error.issues[0];
  if (!issue) return { code: "invalid", where: under, message: "the input is not valid" };
  const path = printPath(issue.path);
  const where = under === "" ? path : path.startsWith("[") || path === "" ? `${under}${path}` : `${under}.${path}`;
  return { code: `invalid:${issue.code}`, where, message: sentence(issue, input) };
}

/**
 * Checks input against a schema.
 * @throws BadInput with the first problem found
 */
export function parseOrThrow<S extends z.ZodType>(schema: S, input: unknown, under = ""): z.output<S> {
  const result = schema.safeParse(input);
  if (result.success) return result.data;
  throw new BadInput(problemOf(result.error, input, under));
}
