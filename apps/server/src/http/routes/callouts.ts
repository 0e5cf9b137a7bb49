import { calloutSchema } from "@fox-lamp/language";
import { createRoute, z } from "@hono/zod-openapi";
import { spokenCode } from "../../accounts/spoken-code";
import { type App, body, closed, type House, json, noJob, problem, streamChanges, tooManyCodes } from "../common";

/** Fifty bits: nobody who was not given one finds one. */
const CODE_LENGTH = 10;
const calloutCode = z.object({
  code: z
    .string()
    .regex(/^[A-Z0-9]{10}$/u, { error: "a call-out's code has 10 letters and digits" })
    .openapi({ param: { name: "code", in: "path" } }),
});
const done = z.object({ ok: z.literal(true) });
const open = createRoute({
  method: "post",
  path: "/api/callouts",
  request: body(z.object({ job: z.uuid() })),
  responses: { 200: json(z.object({ code: z.string() }), "A code under which the job's bench can be watched"), 404: problem("No such job"), ...closed },
});
const put = createRoute({
  method: "put",
  path: "/api/callouts/{code}",
  request: { params: calloutCode, ...body(calloutSchema) },
  responses: { 200: json(done, "Shown on every device that watches the code"), 404: problem("No such job or call-out"), ...closed },
});
const end = createRoute({
  method: "delete",
  path: "/api/callouts/{code}",
  request: { params: calloutCode },
  responses: { 200: json(done, "Nothing is shown any more"), 404: problem("No such call-out in this shop"), ...closed },
});
const get = createRoute({
  method: "get",
  path: "/api/callouts/{code}",
  request: { params: calloutCode },
  responses: {
    200: json(calloutSchema, "What the bench shows"),
    204: { description: "The bench shows nothing yet" },
    404: problem("Nothing stands under this code"),
    429: problem("Too many codes that open nothing"),
  },
});
const noCallout = { code: "callout:none", where: "code", message: "nothing is shown under this code (any more); look at the code on the bench" };

/** Call-outs: opened, written and ended by who may see the job, read by any device that was given the code. */
export function calloutRoutes(app: App, { auth, jobs, callouts, changes }: House): void {
  app.openapi(open, async (context) => {
    const who = context.get("who");
    const { job } = context.req.valid("json");
    if ((await jobs.header(who, job)) === null) return context.json(noJob, 404);
    const code = spokenCode(CODE_LENGTH);
    await callouts.open(who.shopId, job, code);
    return context.json({ code }, 200);
  });
  app.openapi(put, async (context) => {
    const who = context.get("who");
    const state = context.req.valid("json");
    if ((await jobs.header(who, state.job)) === null) return context.json(noJob, 404);
    const shown = await callouts.put(who.shopId, context.req.valid("param").code, state);
    return shown ? context.json({ ok: true as const }, 200) : context.json(noCallout, 404);
  });
  app.openapi(end, async (context) => {
    const who = context.get("who");
    const { code } = context.req.valid("param");
    const job = await callouts.jobOf(who.shopId, code);
    if (job === null || (await jobs.header(who, job)) === null) return context.json(noCallout, 404);
    await callouts.end(who.shopId, code);
    return context.json({ ok: true as const }, 200);
  });
  app.openapi(get, async (context) => {
    const state = await auth.byCode(context, () => callouts.find(context.req.valid("param").code));
    if (state === "too-many") return context.json(tooManyCodes, 429);
    if (state === "empty") return context.body(null, 204);
    return state ? context.json(state, 200) : context.json(noCallout, 404);
  });
  app.get("/api/callouts/:code/events", async (context) => {
    const { code } = calloutCode.parse(context.req.param());
    const state = await auth.byCode(context, () => callouts.find(code));
    if (state === "too-many") return context.json(tooManyCodes, 429);
    if (state === null) return context.json(noCallout, 404);
    const mayStill = async (): Promise<boolean> => (await callouts.find(code)) !== null;
    return streamChanges(context, changes, (change) => "callout" in change && change.callout === code, mayStill);
  });
}
