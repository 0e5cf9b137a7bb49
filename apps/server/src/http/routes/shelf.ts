import {
  type ShelfRecord,
  shelfImportSchema,
  shelfLookAnswerSchema,
  shelfLookSchema,
  shelfPageSchema,
  shelfQuerySchema,
  shelfRecordSchema,
  specFileSchema,
  storedImportSchema,
  type Vehicle,
} from "@fox-lamp/language";
import { createRoute, z } from "@hono/zod-openapi";
import type { Judged } from "../../database/shelf";
import { type App, body, closed, type House, idParam, json, notAllowed, noVehicle, problem } from "../common";
import { wordsOf } from "./vehicles";

const noSpec = { code: "shelf:not-found", where: "id", message: "there is no such record on this shop's shelf" };
const noImport = { code: "shelf:no-import", where: "id", message: "there is no such import that could be taken back" };
const leftAlone = { ...notAllowed, message: "a trainee leaves the shelf as it is; ask whoever assigned the job" };
/** Records judged in one turn of a thread. */
const JUDGED_AT_ONCE = 20;

const oneSchema = z.object({ item: shelfRecordSchema });
const countSchema = z.object({ count: z.number().int() });
const routes = {
  search: createRoute({
    method: "get",
    path: "/api/shelf",
    request: { query: shelfQuerySchema },
    responses: { 200: json(shelfPageSchema, "What matches every word, the latest first"), 404: problem("No such vehicle"), ...closed },
  }),
  file: createRoute({
    method: "get",
    path: "/api/shelf/file",
    request: { query: z.object({ vehicle: z.uuid().optional() }) },
    responses: { 200: json(specFileSchema, "The whole shelf as a file, or what holds for one vehicle"), 404: problem("No such vehicle"), ...closed },
  }),
  look: createRoute({
    method: "post",
    path: "/api/shelf/look",
    request: body(shelfLookSchema),
    responses: { 200: json(shelfLookAnswerSchema, "What there is to say of each"), 400: problem("Something cannot be"), ...closed },
  }),
  put: createRoute({
    method: "post",
    path: "/api/shelf",
    request: body(oneSchema),
    responses: { 201: json(z.object({ id: z.uuid() }), "On the shelf"), 400: problem("Something cannot be"), ...closed },
  }),
  change: createRoute({
    method: "put",
    path: "/api/shelf/{id}",
    request: { params: idParam, ...body(oneSchema) },
    responses: { 200: json(z.object({ id: z.uuid() }), "Written anew"), 400: problem("Something cannot be"), 404: problem("No such record"), ...closed },
  }),
  remove: createRoute({
    method: "delete",
    path: "/api/shelf/{id}",
    request: { params: idParam },
    responses: { 200: json(countSchema, "Taken off"), 404: problem("No such record"), ...closed },
  }),
  merge: createRoute({ method: "post", path: "/api/shelf/merge", responses: { 200: json(countSchema, "What stood twice and went"), ...closed } }),
  imports: createRoute({ method: "get", path: "/api/shelf/imports", responses: { 200: json(z.array(storedImportSchema), "The latest imports"), ...closed } }),
  bringIn: createRoute({
    method: "post",
    path: "/api/shelf/imports",
    request: body(shelfImportSchema),
    responses: {
      201: json(z.object({ id: z.uuid(), stored: z.number().int(), skipped: z.number().int() }), "All of it came"),
      400: problem("Something cannot be; nothing came"),
      ...closed,
    },
  }),
  undo: createRoute({
    method: "delete",
    path: "/api/shelf/imports/{id}",
    request: { params: idParam },
    responses: { 200: json(countSchema, "Taken back"), 404: problem("No such import"), ...closed },
  }),
};

