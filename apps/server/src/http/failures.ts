import { BadInput, type Problem, problemOf } from "@fox-lamp/language";
import { HTTPException } from "hono/http-exception";
import { z } from "zod";

/** What a failure is to whoever asked. */
export interface Failure {
  readonly status: 400 | 404 | 413 | 415 | 500 | 503;
  readonly problem: Problem;
  /** Seconds after which asking again makes sense; null where it does not. */
  readonly retryAfter: number | null;
}

const RETRY_SECONDS = 2;
const DOWN: Failure = {
  status: 503,
  problem: { code: "database:down", where: "", message: "the database does not answer just now; nothing was stored, try again in a moment" },
  retryAfter: RETRY_SECONDS,
};
const BUSY: Failure = {
  status: 503,
  problem: { code: "database:busy", where: "", message: "the database is busy with something else; nothing was stored, try again in a moment" },
  retryAfter: RETRY_SECONDS,
};

const bad = (code: string, message: string, where = "body", status: Failure["status"] = 400): Failure => ({
  status,
  problem: { code, where, message },
  retryAfter: null,
});

/** Refusals that hold for a moment only. */
const BUSY_CODES: ReadonlySet<string> = new Set(["job:busy", "work:busy"]);
/** Failures of a connection as the operating system names them. */
const CONNECTION = new Set(["ECONNREFUSED", "ECONNRESET", "EPIPE", "ETIMEDOUT", "ENOTFOUND", "EAI_AGAIN"]);

/** What the database's own codes (PostgreSQL, appendix A) mean to whoever asked; null where it is the server's own fault. */
function ofDatabase(code: string): Failure | null {
  if (CONNECTION.has(code) || code.startsWith("08") || code.startsWith("57P") || code.startsWith("58") || code === "53300" || code === "25P03") return DOWN;
  if (code === "57014" || code === "55P03" || code === "40001" || code === "40P01") return BUSY;
  if (code === "22021" || code === "22P05") return bad("text:character", "holds a character no text can have, such as NUL or half of a pair");
  if (code === "22003") return bad("number:range", "holds a number larger than can be stored");
  if (code === "22007" || code === "22008") return bad("date:range", "holds a date that does not exist or cannot be stored");
  if (code.startsWith("22")) return bad("value:form", "holds a value of a form that cannot be stored");
  if (code === "54000" || code === "54001") return bad("body:too-deep", "is too large or too deep to be stored");
  return null;
}

/** The innermost cause that carries a code: drivers wrap it in the query that met it. */
function codeOf(error: unknown): string | null {
  for (let inner = error; inner instanceof Error; inner = inner.cause) {
    const { code } = inner as { code?: unknown };
    if (typeof code === "string") return code;
    if (/Connection terminated|timeout exceeded when trying to connect|Client has encountered a connection error/u.test(inner.message)) return "08006";
  }
  return null;
}

/** Turns whatever was thrown into an answer; one of the server's own making is 500. */
export function failureOf(error: unknown): Failure {
  if (error instanceof BadInput && BUSY_CODES.has(error.problem.code)) return { status: 503, problem: error.problem, retryAfter: RETRY_SECONDS };
  if (error instanceof BadInput) return { status: error.problem.code === "body:too-large" ? 413 : 400, problem: error.problem, retryAfter: null };
  if (error instanceof z.ZodError) return { status: 400, problem: problemOf(error, undefined), retryAfter: null };
  if (error instanceof URIError) return bad("url:encoding", "is not encoded as an address is", "url");
  if (error instanceof SyntaxError || (error instanceof Error && error.message.startsWith("Malformed JSON")))
    return bad("body:not-json", "the body is not JSON");
  if (error instanceof HTTPException) {
    if (error.status === 413) return bad("body:too-large", "is larger than may be sent here", "body", 413);
    if (error.status >= 400 && error.status < 500) return bad("body:form", error.message || "is not what is expected here");
  }
  if (error instanceof RangeError && /call stack/iu.test(error.message)) return bad("body:too-deep", "is nested too deep");
  const code = codeOf(error);
  return (code === null ? null : ofDatabase(code)) ?? bad("server:failed", "the server could not do this; it is in its log", "", 500);
}
