import { removalSchema, removeSchema } from "@fox-lamp/language";
import { createRoute, z } from "@hono/zod-openapi";
import { type App, body, closed, type House, idParam, json, noJob, notAllowed, problem } from "../common";

const done = z.object({ ok: z.literal(true) });
const photoParam = idParam.extend({ attachment: z.uuid().openapi({ param: { name: "attachment", in: "path" } }) });
const noPhoto = { code: "attachment:not-found", where: "attachment", message: "there is no such photo in this job" };
const noPerson = { code: "person:not-blankable", where: "id", message: "there is no such person in this shop whose access was taken back" };

const routes = {
  list: createRoute({
    method: "get",
    path: "/api/shop/removals",
    responses: { 200: json(z.array(removalSchema), "What was taken out of the record, the latest first"), ...closed },
  }),
  ofJob: createRoute({
    method: "get",
    path: "/api/jobs/{id}/removals",
    request: { params: idParam },
    responses: { 200: json(z.array(removalSchema), "Photos of this job that were removed"), 404: problem("No such job"), ...closed },
  }),
  job: createRoute({
    method: "delete",
    path: "/api/jobs/{id}",
    request: { params: idParam, ...body(removeSchema) },
    responses: { 200: json(done, "It is gone, with everything in it; the trace stays"), 404: problem("No such job"), ...closed },
  }),
  photo: createRoute({
    method: "delete",
    path: "/api/jobs/{id}/photos/{attachment}",
    request: { params: photoParam, ...body(removeSchema) },
    responses: { 200: json(done, "It is gone; the trace stays"), 404: problem("No such photo"), ...closed },
  }),
  person: createRoute({
    method: "post",
    path: "/api/shop/people/{id}/blank",
    request: { params: idParam, ...body(removeSchema) },
    responses: { 200: json(done, "The name is gone from everything"), 404: problem("Nobody whose access was taken back"), ...closed },
  }),
};

/** What a foreman may take out of the record for good, and the traces it leaves. */
export function removalRoutes(app: App, { auth, jobs, people, removals }: House): void {
  app.openapi(routes.list, async (context) => {
    const { shopId, role } = context.get("who");
    return role === "foreman" ? context.json(await removals.list(shopId), 200) : context.json(notAllowed, 403);
  });
  app.openapi(routes.ofJob, async (context) => {
    const who = context.get("who");
    const job = await jobs.header(who, context.req.valid("param").id);
    return job ? context.json(await removals.photosOf(who.shopId, job.number), 200) : context.json(noJob, 404);
  });
  app.openapi(routes.job, async (context) => {
    const who = context.get("who");
    if (who.role !== "foreman") return context.json(notAllowed, 403);
    const gone = await removals.job({ shopId: who.shopId, jobId: context.req.valid("param").id }, who, context.req.valid("json").reason);
    return gone ? context.json({ ok: true as const }, 200) : context.json(noJob, 404);
  });
  app.openapi(routes.photo, async (context) => {
    const who = context.get("who");
    if (who.role !== "foreman") return context.json(notAllowed, 403);
    const { id, attachment } = context.req.valid("param");
    const job = await jobs.header(who, id);
    if (job === null) return context.json(noJob, 404);
    const key = { shopId: who.shopId, jobId: id, number: job.number };
    return (await removals.photo(key, attachment, who, context.req.valid("json").reason))
      ? context.json({ ok: true as const }, 200)
      : context.json(noPhoto, 404);
  });
  app.openapi(routes.person, async (context) => {
    const who = context.get("who");
    if (who.role !== "foreman") return context.json(notAllowed, 403);
    const { id } = context.req.valid("param");
    const person = await people.find(who.shopId, id);
    const blanked = person !== null && (await removals.person(who.shopId, id, `Former ${person.role} ${id.slice(-4)}`, who, context.req.valid("json").reason));
    auth.forget();
    return blanked ? context.json({ ok: true as const }, 200) : context.json(noPerson, 404);
  });
}
