import { captureAnswerSchema, capturePart, knownCaptureSchema, parseOrThrow, scopeRequestSchema, storedCaptureSchema } from "@fox-lamp/language";
import { createRoute, z } from "@hono/zod-openapi";
import type { Who } from "../../accounts/who";
import type { JobKey } from "../../database/projection";
import { VirtualCars } from "../../work/virtual-cars";
import { type App, body, closed, type House, idParam, json, noJob, problem } from "../common";

const capture = idParam.extend({ capture: z.uuid().openapi({ param: { name: "capture", in: "path" } }) });
const done = z.object({ ok: z.literal(true) });
const noCapture = { code: "capture:not-found", where: "capture", message: "there is no such capture, or no such part of it, in this job" };
const realCar = { code: "instrument:real-car", where: "id", message: "a real car stands behind this job; bring the scope's file" };

const routes = {
  one: createRoute({
    method: "get",
    path: "/api/jobs/{id}/captures/{capture}",
    request: { params: capture },
    responses: { 200: json(captureAnswerSchema, "What is known of the capture, and which parts are there"), 404: problem("No such capture"), ...closed },
  }),
  known: createRoute({
    method: "get",
    path: "/api/jobs/{id}/known-captures",
    request: { params: idParam },
    responses: { 200: json(z.array(knownCaptureSchema), "Captures kept as known good of the vehicle and its sisters"), 404: problem("No such job"), ...closed },
  }),
  put: createRoute({
    method: "put",
    path: "/api/jobs/{id}/captures/{capture}",
    request: { params: capture, ...body(storedCaptureSchema) },
    responses: { 200: json(done, "Stored; its parts may come"), 400: problem("Something cannot be"), 404: problem("No such job"), ...closed },
  }),
};

/** Captures: what is known of one, its packed parts, and the virtual scope. */
export function captureRoutes(app: App, { jobs, captures, work }: House): void {
  const cars = new VirtualCars(work);
  const seen = async (who: Who, jobId: string): Promise<JobKey | null> => ((await jobs.header(who, jobId)) === null ? null : { shopId: who.shopId, jobId });
  app.openapi(routes.one, async (context) => {
    const { id, capture: name } = context.req.valid("param");
    const key = await seen(context.get("who"), id);
    const found = key && (await captures.find(key, name));
    return found ? context.json(found, 200) : context.json(noCapture, 404);
  });
  app.openapi(routes.known, async (context) => {
    const key = await seen(context.get("who"), context.req.valid("param").id);
    return key === null ? context.json(noJob, 404) : context.json(await captures.known(key), 200);
  });
  app.openapi(routes.put, async (context) => {
    const { id, capture: name } = context.req.valid("param");
    const key = await seen(context.get("who"), id);
    if (key === null) return context.json(noJob, 404);
    await captures.put(key, name, context.req.valid("json"));
    return context.json({ ok: true as const }, 200);
  });
  app.put("/api/jobs/:id/captures/:capture/parts/:part", async (context) => {
    const { id, capture: name } = capture.parse(context.req.param());
    const part = parseOrThrow(capturePart, context.req.param("part"), "part");
    const key = await seen(context.get("who"), id);
    const stored = key !== null && (await captures.putPart(key, name, part, Buffer.from(await context.req.arrayBuffer())));
    return stored ? context.json({ ok: true as const }, 200) : context.json(noCapture, 404);
  });
  app.get("/api/jobs/:id/captures/:capture/parts/:part", async (context) => {
    const { id, capture: name } = capture.parse(context.req.param());
    const part = parseOrThrow(capturePart, context.req.param("part"), "part");
    const key = await seen(context.get("who"), id);
    const found = key && (await captures.part(key, name, part));
    if (!found) return context.json(noCapture, 404);
    // A part never changes: what has been fetched once need not be asked for again.
    return context.body(new Uint8Array(found), 200, { "content-type": "application/octet-stream", "cache-control": "private, max-age=604800, immutable" });
  });
  app.post("/api/jobs/:id/scope", async (context) => {
    const id = context.req.param("id");
    const request = parseOrThrow(scopeRequestSchema, await context.req.json(), "scope");
    const [header, job] = await Promise.all([jobs.header(context.get("who"), id), jobs.find(context.get("who"), id)]);
    if (!header || !job) return context.json(noJob, 404);
    if (header.simulated === null) return context.json(realCar, 409);
    const channels = await cars.scope(job, header.simulated, request);
    const out = new Uint8Array(channels.reduce((sum, samples) => sum + samples.byteLength, 0));
    let at = 0;
    for (const samples of channels) {
      out.set(new Uint8Array(samples.buffer, samples.byteOffset, samples.byteLength), at);
      at += samples.byteLength;
    }
    return context.body(out, 200, { "content-type": "application/octet-stream" });
  });
}
