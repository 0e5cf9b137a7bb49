import { BadInput } from "@fox-lamp/language";
import { HTTPException } from "hono/http-exception";
import { z } from "zod";
import { failureOf } from "./failures";

const withCode = (code: string): Error => Object.assign(new Error("query failed"), { cause: Object.assign(new Error("inner"), { code }) });

describe("what a failure is to whoever asked", () => {
  it.each([
    ["a lost connection", withCode("57P01"), 503, "database:down"],
    ["a server that refuses", withCode("ECONNREFUSED"), 503, "database:down"],
    ["too many clients", withCode("53300"), 503, "database:down"],
    ["a disk whose files are gone", withCode("58P01"), 503, "database:down"],
    ["a pool without a free connection", new Error("timeout exceeded when trying to connect"), 503, "database:down"],
    ["a row that stays locked", withCode("55P03"), 503, "database:busy"],
    ["a statement that takes too long", withCode("57014"), 503, "database:busy"],
    ["a NUL", withCode("22021"), 400, "text:character"],
    ["half of a pair", withCode("22P05"), 400, "text:character"],
    ["1e300 in an integer", withCode("22003"), 400, "number:range"],
    ["the year 0", withCode("22008"), 400, "date:range"],
    ["a body that is no JSON", new SyntaxError("Unexpected token"), 400, "body:not-json"],
    ["a body that is no JSON, as routes say it", new HTTPException(400, { message: "Malformed JSON in request body" }), 400, "body:not-json"],
    ["a bad address", new URIError("malformed"), 400, "url:encoding"],
    ["a body too large", new HTTPException(413), 413, "body:too-large"],
    ["bad input", new BadInput({ code: "x:y", where: "z", message: "no" }), 400, "x:y"],
    ["the server's own mistake", new TypeError("undefined is not a function"), 500, "server:failed"],
  ])("%s", (_, error, status, code) => {
    const failure = failureOf(error);
    expect([failure.status, failure.problem.code]).toEqual([status, code]);
    expect(failure.retryAfter === null).toBe(status !== 503);
    expect(failure.problem.message).not.toMatch(/\n|select|insert/iu);
  });
  it("names the field a schema refuses", () => {
    const { error } = z.object({ a: z.number() }).safeParse({ a: "x" });
    expect(failureOf(error)).toMatchObject({ status: 400, problem: { where: "a" } });
  });
});
