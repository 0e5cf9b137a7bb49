import { fileOfJob, takeApart } from "@fox-lamp/core";
import { BadInput, circuitSchema, jobSchema, MOST_CIRCUITS, parseOrThrow, recordingSchema } from "@fox-lamp/language";
import { createRoute, z } from "@hono/zod-openapi";
import { v7 as uuidv7 } from "uuid";
import type { Who } from "../../accounts/who";
import type { JobKey } from "../../database/projection";
import { type App, body, closed, type House, idParam, json, noJob, problem } from "../common";

const attachment = idParam.extend({ attachment: z.uuid().openapi({ param: { name: "attachment", in: "path" } }) });
const done = z.object({ ok: z.literal(true) });
const noAttachment = { code: "attachment:not-found", where: "attachment", message: "there is no such photo or recording in this job" };

/** What a picture's first bytes say it is; null for no picture a browser shows. */
function pictureType(content: Buffer): string | null {
  if (content.subarray(0, 3).equals(Buffer.from([0xff, 0xd8, 0xff]))) return "image/jpeg";
  if (content.subarray(0, 8).equals(Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]))) return "image/png";
  if (content.subarray(0, 4).toString("latin1") === "RIFF" && content.subarray(8, 12).toString("latin1") === "WEBP") return "image/webp";
  return null;
}

const routes = {
  export: createRoute({
    method: "get",
    path: "/api/jobs/{id}/file",
    request: { params: idParam },
    responses: { 200: json(z.looseObject({ format: z.string() }), "The job as a file that holds all of it"), 404: problem("No such job"), ...closed },
  }),
  import: createRoute({
    method: "post",
    path: "/api/jobs/import",
    request: body(z.unknown()),
    responses: { 200: json(z.object({ id: z.uuid() }), "The job is there, under a new number"), 400: problem("What in the file cannot be read"), ...closed },
  }),
  recording: createRoute({
    method: "get",
    path: "/api/jobs/{id}/recordings/{attachment}",
    request: { params: attachment },
    responses: { 200: json(recordingSchema, "The recording"), 404: problem("No such recording"), ...closed },
  }),
  putRecording: createRoute({
    method: "put",
    path: "/api/jobs/{id}/recordings/{attachment}",
    request: { params: attachment, ...body(recordingSchema) },
    responses: { 200: json(done, "Stored"), 400: problem("Something cannot be"), 404: problem("No such job"), ...closed },
  }),
};

/** A job file may be of a job whose circuits nobody knows yet. */
const importSchema = jobSchema.extend({ circuits: z.array(circuitSchema).max(MOST_CIRCUITS).default([]) });

/** Job files in and out, photos, recordings. */
export function fileRoutes(app: App, { jobs, vehicles, attachments, captures, work }: House): void {
  const seen = async (who: Who, jobId: string): Promise<JobKey | null> => ((await jobs.header(who, jobId)) === null ? null : { shopId: who.shopId, jobId });
  app.openapi(routes.export, async (context) => {
    const who = context.get("who");
    const { id } = context.req.valid("param");
    const key = { shopId: who.shopId, jobId: id };
    const [header, job] = await Promise.all([jobs.header(who, id), jobs.find(who, id)]);
    if (!header || !job) return context.json(noJob, 404);
    const [attached, traces] = await Promise.all([attachments.all(key), captures.all(key)]);
    // A trainee's file does not tell what is hidden in the practice car.
    const simulated = who.role === "trainee" ? null : header.simulated;
    const file = fileOfJob({ vehicle: job.vehicle, bench: job.bench, circuits: header.circuits, simulated }, job.entries, {
      ...attached,
      ...(traces.length > 0 ? { captures: traces } : {}),
    });
    context.header("content-disposition", `attachment; filename="job-${job.number}.json"`);
    return context.json(file as typeof file & { format: string }, 200);
  });
  app.openapi(routes.import, async (context) => {
    const who = context.get("who");
    const file = parseOrThrow(importSchema, context.req.valid("json"));
    const misplaced = await work.run("fits", { circuits: file.circuits, readings: file.readings ?? [] });
    if (misplaced !== null) throw new BadInput(misplaced);
    const taken = takeApart(file, { id: uuidv7, at: () => new Date().toISOString(), by: who.name });
    const recorded = Object.entries(taken.recordings).map(([id, content]) => [id, parseOrThrow(recordingSchema, content, `recordings.${id}`)] as const);
    const pictures = Object.entries(taken.photos).map(([id, { base64 }]) => {
      const content = Buffer.from(base64, "base64");
      const type = pictureType(content);
      if (type === null) throw new BadInput({ code: "photo:type", where: "photos", message: "holds something that is no JPEG, PNG or WebP picture" });
      return { id, type, content };
    });
    const vehicleId = await vehicles.create(who.shopId, taken.vehicle, file.circuits);
    // Names and times are the file's own: the entries say that they were brought in.
    const id = await jobs.create(who.shopId, vehicleId, taken, { assigned: who, author: null });
    const key = { shopId: who.shopId, jobId: id };
    for (const { id: photo, type, content } of pictures) await attachments.putPhoto(key, photo, { type, content });
    for (const [recording, content] of recorded) await attachments.putRecording(key, recording, content);
    for (const one of taken.captures) await captures.bringIn(key, one);
    return context.json({ id }, 200);
  });
  app.openapi(routes.recording, async (context) => {
    const { id, attachment: name } = context.req.valid("param");
    const key = await seen(context.get("who"), id);
    const found = key && (await attachments.recording(key, name));
    return found ? context.json(found, 200) : context.json(noAttachment, 404);
  });
  app.openapi(routes.putRecording, async (context) => {
    const { id, attachment: name } = context.req.valid("param");
    const key = await seen(context.get("who"), id);
    if (key === null) return context.json(noJob, 404);
    await attachments.putRecording(key, name, context.req.valid("json"));
    return context.json({ ok: true as const }, 200);
  });
  app.put("/api/jobs/:id/photos/:attachment", async (context) => {
    const { id, attachment: name } = attachment.parse(context.req.param());
    const key = await seen(context.get("who"), id);
    if (key === null) return context.json(noJob, 404);
    const content = Buffer.from(await context.req.arrayBuffer());
    const type = pictureType(content);
    if (type === null) throw new BadInput({ code: "photo:type", where: "photo", message: "is no picture; expected JPEG, PNG or WebP" });
    await attachments.putPhoto(key, name, { type, content });
    return context.json({ ok: true as const }, 200);
  });
  app.get("/api/jobs/:id/photos/:attachment", async (context) => {
    const { id, attachment: name } = attachment.parse(context.req.param());
    const key = await seen(context.get("who"), id);
    const found = key && (await attachments.photo(key, name));
    if (!found) return context.json(noAttachment, 404);
    return context.body(new Uint8Array(found.content), 200, { "content-type": found.type, "cache-control": "private, max-age=86400" });
  });
}
