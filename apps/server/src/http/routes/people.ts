import {
  acceptInvitationSchema,
  changePersonSchema,
  figureRowSchema,
  figuresQuerySchema,
  figuresSchema,
  firstForemanSchema,
  frontSchema,
  invitationSchema,
  meSchema,
  newInvitationSchema,
  personSchema,
  shopSchema,
  shopSettingsSchema,
} from "@fox-lamp/language";
import { createRoute, z } from "@hono/zod-openapi";
import { DEMO_PEOPLE } from "../../demo/demo";
import { type App, body, closed, type House, idParam, json, notAllowed, problem, tooManyCodes } from "../common";

const codeParam = z.object({
  code: z
    .string()
    .regex(/^[A-Z0-9]{6,16}$/u)
    .openapi({ param: { name: "code", in: "path" } }),
});
const done = z.object({ ok: z.literal(true) });
const noInvitation = { code: "invitation:none", where: "code", message: "this invitation does not hold (any more); ask the foreman for another" };
const noPerson = { code: "person:not-found", where: "id", message: "there is no such person in this shop" };

const routes = {
  front: createRoute({ method: "get", path: "/api/front", responses: { 200: json(frontSchema, "What the front door shows before anybody is signed in") } }),
  first: createRoute({
    method: "post",
    path: "/api/front/first",
    request: body(firstForemanSchema),
    responses: { 200: json(done, "The shop and its first foreman are made"), 400: problem("Something cannot be"), 409: problem("Somebody was here before") },
  }),
  invitation: createRoute({
    method: "get",
    path: "/api/invitations/{code}",
    request: { params: codeParam },
    responses: { 200: json(invitationSchema, "Who is invited where"), 404: problem("It does not hold"), 429: problem("Too many codes") },
  }),
  accept: createRoute({
    method: "post",
    path: "/api/invitations/{code}",
    request: { params: codeParam, ...body(acceptInvitationSchema) },
    responses: {
      200: json(done, "The person is made and can sign in"),
      400: problem("Something cannot be"),
      404: problem("It does not hold"),
      429: problem("Too many codes"),
    },
  }),
  me: createRoute({ method: "get", path: "/api/me", responses: { 200: json(meSchema, "Who is signed in"), ...closed } }),
  shop: createRoute({ method: "get", path: "/api/shop", responses: { 200: json(shopSchema, "The shop and its people"), ...closed } }),
  settings: createRoute({
    method: "put",
    path: "/api/shop/settings",
    request: body(shopSettingsSchema),
    responses: { 200: json(shopSettingsSchema, "The settings as stored"), 400: problem("A value that cannot be"), ...closed },
  }),
  figures: createRoute({
    method: "get",
    path: "/api/shop/figures",
    request: { query: figuresQuerySchema },
    responses: { 200: json(figuresSchema, "How the shop does"), ...closed },
  }),
  figureRows: createRoute({
    method: "get",
    path: "/api/shop/figures/jobs",
    request: { query: figuresQuerySchema },
    responses: { 200: json(z.array(figureRowSchema), "The jobs the figures are counted from, the latest first"), ...closed },
  }),
  invitations: createRoute({
    method: "get",
    path: "/api/shop/invitations",
    responses: { 200: json(z.array(invitationSchema), "Invitations nobody has taken yet"), ...closed },
  }),
  invite: createRoute({
    method: "post",
    path: "/api/shop/invitations",
    request: body(newInvitationSchema),
    responses: { 200: json(invitationSchema, "The invitation"), 400: problem("Something cannot be"), ...closed },
  }),
  withdraw: createRoute({
    method: "delete",
    path: "/api/shop/invitations/{code}",
    request: { params: codeParam },
    responses: { 200: json(done, "It is gone"), 404: problem("It does not hold"), ...closed },
  }),
  person: createRoute({
    method: "patch",
    path: "/api/shop/people/{id}",
    request: { params: idParam, ...body(changePersonSchema) },
    responses: {
      200: json(personSchema, "The person as changed"),
      400: problem("Something cannot be"),
      404: problem("Nobody of this shop"),
      409: problem("It would leave the shop without a foreman"),
      ...closed,
    },
  }),
};

