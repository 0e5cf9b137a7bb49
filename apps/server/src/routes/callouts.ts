import { calloutSchema } from "@fox-lamp/language";
import { createRoute, z } from "@hono/zod-openapi";
import { type App, body, closed, type House, json, noJob, problem, streamChanges } from "./common";

const calloutCode = z.object({
  code: z
    .string()
    .regex(/^[A-Z0-9]{4,8}$/u)
    .openapi({ param: { name: "code", in: "path" } }),
});
const put = createRoute({
  method: "put",
  path: "/api/callouts/{code}",
  request: { params: calloutCode, ...body(calloutSchema) },
  responses: { 200: json(z.object({ ok: z.literal(true) }), "Shown on every device that watches the code"), 404: problem("No such job"), ...closed },
});
const get = createRoute({
  method: "get",
  path: "/api/callouts/{code}",
  request: { params: calloutCode },
  responses: { 200: json(calloutSchema, "What the bench shows"), 404: problem("Nothing stands under this code") },
});
const noCallout = { code: "callout:none", where: "code", message: "nothing is shown under this code; look at the code on the bench" };

/** Call-outs: written by who may see the job, read by any device that was given the code. */
export function calloutRoutes(app: App, { jobs, changes }: House): void {
  app.openapi(put, async (context) => {
    const who = context.get("who");
    const state = context.req.valid("json");
    if ((await jobs.header(who, state.job)) === null) return context.json(noJob, 404);
    await jobs.putCallout(who.shopId, context.req.valid("param").code, state);
    return context.json({ ok: true as const }, 200);
  });
  app.openapi(get, async (context) => {
    const state = await jobs.findCallout(context.req.valid("param").code);
    return state ? context.json(state, 200) : context.json(noCallout, 404);
  });
  app.get("/api/callouts/:code/events", (context) => {
    const code = context.req.param("code");
    return streamChanges(context, changes, (change) => "callout" in change && change.callout === code);
  });
}