/** What the shop looks up: limits, curves and look-alikes, judged when they are written. */
export function shelfRoutes(app: App, { shelf, vehicles, work }: House): void {
  const judge = async (items: readonly ShelfRecord[]): Promise<Judged[]> => {
    // Records of one measurement stand together, so that what they share is worked out once.
    const order = items.map((item, index) => ({ item, index, key: JSON.stringify([item.kind, item.record.family, "red" in item.record && item.record.red]) }));
    order.sort((a, b) => a.key.localeCompare(b.key));
    const judged: Judged[] = [];
    for (let from = 0; from < order.length; from += JUDGED_AT_ONCE) {
      const turn = order.slice(from, from + JUDGED_AT_ONCE);
      const answers = await work.run("judge", { items: turn.map(({ item }) => item) });
      turn.forEach(({ item, index }, place) => {
        judged[index] = { item, problems: answers[place]?.problems ?? [], passes: answers[place]?.passes ?? [] };
      });
    }
    return judged;
  };
  const vehicleOf = async (shopId: string, id: string | undefined): Promise<Vehicle | undefined | null> =>
    id === undefined ? undefined : ((await vehicles.find(shopId, id))?.details ?? null);

  app.openapi(routes.file, async (context) => {
    const { shopId } = context.get("who");
    const vehicle = await vehicleOf(shopId, context.req.valid("query").vehicle);
    if (vehicle === null) return context.json(noVehicle, 404);
    return context.json(await shelf.file(shopId, vehicle), 200);
  });
  app.openapi(routes.search, async (context) => {
    const { shopId } = context.get("who");
    const { q, vehicle: id, ...query } = context.req.valid("query");
    const vehicle = await vehicleOf(shopId, id);
    if (vehicle === null) return context.json(noVehicle, 404);
    return context.json(await shelf.search(shopId, query, wordsOf(q), vehicle), 200);
  });
  app.openapi(routes.look, async (context) => {
    const { shopId } = context.get("who");
    const { items } = context.req.valid("json");
    const [judged, twins] = await Promise.all([judge(items), shelf.twins(shopId, items)]);
    return context.json(
      judged.map(({ problems, passes }, index) => ({ problems: [...problems], passes: [...passes], twin: twins[index] ?? null })),
      200,
    );
  });
  app.openapi(routes.put, async (context) => {
    const { shopId, role, name } = context.get("who");
    if (role === "trainee") return context.json(leftAlone, 403);
    const [judged] = await judge([context.req.valid("json").item]);
    return context.json({ id: await shelf.put(shopId, judged as Judged, name) }, 201);
  });
  app.openapi(routes.merge, async (context) => {
    const { shopId, role } = context.get("who");
    if (role === "trainee") return context.json(leftAlone, 403);
    return context.json({ count: await shelf.merge(shopId) }, 200);
  });
  app.openapi(routes.imports, async (context) => context.json(await shelf.imports(context.get("who").shopId), 200));
  app.openapi(routes.bringIn, async (context) => {
    const { shopId, role, name: by } = context.get("who");
    if (role === "trainee") return context.json(leftAlone, 403);
    const { name, items, twins } = context.req.valid("json");
    return context.json(await shelf.bringIn(shopId, name, await judge(items), by, twins === "skip"), 201);
  });
  app.openapi(routes.undo, async (context) => {
    const { shopId, role } = context.get("who");
    if (role === "trainee") return context.json(leftAlone, 403);
    const count = await shelf.undo(shopId, context.req.valid("param").id);
    return count === null ? context.json(noImport, 404) : context.json({ count }, 200);
  });
  app.openapi(routes.change, async (context) => {
    const { shopId, role, name } = context.get("who");
    if (role === "trainee") return context.json(leftAlone, 403);
    const { id } = context.req.valid("param");
    const [judged] = await judge([context.req.valid("json").item]);
    return (await shelf.change(shopId, id, judged as Judged, name)) ? context.json({ id }, 200) : context.json(noSpec, 404);
  });
  app.openapi(routes.remove, async (context) => {
    const { shopId, role } = context.get("who");
    if (role === "trainee") return context.json(leftAlone, 403);
    return (await shelf.remove(shopId, context.req.valid("param").id)) ? context.json({ count: 1 }, 200) : context.json(noSpec, 404);
  });
}