/** The front door, who is who, and what the shop has decided. */
export function peopleRoutes(app: App, { auth, people, figures, demo }: House): void {
  app.openapi(routes.front, async (context) => {
    const empty = await people.empty();
    return context.json(
      { empty, demo: demo && !empty ? DEMO_PEOPLE.map(({ name, role, username, password }) => ({ name, role, username, password })) : [] },
      200,
    );
  });
  app.openapi(routes.first, async (context) => {
    const hindrance = await auth.makeFirst(context.req.valid("json"));
    if (hindrance === "taken") return context.json({ code: "shop:taken", where: "", message: "this installation has its first foreman already; sign in" }, 409);
    if (hindrance === "wrong-code")
      return context.json({ code: "first:code", where: "code", message: "is not the code of this installation; it stands where Fox Lamp was started" }, 400);
    return context.json({ ok: true as const }, 200);
  });
  app.openapi(routes.invitation, async (context) => {
    const found = await auth.byCode(context, () => people.invitation(context.req.valid("param").code));
    if (found === "too-many") return context.json(tooManyCodes, 429);
    return found ? context.json(found.invitation, 200) : context.json(noInvitation, 404);
  });
  app.openapi(routes.accept, async (context) => {
    const taken = await auth.byCode(context, async () => (await auth.accept(context.req.valid("param").code, context.req.valid("json"))) || null);
    if (taken === "too-many") return context.json(tooManyCodes, 429);
    return taken ? context.json({ ok: true as const }, 200) : context.json(noInvitation, 404);
  });

  app.openapi(routes.me, (context) => {
    const { id, name, role, username, email, shopId, owner } = context.get("who");
    return context.json({ id, name, role, username, email, shop: shopId, owner, active: true }, 200);
  });
  app.openapi(routes.shop, async (context) => {
    const found = await people.shop(context.get("who").shopId);
    if (!found) throw new Error("a signed-in person has no shop");
    return context.json(found, 200);
  });
  app.openapi(routes.settings, async (context) => {
    const { shopId, role } = context.get("who");
    if (role !== "foreman") return context.json(notAllowed, 403);
    const settings = context.req.valid("json");
    await people.changeSettings(shopId, settings);
    return context.json(settings, 200);
  });
  app.openapi(routes.figures, async (context) => {
    const { shopId, role } = context.get("who");
    if (role === "trainee") return context.json({ ...notAllowed, message: "a trainee sees the own jobs only" }, 403);
    const shop = await people.shop(shopId);
    return context.json(await figures.of(shopId, shop?.settings.moneyPerHour ?? 0, context.req.valid("query")), 200);
  });
  app.openapi(routes.figureRows, async (context) => {
    const { shopId, role } = context.get("who");
    if (role === "trainee") return context.json(notAllowed, 403);
    return context.json(await figures.rows(shopId, context.req.valid("query")), 200);
  });
  app.openapi(routes.invitations, async (context) => {
    const { shopId, role } = context.get("who");
    return role === "foreman" ? context.json(await people.invitations(shopId), 200) : context.json(notAllowed, 403);
  });
  app.openapi(routes.invite, async (context) => {
    const { shopId, role } = context.get("who");
    if (role !== "foreman") return context.json(notAllowed, 403);
    const { name, role: as } = context.req.valid("json");
    const made = await people.invite(shopId, name, as);
    if (!made) throw new Error("an invitation was not stored");
    return context.json(made, 200);
  });
  app.openapi(routes.withdraw, async (context) => {
    const { shopId, role } = context.get("who");
    if (role !== "foreman") return context.json(notAllowed, 403);
    const gone = await people.takeInvitation(context.req.valid("param").code, shopId);
    return gone ? context.json({ ok: true as const }, 200) : context.json(noInvitation, 404);
  });
  app.openapi(routes.person, async (context) => {
    const { shopId, role } = context.get("who");
    if (role !== "foreman") return context.json(notAllowed, 403);
    const { id } = context.req.valid("param");
    const changed = await people.change(shopId, id, context.req.valid("json"));
    auth.forget();
    if (changed === null) return context.json(noPerson, 404);
    if (changed === "last-foreman")
      return context.json({ code: "person:last-foreman", where: "role", message: "the shop needs one active foreman; make another one first" }, 409);
    if (!changed.active) await auth.signOutEverywhere(id);
    return context.json(changed, 200);
  });
}
