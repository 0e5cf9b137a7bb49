import { assertCircuits } from "@fox-lamp/core";
import { circuitSchema, registeredVehicleSchema, vehicleFileSchema, vehicleSchema } from "@fox-lamp/language";
import { createRoute, z } from "@hono/zod-openapi";
import { type App, body, closed, type House, idParam, json, notAllowed, noVehicle, problem } from "../common";

const routes = {
  list: createRoute({
    method: "get",
    path: "/api/vehicles",
    request: { query: z.object({ q: z.string().max(200).default("") }) },
    responses: { 200: json(z.array(registeredVehicleSchema), "Vehicles of the register that match every word"), ...closed },
  }),
  one: createRoute({
    method: "get",
    path: "/api/vehicles/{id}",
    request: { params: idParam },
    responses: { 200: json(vehicleFileSchema, "A vehicle, its jobs and its sisters"), 404: problem("No such vehicle"), ...closed },
  }),
  change: createRoute({
    method: "patch",
    path: "/api/vehicles/{id}",
    request: { params: idParam, ...body(z.object({ details: vehicleSchema.optional(), circuits: z.array(circuitSchema).max(60).optional() })) },
    responses: { 200: json(registeredVehicleSchema, "The vehicle as stored"), 400: problem("Something cannot be"), 404: problem("No such vehicle"), ...closed },
  }),
};

/** The words of a search. */
export function wordsOf(text: string): string[] {
  return text
    .split(/\s+/u)
    .filter((word) => word !== "")
    .slice(0, 8);
}

/** The register of vehicles. */
export function vehicleRoutes(app: App, { vehicles, jobs }: House): void {
  app.openapi(routes.list, async (context) => context.json(await vehicles.search(context.get("who").shopId, wordsOf(context.req.valid("query").q)), 200));
  app.openapi(routes.one, async (context) => {
    const who = context.get("who");
    const found = await vehicles.find(who.shopId, context.req.valid("param").id);
    if (!found) return context.json(noVehicle, 404);
    const [history, sisters, leftOpen] = await Promise.all([
      jobs.onVehicle(who, found.id),
      vehicles.sisters(who.shopId, found),
      jobs.leftOpenOn(who.shopId, found.id),
    ]);
    return context.json({ ...found, jobs: history, sisters, leftOpen }, 200);
  });
  app.openapi(routes.change, async (context) => {
    const { shopId, role } = context.get("who");
    if (role === "trainee") return context.json({ ...notAllowed, message: "a trainee leaves the register as it is; ask whoever assigned the job" }, 403);
    const { id } = context.req.valid("param");
    const change = context.req.valid("json");
    assertCircuits(change.circuits ?? []);
    await vehicles.change(shopId, id, change);
    const found = await vehicles.find(shopId, id);
    return found ? context.json(found, 200) : context.json(noVehicle, 404);
  });
}
