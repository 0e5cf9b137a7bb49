import { circuitRules, type JobRules } from "@fox-lamp/core";
import {
  appendSchema,
  BadInput,
  entrySchema,
  instrumentAnswerSchema,
  instrumentSchema,
  jobDetailSchema,
  jobSummarySchema,
  newJobSchema,
  STAGES,
  scanAnswerSchema,
  scanRequestSchema,
  yardQuerySchema,
} from "@fox-lamp/language";
import { createRoute, z } from "@hono/zod-openapi";
import type { Who } from "../../accounts/who";
import { refusalOf } from "../../database/entries";
import { VirtualCars } from "../../work/virtual-cars";
import { assertCircuitEntries } from "../circuits";
import { type App, body, closed, type House, idParam, json, noJob, noVehicle, problem, streamChanges } from "../common";
import { wordsOf } from "./vehicles";

const routes = {
  yard: createRoute({
    method: "get",
    path: "/api/yard",
    request: { query: yardQuerySchema },
    responses: {
      200: json(z.array(z.object({ stage: z.enum(STAGES), count: z.number(), jobs: z.array(jobSummarySchema) })), "Every stage: how many jobs, and the latest"),
      ...closed,
    },
  }),
  list: createRoute({
    method: "get",
    path: "/api/jobs",
    request: { query: yardQuerySchema.extend({ stage: z.enum(STAGES).optional(), offset: z.coerce.number().int().min(0).default(0) }) },
    responses: { 200: json(z.array(jobSummarySchema), "Jobs that match every word, the latest touched first, 200 at a time"), ...closed },
  }),
  create: createRoute({
    method: "post",
    path: "/api/jobs",
    request: body(newJobSchema),
    responses: { 200: json(z.object({ id: z.uuid() }), "The job is there"), 400: problem("Something cannot be"), 404: problem("No such vehicle"), ...closed },
  }),
  one: createRoute({
    method: "get",
    path: "/api/jobs/{id}",
    request: { params: idParam },
    responses: { 200: json(jobDetailSchema, "A job and all its entries"), 404: problem("No such job"), ...closed },
  }),
  append: createRoute({
    method: "post",
    path: "/api/jobs/{id}/entries",
    request: { params: idParam, ...body(appendSchema) },
    responses: {
      200: json(z.array(entrySchema), "The entries as stored; sent twice is stored once"),
      400: problem("An entry that cannot be"),
      404: problem("No such job"),
      ...closed,
    },
  }),
  since: createRoute({
    method: "get",
    path: "/api/jobs/{id}/entries",
    request: { params: idParam, query: z.object({ after: z.coerce.number().int().min(0).default(0) }) },
    responses: { 200: json(z.array(entrySchema), "The entries after a sequence number, in order"), 404: problem("No such job"), ...closed },
  }),
  measure: createRoute({
    method: "post",
    path: "/api/jobs/{id}/instruments",
    request: { params: idParam, ...body(instrumentSchema) },
    responses: {
      200: json(instrumentAnswerSchema, "What the instruments show on the virtual car, all in the same moment"),
      400: problem("A measurement that cannot be"),
      404: problem("No such job"),
      409: problem("A real car stands behind the job"),
      ...closed,
    },
  }),
  scan: createRoute({
    method: "post",
    path: "/api/jobs/{id}/scan",
    request: { params: idParam, ...body(scanRequestSchema) },
    responses: {
      200: json(scanAnswerSchema, "What the scan adapter says"),
      400: problem("A question that cannot be"),
      404: problem("No such job"),
      409: problem("A real car stands behind the job"),
      ...closed,
    },
  }),
};
const realCar = { code: "instrument:real-car", where: "id", message: "a real car stands behind this job; type what the instrument shows" };

/** The rules of jobs in a shop, for somebody who works there: in practice, on a virtual car, and otherwise. */
async function rulesOf(people: House["people"], { id, shopId, role, name }: Who): Promise<(practice: boolean) => JobRules> {
  const settings = (await people.shop(shopId))?.settings ?? null;
  return (practice) => ({ ...circuitRules, settings, acting: { role, person: id, name, practice } });
}

