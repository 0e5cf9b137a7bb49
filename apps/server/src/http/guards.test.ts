import { Hono } from "hono";
import { failureOf } from "./failures";
import { headers, limitBodies, onlyPlainJson, privateAnswers } from "./guards";

function app(): Hono {
  const made = new Hono();
  made.onError((error, context) => {
    const { status, problem } = failureOf(error);
    return context.json(problem, status);
  });
  made.use(
    headers,
    privateAnswers(true),
    limitBodies((_, path) => path.startsWith("/api/front")),
    onlyPlainJson,
  );
  made.all("*", async (context) => context.json({ got: (await context.req.text()).length }));
  return made;
}
const send = (path: string, body: string, type = "application/json") =>
  app().request(path, { method: "POST", body, headers: { "content-type": type, "content-length": String(body.length) } });

describe("a body", () => {
  it("may be as large as its route takes, and no larger", async () => {
    expect((await send("/api/jobs", `"${"x".repeat(900_000)}"`)).status).toBe(200);
    const over = await send("/api/jobs", `"${"x".repeat(1_000_001)}"`);
    expect([over.status, (await over.json()).code]).toEqual([413, "body:too-large"]);
    expect((await send("/api/front/first", `"${"x".repeat(20_000)}"`)).status).toBe(413);
    expect((await send("/api/jobs/import", `"${"x".repeat(5_000_000)}"`)).status).toBe(200);
  });
  it("says that it is JSON", async () => {
    expect((await send("/api/jobs", "{}", "text/plain")).status).toBe(415);
    expect((await send("/api/jobs", "{}", "application/json; charset=utf-8")).status).toBe(200);
    expect((await send("/api/jobs/7/photos/8", "xx", "image/jpeg")).status).toBe(200);
  });
  it("is not nested beyond reason, and holds no NUL", async () => {
    expect((await send("/api/jobs", `${"[".repeat(6000)}${"]".repeat(6000)}`)).status).toBe(400);
    expect((await send("/api/jobs", '{"a":"\\u0000"}')).status).toBe(400);
    expect((await send("/api/jobs", `{"a":"${"[".repeat(300)}"}`)).status).toBe(200);
  });
});

it("browsers are told what they may do with an answer", async () => {
  const answer = await app().request("/api/jobs", { headers: { "x-forwarded-proto": "https" } });
  expect(answer.headers.get("content-security-policy")).toMatch(/script-src 'self' 'wasm-unsafe-eval';/u);
  expect(answer.headers.get("content-security-policy")).toMatch(/frame-ancestors 'none'/u);
  expect(answer.headers.get("x-content-type-options")).toBe("nosniff");
  expect(answer.headers.get("cache-control")).toBe("no-store");
  expect(answer.headers.get("strict-transport-security")).toMatch(/max-age=\d{7,}/u);
  expect((await app().request("/api/jobs")).headers.get("strict-transport-security")).toBeNull();
});
