import { randomUUID } from "node:crypto";
import { problemSchema } from "@fox-lamp/language";
import { serveStatic } from "@hono/node-server/serve-static";
import { createRoute, z } from "@hono/zod-openapi";
import type { Context } from "hono";
import type { Logger } from "pino";
import { type App, type House, json, newApp, signIn } from "./common";
import { failureOf } from "./failures";
import { headers, limitBodies, onlyPlainJson, privateAnswers } from "./guards";
import { calloutRoutes } from "./routes/callouts";
import { captureRoutes } from "./routes/captures";
import { fileRoutes } from "./routes/files";
import { jobRoutes } from "./routes/jobs";
import { peopleRoutes } from "./routes/people";
import { removalRoutes } from "./routes/removals";
import { shareRoutes } from "./routes/shares";
import { shelfRoutes } from "./routes/shelf";
import { shopRoutes } from "./routes/shops";
import { vehicleRoutes } from "./routes/vehicles";

const health = createRoute({ method: "get", path: "/api/health", responses: { 200: json(z.object({ ok: z.literal(true) }), "The process is alive") } });
const ready = createRoute({
  method: "get",
  path: "/api/ready",
  responses: { 200: json(z.object({ ok: z.literal(true) }), "The database answers"), 503: json(problemSchema, "The database does not answer") },
});

/** A path without what it names: codes and tokens are keys. */
function pathForLog(path: string): string {
  return path.replace(/^(\/api\/(?:callouts|invitations|new-password|shares)\/)[^/]+/u, "$1...");
}

/** An error for the log: where it happened and why, without the query's parameters, which are customers' words. */
function plainly(error: Error): { readonly type: string; readonly message: string; readonly stack: string | undefined } {
  const innermost = (one: Error): Error => (one.cause instanceof Error ? innermost(one.cause) : one);
  const { name, message, stack } = innermost(error);
  return { type: name, message: message.split("\n")[0] ?? "", stack: stack?.split("\n").slice(1, 8).join("\n") };
}

/** What needs nobody signed in: life signs, the front door, taking an invitation, and reading a call-out whose code one was given. */
function isOpen(method: string, path: string): boolean {
  if (["/api/health", "/api/ready", "/api/openapi.json", "/api/front", "/api/front/first"].includes(path)) return true;
  if (path.startsWith("/api/auth/") || path.startsWith("/api/invitations/") || path.startsWith("/api/new-password/")) return true;
  return method === "GET" && (path.startsWith("/api/callouts/") || path.startsWith("/api/shares/"));
}

/**
 * The HTTP interface and the web client behind one address.
 * @param webRoot folder of the built web client, relative to the working directory; null serves the interface alone
 */
export function createApp(house: House, logger: Logger, webRoot: string | null): App {
  const app = newApp();
  app.use(async (context, next) => {
    const start = performance.now();
    await next();
    const { path, method } = context.req;
    if (path.startsWith("/api/"))
      logger.info({ method, path: pathForLog(path), status: context.res.status, ms: Number((performance.now() - start).toFixed(1)) }, "request");
  });
  app.use(headers, privateAnswers(house.trustedProxies > 0), limitBodies(isOpen));
  app.use("/api/*", onlyPlainJson);
  app.onError((error, context: Context) => {
    const { status, problem, retryAfter } = failureOf(error);
    if (retryAfter !== null) context.header("retry-after", String(retryAfter));
    if (status !== 500) return context.json(problem, status);
    const id = randomUUID().slice(0, 8);
    logger.error({ err: plainly(error), path: pathForLog(context.req.path), id }, "request failed");
    return context.json({ ...problem, message: `${problem.message} as ${id}` }, 500);
  });
  app.on(["GET", "POST"], "/api/auth/*", (context) => house.auth.handle(context));
  app.use("/api/*", async (context, next) => {
    if (isOpen(context.req.method, context.req.path)) return next();
    const who = await house.auth.who(context.req.raw.headers);
    if (who === null) return context.json(signIn, 401);
    context.set("who", who);
    return next();
  });

  app.openapi(health, (context) => context.json({ ok: true as const }, 200));
  app.openapi(ready, async (context) => {
    try {
      await house.jobs.ping();
      return context.json({ ok: true as const }, 200);
    } catch {
      return context.json({ code: "database:down", where: "", message: "the database does not answer" }, 503);
    }
  });
  peopleRoutes(app, house);
  fileRoutes(app, house);
  captureRoutes(app, house);
  jobRoutes(app, house);
  vehicleRoutes(app, house);
  calloutRoutes(app, house);
  removalRoutes(app, house);
  shareRoutes(app, house);
  shelfRoutes(app, house);
  shopRoutes(app, house);
  app.doc31("/api/openapi.json", { openapi: "3.1.0", info: { title: "Fox Lamp", version: "1" } });
  app.all("/api/*", (context) => context.json({ code: "route:unknown", where: context.req.path, message: "there is no such route" }, 404));

  if (webRoot !== null) {
    app.use("/assets/*", async (context, next) => {
      await next();
      if (context.res.ok) context.header("cache-control", "public, max-age=31536000, immutable");
    });
    app.use("/sw.js", async (context, next) => {
      await next();
      context.header("cache-control", "no-cache");
    });
    app.use(serveStatic({ root: webRoot, precompressed: true }));
    app.get("*", serveStatic({ root: webRoot, path: "index.html" }));
  }
  return app;
}
