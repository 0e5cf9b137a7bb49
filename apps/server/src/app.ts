import { appendSchema, BadInput, entrySchema, jobDetailSchema, jobSummarySchema, problemOf, problemSchema, shopSchema } from "@fox-lamp/language";
import { serveStatic } from "@hono/node-server/serve-static";
import { createRoute, OpenAPIHono, z } from "@hono/zod-openapi";
import type { Context } from "hono";
import type { Logger } from "pino";
import type { Repository } from "./repository";

const json = <S extends z.ZodType>(schema: S, description: string) => ({ content: { "application/json": { schema } }, description });
const jobId = z.object({ id: z.uuid().openapi({ param: { name: "id", in: "path" } }) });
const notFound = { code: "job:not-found", where: "id", message: "there is no such job in this shop" };
const noShop = { code: "shop:none", where: "", message: "this installation has no shop yet" };

const health = createRoute({ method: "get", path: "/api/health", responses: { 200: json(z.object({ ok: z.literal(true) }), "The process is alive") } });
const ready = createRoute({
  method: "get",
  path: "/api/ready",
  responses: { 200: json(z.object({ ok: z.literal(true) }), "The database answers"), 503: json(problemSchema, "The database does not answer") },
});
const shop = createRoute({
  method: "get",
  path: "/api/shop",
  responses: { 200: json(shopSchema, "The shop and its people"), 404: json(problemSchema, "No shop yet") },
});
const listJobs = createRoute({
  method: "get",
  path: "/api/jobs",
  responses: { 200: json(z.array(jobSummarySchema), "The shop's jobs"), 404: json(problemSchema, "No shop yet") },
});
const getJob = createRoute({
  method: "get",
  path: "/api/jobs/{id}",
  request: { params: jobId },
  responses: { 200: json(jobDetailSchema, "A job and all its entries"), 404: json(problemSchema, "No such job") },
});
const append = createRoute({
  method: "post",
  path: "/api/jobs/{id}/entries",
  request: { params: jobId, body: { content: { "application/json": { schema: appendSchema } }, required: true } },
  responses: {
    200: json(z.array(entrySchema), "The entries as stored; sent twice is stored once"),
    400: json(problemSchema, "An entry that cannot be"),
    404: json(problemSchema, "No such job"),
  },
});

/**
 * The HTTP interface and the web client behind one address.
 * @param webRoot folder of the built web client, relative to the working directory; null serves the interface alone
 */
export function createApp(repository: Repository, logger: Logger, webRoot: string | null): OpenAPIHono {
  const app = new OpenAPIHono({
    defaultHook: (result, context) => {
      if (!result.success) return context.json(problemOf(result.error as z.ZodError, undefined), 400);
    },
  });
  app.use(async (context, next) => {
    const start = performance.now();
    await next();
    const { path, method } = context.req;
    if (path.startsWith("/api/")) logger.info({ method, path, status: context.res.status, ms: Number((performance.now() - start).toFixed(1)) }, "request");
  });
  app.onError((error, context: Context) => {
    if (error instanceof BadInput) return context.json(error.problem, 400);
    if (error instanceof SyntaxError || error.message.startsWith("Malformed JSON")) {
      return context.json({ code: "body:not-json", where: "body", message: "the body is not JSON" }, 400);
    }
    logger.error({ err: error, path: context.req.path }, "request failed");
    return context.json({ code: "server:failed", where: "", message: "the server could not do this; it is in its log" }, 500);
  });

  app.openapi(health, (context) => context.json({ ok: true as const }, 200));
  app.openapi(ready, async (context) => {
    try {
      await repository.ping();
      return context.json({ ok: true as const }, 200);
    } catch {
      return context.json({ code: "database:down", where: "", message: "the database does not answer" }, 503);
    }
  });
  app.openapi(shop, async (context) => {
    const found = await repository.firstShop();
    return found ? context.json(found, 200) : context.json(noShop, 404);
  });
  app.openapi(listJobs, async (context) => {
    const shopId = await repository.firstShopId();
    return shopId ? context.json(await repository.listJobs(shopId), 200) : context.json(noShop, 404);
  });
  app.openapi(getJob, async (context) => {
    const shopId = await repository.firstShopId();
    const job = shopId && (await repository.findJob(shopId, context.req.valid("param").id));
    return job ? context.json(job, 200) : context.json(notFound, 404);
  });
  app.openapi(append, async (context) => {
    const shopId = await repository.firstShopId();
    const stored = shopId && (await repository.append(shopId, context.req.valid("param").id, context.req.valid("json").entries));
    return stored ? context.json(stored, 200) : context.json(notFound, 404);
  });
  app.doc31("/api/openapi.json", { openapi: "3.1.0", info: { title: "Fox Lamp", version: "1" } });
  app.all("/api/*", (context) => context.json({ code: "route:unknown", where: context.req.path, message: "there is no such route" }, 404));

  if (webRoot !== null) {
    app.use("/assets/*", async (context, next) => {
      await next();
      if (context.res.ok) context.header("cache-control", "public, max-age=31536000, immutable");
    });
    app.use(serveStatic({ root: webRoot }));
    app.get("*", serveStatic({ root: webRoot, path: "index.html" }));
  }
  return app;
}