/** Jobs: the yard, one job, what happens in it, and the instruments on its car. */
export function jobRoutes(app: App, { auth, jobs, entries: log, people, vehicles, changes, work }: House): void {
  const cars = new VirtualCars(work);
  app.openapi(routes.yard, async (context) => {
    const { q: text, ...asked } = context.req.valid("query");
    return context.json(await jobs.yard(context.get("who"), { words: wordsOf(text), ...asked }), 200);
  });
  app.openapi(routes.list, async (context) => {
    const { q: text, ...asked } = context.req.valid("query");
    return context.json(await jobs.list(context.get("who"), { words: wordsOf(text), ...asked }), 200);
  });
  app.openapi(routes.create, async (context) => {
    const who = context.get("who");
    const { vehicleId, vehicle, circuits, entries } = context.req.valid("json");
    await work.run("fits", { circuits, readings: [] });
    assertCircuitEntries(entries);
    const known = vehicleId === undefined ? null : await vehicles.find(who.shopId, vehicleId);
    if (vehicleId !== undefined && known === null) return context.json({ ...noVehicle, where: "vehicleId" }, 404);
    const on = known?.id ?? (await vehicles.create(who.shopId, vehicle ?? {}, circuits));
    if (known !== null && vehicle !== undefined) await vehicles.change(who.shopId, on, { details: { ...known.details, ...vehicle } });
    const problem = refusalOf({ started: circuits, entries: [] }, entries, (await rulesOf(people, who))(false));
    if (problem !== null) throw new BadInput(problem);
    const taken = {
      bench: null,
      circuits,
      simulated: await vehicles.simulated(who.shopId, on),
      entries: entries.map((entry) => ({ ...entry, by: who.name })),
    };
    return context.json({ id: await jobs.create(who.shopId, on, taken, { assigned: who, author: who.id }) }, 200);
  });
  app.openapi(routes.one, async (context) => {
    const job = await jobs.detail(context.get("who"), context.req.valid("param").id);
    return job ? context.json(job, 200) : context.json(noJob, 404);
  });
  app.openapi(routes.append, async (context) => {
    const who = context.get("who");
    const added = context.req.valid("json").entries.map((entry) => ({ ...entry, by: who.name }));
    assertCircuitEntries(added);
    const stored = await log.append(who, context.req.valid("param").id, added, () => rulesOf(people, who));
    return stored ? context.json(stored, 200) : context.json(noJob, 404);
  });
  app.openapi(routes.since, async (context) => {
    const since = await log.after(context.get("who"), context.req.valid("param").id, context.req.valid("query").after);
    return since ? context.json(since, 200) : context.json(noJob, 404);
  });
  app.openapi(routes.measure, async (context) => {
    const { id } = context.req.valid("param");
    const [header, job] = await Promise.all([jobs.header(context.get("who"), id), jobs.find(context.get("who"), id)]);
    if (!header || !job) return context.json(noJob, 404);
    if (header.simulated === null) return context.json(realCar, 409);
    return context.json({ values: await cars.read(job, header.simulated, context.req.valid("json").measurements) }, 200);
  });
  app.openapi(routes.scan, async (context) => {
    const { id } = context.req.valid("param");
    const [header, job] = await Promise.all([jobs.header(context.get("who"), id), jobs.find(context.get("who"), id)]);
    if (!header || !job) return context.json(noJob, 404);
    if (header.simulated === null) return context.json(realCar, 409);
    return context.json(await cars.scan(job, header.simulated, context.req.valid("json")), 200);
  });
  app.get("/api/jobs/:id/events", async (context) => {
    const id = context.req.param("id");
    if ((await jobs.header(context.get("who"), id)) === null) return context.json(noJob, 404);
    const mayStill = async (): Promise<boolean> => {
      const who = await auth.who(context.req.raw.headers);
      return who !== null && (await jobs.header(who, id)) !== null;
    };
    return streamChanges(context, changes, (change) => "job" in change && change.job === id, mayStill);
  });
}
