import { newShareSchema, sharedPageSchema, shareSchema } from "@fox-lamp/language";
import { createRoute, z } from "@hono/zod-openapi";
import { spokenCode } from "../../accounts/spoken-code";
import { type App, body, closed, type House, idParam, json, noJob, problem, tooManyCodes } from "../common";

/** A hundred bits: it stands in an address and holds for weeks. */
const CODE_LENGTH = 20;
const shareCode = z
  .string()
  .regex(/^[A-Z0-9]{20}$/u, { error: "a shared page's code has 20 letters and digits" })
  .openapi({ param: { name: "code", in: "path" } });
const done = z.object({ ok: z.literal(true) });

const routes = {
  share: createRoute({
    method: "post",
    path: "/api/jobs/{id}/shares",
    request: { params: idParam, ...body(newShareSchema) },
    responses: { 200: json(shareSchema, "A code under which the customer's page can be seen until it expires"), 404: problem("No such job"), ...closed },
  }),
  list: createRoute({
    method: "get",
    path: "/api/jobs/{id}/shares",
    request: { params: idParam },
    responses: { 200: json(z.array(shareSchema), "The shares of a job that still hold, the latest first"), 404: problem("No such job"), ...closed },
  }),
  end: createRoute({
    method: "delete",
    path: "/api/jobs/{id}/shares/{code}",
    request: { params: idParam.extend({ code: shareCode }) },
    responses: { 200: json(done, "Nobody sees it any more"), 404: problem("No such job or share"), ...closed },
  }),
  page: createRoute({
    method: "get",
    path: "/api/shares/{code}",
    request: { params: z.object({ code: shareCode }) },
    responses: {
      200: json(sharedPageSchema, "The customer's page, and nothing else of the job"),
      404: problem("Nothing is shared under this code"),
      429: problem("Too many codes that open nothing"),
    },
  }),
};
const noShare = { code: "share:none", where: "code", message: "this page is not shared (any more); ask the workshop for another address" };

/** Customers' pages: shared by who may see the job, read by whoever was given the address. */
export function shareRoutes(app: App, { auth, jobs, shares }: House): void {
  app.openapi(routes.share, async (context) => {
    const who = context.get("who");
    const { id } = context.req.valid("param");
    if ((await jobs.header(who, id)) === null) return context.json(noJob, 404);
    const { page, days } = context.req.valid("json");
    return context.json(await shares.share(who.shopId, id, { code: spokenCode(CODE_LENGTH), page, by: who.name, days }), 200);
  });
  app.openapi(routes.list, async (context) => {
    const who = context.get("who");
    const { id } = context.req.valid("param");
    if ((await jobs.header(who, id)) === null) return context.json(noJob, 404);
    return context.json(await shares.ofJob(who.shopId, id), 200);
  });
  app.openapi(routes.end, async (context) => {
    const who = context.get("who");
    const { id, code } = context.req.valid("param");
    if ((await jobs.header(who, id)) === null) return context.json(noJob, 404);
    return (await shares.end(who.shopId, id, code)) ? context.json({ ok: true as const }, 200) : context.json(noShare, 404);
  });
  app.openapi(routes.page, async (context) => {
    const page = await auth.byCode(context, () => shares.find(context.req.valid("param").code));
    if (page === "too-many") return context.json(tooManyCodes, 429);
    return page ? context.json(page, 200) : context.json(noShare, 404);
  });
}
