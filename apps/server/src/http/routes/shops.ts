import { invitationSchema, newPasswordSchema, newShopSchema, passwordResetSchema, shopOfHouseSchema } from "@fox-lamp/language";
import { createRoute, z } from "@hono/zod-openapi";
import { type App, body, closed, type House, idParam, json, notAllowed, ownerOnly, problem, tooManyCodes } from "../common";

const codeParam = z.object({
  code: z
    .string()
    .regex(/^[A-Z0-9]{10}$/u)
    .openapi({ param: { name: "code", in: "path" } }),
});
const done = z.object({ ok: z.literal(true) });
const noReset = { code: "reset:none", where: "code", message: "this code does not hold (any more); ask the foreman for another" };
const noPerson = { code: "person:not-found", where: "id", message: "there is no such person in this shop who may enter" };

const routes = {
  shops: createRoute({
    method: "get",
    path: "/api/installation/shops",
    responses: { 200: json(z.array(shopOfHouseSchema), "The shops of this installation"), ...closed },
  }),
  openShop: createRoute({
    method: "post",
    path: "/api/installation/shops",
    request: body(newShopSchema),
    responses: { 200: json(invitationSchema, "The invitation of its first foreman"), 409: problem("A shop has this name"), ...closed },
  }),
  reset: createRoute({
    method: "post",
    path: "/api/shop/people/{id}/new-password",
    request: { params: idParam },
    responses: { 200: json(passwordResetSchema, "A code with which this person sets a new password, once"), 404: problem("Nobody of this shop"), ...closed },
  }),
  resetFor: createRoute({
    method: "get",
    path: "/api/new-password/{code}",
    request: { params: codeParam },
    responses: {
      200: json(z.object({ name: z.string(), username: z.string() }), "Whose password it sets"),
      404: problem("It does not hold"),
      429: problem("Too many codes"),
    },
  }),
  setPassword: createRoute({
    method: "post",
    path: "/api/new-password/{code}",
    request: { params: codeParam, ...body(newPasswordSchema) },
    responses: {
      200: json(done, "The password is set; wherever the person was signed in has ended"),
      400: problem("A password that cannot be"),
      404: problem("It does not hold"),
      429: problem("Too many codes"),
    },
  }),
  file: createRoute({
    method: "get",
    path: "/api/shop/people/{id}/file",
    request: { params: idParam },
    responses: { 200: json(z.looseObject({ format: z.string() }), "Everything the installation has of a person"), 404: problem("Nobody"), ...closed },
  }),
};

/** The installation's shops, and what a foreman does for people: a new password, their own data. */
export function shopRoutes(app: App, { auth, people }: House): void {
  app.openapi(routes.shops, async (context) => (context.get("who").owner ? context.json(await people.shops(), 200) : context.json(ownerOnly, 403)));
  app.openapi(routes.openShop, async (context) => {
    if (!context.get("who").owner) return context.json(ownerOnly, 403);
    const { name, foreman } = context.req.valid("json");
    const invitation = await people.openShop(name, foreman);
    if (invitation === null) return context.json({ code: "shop:name", where: "name", message: "is the name of a shop that is here already" }, 409);
    return context.json(invitation, 200);
  });
  app.openapi(routes.reset, async (context) => {
    const { shopId, role } = context.get("who");
    if (role !== "foreman") return context.json(notAllowed, 403);
    const reset = await people.resetPassword(shopId, context.req.valid("param").id);
    return reset ? context.json(reset, 200) : context.json(noPerson, 404);
  });
  app.openapi(routes.resetFor, async (context) => {
    const person = await auth.byCode(context, () => people.resetFor(context.req.valid("param").code));
    if (person === "too-many") return context.json(tooManyCodes, 429);
    return person ? context.json(person, 200) : context.json(noReset, 404);
  });
  app.openapi(routes.setPassword, async (context) => {
    const { code } = context.req.valid("param");
    const set = await auth.byCode(context, async () => ((await auth.setPassword(code, context.req.valid("json").password)) ? true : null));
    if (set === "too-many") return context.json(tooManyCodes, 429);
    return set ? context.json({ ok: true as const }, 200) : context.json(noReset, 404);
  });
  app.openapi(routes.file, async (context) => {
    const { id: own, shopId, role } = context.get("who");
    const { id } = context.req.valid("param");
    // Everybody may have the own; a foreman hands them to whoever has left.
    if (role !== "foreman" && id !== own) return context.json(notAllowed, 403);
    const file = await people.everythingOf(shopId, id);
    if (file === null) return context.json(noPerson, 404);
    context.header("content-disposition", `attachment; filename="person-${file.person.username}.json"`);
    return context.json(file as unknown as { format: string }, 200);
  });
}
