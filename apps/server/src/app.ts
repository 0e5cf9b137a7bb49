import {
  appendSchema,
  BadInput,
  calloutSchema,
  entrySchema,
  instrumentAnswerSchema,
  instrumentSchema,
  jobDetailSchema,
  jobSummarySchema,
  problemOf,
  problemSchema,
  shopSchema,
  shopSettingsSchema,
} from "@fox-lamp/language";
import { serveStatic } from "@hono/node-server/serve-static";
import { createRoute, OpenAPIHono, z } from "@hono/zod-openapi";
import type { Context } from "hono";
import { streamSSE } from "hono/streaming";
import type { Logger } from "pino";
import type { Change, Changes } from "./changes";
import type { Repository } from "./repository";
import { readVirtualCar } from "./virtual-car";

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
const changeSettings = createRoute({
  method: "put",
  path: "/api/shop/settings",
  request: { body: { content: { "application/json": { schema: shopSettingsSchema } }, required: true } },
  responses: {
    200: json(shopSettingsSchema, "The settings as stored"),
    400: json(problemSchema, "A value that cannot be"),
    404: json(problemSchema, "No shop yet"),
  },
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

const measure = createRoute({
  method: "post",
  path: "/api/jobs/{id}/instruments",
  request: { params: jobId, body: { content: { "application/json": { schema: instrumentSchema } }, required: true } },
  responses: {
    200: json(instrumentAnswerSchema, "What the instruments show on the virtual car, all in the same moment"),
    400: json(problemSchema, "A measurement that cannot be"),
    404: json(problemSchema, "No such job"),
    409: json(problemSchema, "A real car stands behind the job"),
  },
});
const calloutCode = z.object({
  code: z
    .string()
    .regex(/^[A-Z0-9]{4,8}$/u)
    .openapi({ param: { name: "code", in: "path" } }),
});
const putCallout = createRoute({
  method: "put",
  path: "/api/callouts/{code}",
  request: { params: calloutCode, body: { content: { "application/json": { schema: calloutSchema } }, required: true } },
  responses: { 200: json(z.object({ ok: z.literal(true) }), "Shown on every device that watches the code"), 404: json(problemSchema, "No such job") },
});
const getCallout = createRoute({
  method: "get",
  path: "/api/callouts/{code}",
  request: { params: calloutCode },
  responses: { 200: json(calloutSchema, "What the bench shows"), 404: json(problemSchema, "Nothing stands under this code") },
});
const noCallout = { code: "callout:none", where: "code", message: "nothing is shown under this code; look at the code on the bench" };
const realCar = { code: "instrument:real-car", where: "id", message: "a real car stands behind this job; type what the instrument shows" };
/** A line nobody reads, so that proxies keep an event stream open. */
const HEARTBEAT_MS = 20_000;

/** Sends an event whenever something that concerns the client changed, until it goes away. */
function streamChanges(context: Context, changes: Changes, concerns: (change: Change) => boolean): Response {
  return streamSSE(context, async (stream) => {
    let gone: () => void = () => undefined;
    const away = new Promise<void>((resolve) => {
      gone = resolve;
    });
    const stop = changes.listen((change) => {
      if (change === null || concerns(change)) void stream.writeSSE({ event: "changed", data: JSON.stringify(change) });
    });
    const beat = setInterval(() => void stream.writeSSE({ event: "beat", data: "" }), HEARTBEAT_MS);
    stream.onAbort(gone);
    await stream.writeSSE({ event: "open", data: "" });
    await away;
    clearInterval(beat);
    stop();
  });
}

/**
 * The HTTP interface and the web client behind one address.
 * @param webRoot folder of the built web client, relative to the working directory; null serves the interface alone
 */
export function createApp(repository: Repository, changes: Changes, logger: Logger, webRoot: string | null): OpenAPIHono {
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
  app.openapi(changeSettings, async (context) => {
    const shopId = await repository.firstShopId();
    if (!shopId) return context.json(noShop, 404);
    const settings = context.req.valid("json");
    await repository.changeSettings(shopId, settings);
    return context.json(settings, 200);
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
  app.openapi(measure, async (context) => {
    const shopId = await repository.firstShopId();
    const { id } = context.req.valid("param");
    const simulated = shopId ? await repository.findSimulated(shopId, id) : undefined;
    if (simulated === undefined || !shopId) return context.json(notFound, 404);
    if (simulated === null) return context.json(realCar, 409);
    const job = await repository.findJob(shopId, id);
    if (!job) return context.json(notFound, 404);
    return context.json({ values: readVirtualCar(job, simulated, context.req.valid("json").measurements) }, 200);
  });
  app.openapi(putCallout, async (context) => {
    const shopId = await repository.firstShopId();
    const state = context.req.valid("json");
    if (!shopId || (await repository.findSimulated(shopId, state.job)) === undefined) return context.json(notFound, 404);
    await repository.putCallout(shopId, context.req.valid("param").code, state);
    return context.json({ ok: true as const }, 200);
  });
  app.openapi(getCallout, async (context) => {
    const shopId = await repository.firstShopId();
    const state = shopId && (await repository.findCallout(shopId, context.req.valid("param").code));
    return state ? context.json(state, 200) : context.json(noCallout, 404);
  });
  app.get("/api/jobs/:id/events", (context) => {
    const id = context.req.param("id");
    return streamChanges(context, changes, (change) => "job" in change && change.job === id);
  });
  app.get("/api/callouts/:code/events", (context) => {
    const code = context.req.param("code");
    return streamChanges(context, changes, (change) => "callout" in change && change.callout === code);
  });
  app.doc31("/api/openapi.json", { openapi: "3.1.0", info: { title: "Fox Lamp", version: "1" } });
  app.all("/api/*", (context) => context.json({ code: "route:unknown", where: context.req.path, message: "there is no such route" }, 404));

  if (webRoot !== null) {
    app.use("/assets/*", async (context, next) => {
      await next();
      if (context.res.ok) context.header("cache-control", "public, max-age=31536000, immutable");
    });
    app.use(serveStatic({ root: webRoot, precompressed: true }));
    app.get("*", serveStatic({ root: webRoot, path: "index.html" }));
  }
  return app;
}
