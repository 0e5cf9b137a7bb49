import { randomUUID } from "node:crypto";
import { type APIRequestContext, expect, request, test } from "@playwright/test";
import pg from "pg";

const BASE = process.env["BASE_URL"] ?? "http://127.0.0.1:4680";
const DATABASE = process.env["DATABASE_URL"] ?? "";

const WHO = ["nobody", "trainee", "technician", "foreman", "stranger"] as const;
type Person = (typeof WHO)[number];
type People = Record<Person, APIRequestContext>;

let addresses = 0;
/** A device of its own, from an address of its own. */
function device(): Promise<APIRequestContext> {
  addresses += 1;
  return request.newContext({
    baseURL: BASE,
    extraHTTPHeaders: { origin: BASE, "x-forwarded-for": `10.7.0.${addresses}` },
    storageState: { cookies: [], origins: [] },
  });
}

async function entered(username: string, password: string): Promise<APIRequestContext> {
  const context = await device();
  const answer = await context.post("/api/auth/sign-in/username", { data: { username, password } });
  expect(answer.ok(), `${username} signs in`).toBe(true);
  return context;
}

/** The foreman of another shop on the same installation, who came by an invitation. */
async function stranger(): Promise<APIRequestContext> {
  const client = new pg.Client({ connectionString: DATABASE });
  await client.connect();
  const [shop, code] = [randomUUID(), `X${Date.now().toString(36).toUpperCase().slice(-9)}`];
  await client.query("insert into shops (id, name) values ($1, 'Other Quay Garage')", [shop]);
  await client.query("insert into invitations (code, shop_id, name, role, expires_at) values ($1, $2, 'Hale Quarry', 'foreman', now() + interval '1 day')", [
    code,
    shop,
  ]);
  await client.end();
  const context = await device();
  expect(await (await context.get(`/api/invitations/${code}`)).json()).toMatchObject({ shop: "Other Quay Garage", role: "foreman" });
  const name = `hale${Date.now() % 1e6}`;
  const accepted = await context.post(`/api/invitations/${code}`, { data: { name: "Hale Quarry", username: name, password: "quarry-and-quay" } });
  expect(accepted.ok()).toBe(true);
  // An invitation holds once.
  expect((await context.get(`/api/invitations/${code}`)).status()).toBe(404);
  await context.dispose();
  return entered(name, "quarry-and-quay");
}

const PIXEL = Buffer.from("iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==", "base64");

test("every route, for every role and for another shop", async () => {
  const people: People = {
    nobody: await device(),
    trainee: await entered("perrin", "first-things-first"),
    technician: await entered("wren", "lamp-on-the-bench"),
    foreman: await entered("odette", "keys-to-the-yard"),
    stranger: await stranger(),
  };
  const yard = await (await people.foreman.get("/api/jobs")).json();
  // Copies that other tests have opened from files stand in the yard too: the first of a name is the demo's own.
  const find = (name: string) =>
    yard
      .filter((one: { vehicle: { name?: string } }) => one.vehicle.name === name)
      .sort((a: { number: number }, b: { number: number }) => a.number - b.number)[0];
  const job = find("Unit 6").id as string;
  const own = find("Unit 1").id as string;
  const { vehicleId, circuits } = await (await people.foreman.get(`/api/jobs/${job}`)).json();
  const shop = await (await people.foreman.get("/api/shop")).json();
  const wren = shop.people.find((person: { username: string }) => person.username === "wren").id as string;
  const leaver = shop.people.find((person: { username: string }) => person.username === "perrin").id as string;
  const { code } = await (await people.foreman.post("/api/callouts", { data: { job } })).json();
  const { id: doomed } = await (
    await people.foreman.post("/api/jobs", {
      data: { vehicleId, entries: [{ id: randomUUID(), at: "2026-03-02T09:14:00Z", by: "x", kind: "complaint", body: { text: "to go" } }] },
    })
  ).json();
  const note = () => ({ id: randomUUID(), at: "2026-03-02T09:14:00Z", by: "somebody else", kind: "note", body: { text: "matrix" } });
  const recording = { title: "t", seconds: [0], channels: [{ name: "a", circuit: null, unit: "V", values: [1] }] };
  const [photo, log, trace] = [randomUUID(), randomUUID(), randomUUID()];
  const stored = {
    title: "t",
    source: "file",
    start: 0,
    rate: 1000,
    length: 2,
    channels: [{ name: "sig", unit: "V", circuit: null, red: null, black: null }],
    setup: {},
    analysis: { channels: [], firstToFail: null, camCrank: { degrees: [], shiftDegrees: null } },
  };
  const scope = { circuit: circuits[0].id, channels: [{ name: "b", red: "bat+", black: "bat-" }], seconds: 0.01, rate: 1000 };
  const callout = { job, vehicle: "v", title: "t", how: "h", low: 0, high: 1, unit: "V", word: null, value: null, taken: false, fits: null };
  const measurement = { circuit: circuits[0].id, meter: "volts-dc", red: "bat+", black: "bat-" };
  const settings = shop.settings;
  const sharedPage = { shop: "s", letterhead: "", logo: null, page: "p", vehicle: "v", vehicleDetails: "", sections: [] };

  type Row = readonly [method: string, path: string, statuses: readonly number[], body?: () => unknown];
  //                                                                              nobody trainee technician foreman stranger
  const ofJob = [401, 404, 200, 200, 404] as const;
  const spec = {
    kind: "limit",
    record: {
      family: "hall-3w",
      meter: "volts-dc",
      red: "gnd@sensor",
      high: 0.1,
      unit: "V",
      source: { kind: "document", title: "matrix" },
    },
  };
  const anyone = [401, 200, 200, 200, 200] as const;
  const everybody = [200, 200, 200, 200, 200] as const;
  const foremen = [401, 403, 403, 200, 200] as const;
  const rows: Row[] = [
    ["GET", "/api/health", everybody],
    ["GET", "/api/ready", everybody],
    ["GET", "/api/front", everybody],
    ["POST", "/api/front/first", [409, 409, 409, 409, 409], () => ({ code: "GUESSED", shop: "Mine", name: "Me", username: "meme", password: "long-enough" })],
    ["GET", "/api/invitations/NOBODYCAME", [404, 404, 404, 404, 404]],
    ["POST", "/api/invitations/NOBODYCAME", [404, 404, 404, 404, 404], () => ({ name: "Me", username: "meme", password: "long-enough" })],
    ["GET", "/api/me", anyone],
    ["GET", "/api/shop", anyone],
    ["PUT", "/api/shop/settings", foremen, () => settings],
    ["GET", "/api/shop/figures", [401, 403, 200, 200, 200]],
    ["GET", "/api/shop/figures/jobs", [401, 403, 200, 200, 200]],
    ["GET", "/api/shop/invitations", foremen],
    ["POST", "/api/shop/invitations", foremen, () => ({ name: "Ash", role: "trainee" })],
    ["DELETE", "/api/shop/invitations/NOBODYCAME", [401, 403, 403, 404, 404]],
    ["PATCH", `/api/shop/people/${wren}`, [401, 403, 403, 200, 404], () => ({ role: "technician" })],
    ["GET", "/api/yard", anyone],
    ["GET", "/api/jobs", anyone],
    ["POST", "/api/jobs", [401, 200, 200, 200, 404], () => ({ vehicleId, entries: [{ ...note(), kind: "complaint", body: { text: "matrix" } }] })],
    ["POST", "/api/jobs/import", anyone, () => ({ circuits: [], complaint: "matrix" })],
    ["GET", `/api/jobs/${job}`, ofJob],
    ["GET", `/api/jobs/${own}`, [401, 200, 200, 200, 404]],
    ["GET", `/api/jobs/${job}/entries?after=0`, ofJob],
    ["POST", `/api/jobs/${job}/entries`, ofJob, () => ({ entries: [note()] })],
    ["POST", `/api/jobs/${job}/instruments`, ofJob, () => ({ measurements: [measurement] })],
    ["POST", `/api/jobs/${job}/scan`, ofJob, () => ({ do: "codes" })],
    ["GET", `/api/jobs/${job}/file`, ofJob],
    ["POST", `/api/jobs/${job}/shares`, ofJob, () => ({ page: sharedPage })],
    ["GET", `/api/jobs/${job}/shares`, ofJob],
    ["DELETE", `/api/jobs/${job}/shares/NOTHINGSHAREDTHEREYE`, [401, 404, 404, 404, 404]],
    ["GET", "/api/shares/NOTHINGSHAREDTHEREYE", [404, 404, 404, 404, 404]],
    ["PUT", `/api/jobs/${job}/photos/${photo}`, ofJob, () => PIXEL],
    ["GET", `/api/jobs/${job}/photos/${photo}`, ofJob],
    ["PUT", `/api/jobs/${job}/recordings/${log}`, ofJob, () => recording],
    ["GET", `/api/jobs/${job}/recordings/${log}`, ofJob],
    ["PUT", `/api/jobs/${job}/captures/${trace}`, ofJob, () => stored],
    ["GET", `/api/jobs/${job}/captures/${trace}`, ofJob],
    ["PUT", `/api/jobs/${job}/captures/${trace}/parts/0-0`, ofJob, () => PIXEL],
    ["GET", `/api/jobs/${job}/captures/${trace}/parts/0-0`, ofJob],
    ["GET", `/api/jobs/${job}/known-captures`, ofJob],
    ["POST", `/api/jobs/${job}/scope`, ofJob, () => scope],
    ["GET", "/api/vehicles", anyone],
    ["GET", `/api/vehicles/${vehicleId}`, [401, 200, 200, 200, 404]],
    ["PATCH", `/api/vehicles/${vehicleId}`, [401, 403, 200, 200, 404], () => ({ circuits })],
    ["GET", "/api/shelf", anyone],
    ["GET", "/api/shelf/file", anyone],
    ["POST", "/api/shelf/look", anyone, () => ({ items: [spec] })],
    ["POST", "/api/shelf", [401, 403, 201, 201, 201], () => ({ item: spec })],
    ["POST", "/api/shelf/imports", [401, 403, 201, 201, 201], () => ({ name: "matrix.csv", items: [spec] })],
    ["GET", "/api/shelf/imports", anyone],
    ["DELETE", `/api/shelf/imports/${randomUUID()}`, [401, 403, 404, 404, 404]],
    ["PUT", `/api/shelf/${randomUUID()}`, [401, 403, 404, 404, 404], () => ({ item: spec })],
    ["DELETE", `/api/shelf/${randomUUID()}`, [401, 403, 404, 404, 404]],
    ["POST", "/api/shelf/merge", [401, 403, 200, 200, 200], () => ({})],
    ["POST", "/api/callouts", ofJob, () => ({ job })],
    ["PUT", `/api/callouts/${code}`, ofJob, () => callout],
    ["GET", `/api/callouts/${code}`, everybody],
    ["DELETE", `/api/callouts/${code}`, [401, 404, 200, 404, 404]],
    ["GET", "/api/shop/removals", foremen],
    ["GET", `/api/jobs/${job}/removals`, ofJob],
    ["DELETE", `/api/jobs/${job}/photos/${photo}`, [401, 403, 403, 200, 404], () => ({ reason: "matrix" })],
    ["DELETE", `/api/jobs/${doomed}`, [401, 403, 403, 200, 404], () => ({ reason: "matrix" })],
    ["GET", "/api/installation/shops", [401, 403, 403, 200, 403]],
    ["POST", "/api/installation/shops", [401, 403, 403, 200, 403], () => ({ name: `Matrix ${randomUUID()}`, foreman: "Ash" })],
    ["POST", `/api/shop/people/${leaver}/new-password`, [401, 403, 403, 200, 404], () => ({})],
    ["GET", `/api/shop/people/${leaver}/file`, [401, 200, 403, 200, 404]],
    // Whoever still works here is not blanked.
    ["POST", `/api/shop/people/${leaver}/blank`, [401, 403, 403, 404, 404], () => ({ reason: "matrix" })],
    ["GET", "/api/new-password/NOBODYCAME", [404, 404, 404, 404, 404]],
    ["POST", "/api/new-password/NOBODYCAME", [404, 404, 404, 404, 404], () => ({ password: "long-enough-for-us" })],
  ];
  // The callout stands before anybody reads it; the order of the rows is the order of the calls.
  for (const [method, path, statuses, body] of rows) {
    for (const [index, name] of WHO.entries()) {
      const data = body?.();
      const answer = await people[name].fetch(path, {
        method,
        ...(data === undefined ? {} : { data }),
        ...(Buffer.isBuffer(data) ? { headers: { "content-type": "image/png" } } : {}),
      });
      expect(answer.status(), `${method} ${path} for ${name}: ${answer.status() === statuses[index] ? "" : await answer.text()}`).toBe(statuses[index]);
    }
  }
  for (const name of ["nobody", "trainee", "stranger"] as const) {
    const answer = await people[name].get(`/api/jobs/${job}/events`);
    expect(answer.status()).toBe(name === "nobody" ? 401 : 404);
  }

  // No route of the interface is left out.
  const document = await (await people.nobody.get("/api/openapi.json")).json();
  const tried = rows.map(
    ([method, path]) =>
      `${method} ${path
        .replace(/\?.*$/u, "")
        .replace(code, "*")
        .replaceAll(/[0-9a-f]{8}-[0-9a-f-]{27}|NOBODYCAME|NOTHINGSHAREDTHEREYE/gu, "*")}`,
  );
  for (const [path, methods] of Object.entries(document.paths as Record<string, object>))
    for (const method of Object.keys(methods)) expect(tried).toContain(`${method.toUpperCase()} ${path.replaceAll(/\{\w+\}/gu, "*")}`);

  // Who wrote is who was signed in, whatever was sent; the other shop sees nothing of this one.
  const { entries } = await (await people.foreman.get(`/api/jobs/${job}`)).json();
  expect(new Set(entries.filter((entry: { body: { text?: string } }) => entry.body.text === "matrix").map((entry: { by: string }) => entry.by))).toEqual(
    new Set(["Wren Halloran", "Odette Marsh"]),
  );
  expect((await (await people.stranger.get("/api/vehicles")).json()).some((vehicle: { id: string }) => vehicle.id === vehicleId)).toBe(false);
  const seen = await (await people.trainee.get("/api/jobs")).json();
  expect(seen.every((one: { assignedTo: string }) => one.assignedTo === "Perrin Vale")).toBe(true);
  // A trainee's copy of a practice job does not tell its fault.
  expect(await (await people.trainee.get(`/api/jobs/${own}/file`)).json()).not.toHaveProperty("simulated");
  await Promise.all(Object.values(people).map((context) => context.dispose()));
});

test("a foreman invites, changes a role, takes the access back; the last foreman stays", async ({ page, browser }) => {
  const foreman = await browser.newContext({ storageState: { cookies: [], origins: [] }, extraHTTPHeaders: { "x-forwarded-for": "10.8.0.1" } });
  const desk = await foreman.newPage();
  await desk.goto("/");
  await desk.getByRole("button", { name: "Enter as Odette" }).click();
  await desk.getByRole("button", { name: "Your account and the shop" }).click();
  await desk.getByRole("menuitem", { name: "People" }).click();
  await desk.getByLabel("Name", { exact: true }).fill("Rowan Teal");
  await desk.getByLabel("Comes as").selectOption("trainee");
  await desk.getByRole("button", { name: "Make an invitation" }).click();
  const row = desk.getByRole("listitem").filter({ hasText: "Rowan Teal" });
  const address = (await row.locator("div.readout").textContent()) ?? "";

  const guest = await browser.newContext({ storageState: { cookies: [], origins: [] }, extraHTTPHeaders: { "x-forwarded-for": "10.8.0.2" } });
  const phone = await guest.newPage();
  await phone.goto(new URL(address).pathname);
  await expect(phone.getByRole("heading", { name: "Welcome to Tallow Bay Community Transport" })).toBeVisible();
  await phone.getByLabel("Short name to sign in with").fill("wren");
  await phone.getByLabel("Password, at least 8 characters").fill("teal-and-amber");
  await phone.getByRole("button", { name: "Come in" }).click();
  await expect(phone.getByRole("alert")).toContainText('"wren" is already used');
  await phone.getByLabel("Short name to sign in with").fill("rowan");
  await phone.getByRole("button", { name: "Come in" }).click();
  await expect(phone.getByRole("heading", { name: "Yard" })).toBeVisible();
  await expect(phone.getByText("No jobs yet.")).toBeVisible();

  await desk.reload();
  const member = desk.getByRole("listitem").filter({ hasText: "Rowan Teal" });
  await member.getByRole("combobox").selectOption("technician");
  await phone.reload();
  await expect(phone.getByText("Parks tipper 5").first()).toBeVisible();
  await member.getByRole("button", { name: "Take the access back" }).click();
  await desk
    .getByRole("dialog", { name: /^Take back the access of/u })
    .getByRole("button", { name: "Take the access back" })
    .click();
  await expect(member).toContainText("access taken back");
  await phone.reload();
  await expect(phone.getByRole("heading", { name: "Sign in" })).toBeVisible();
  await desk.getByRole("listitem").filter({ hasText: "Odette Marsh" }).getByRole("combobox").selectOption("technician");
  await expect(desk.getByText(/needs one active foreman/u)).toBeVisible();
  await foreman.close();
  await guest.close();
  await page.close();
});

test("a foreman gives a new password, opens a shop, and takes a job, a photo and a name out of the record", async ({ browser }) => {
  const address = { "x-forwarded-for": "10.8.0.9" };
  const foreman = await browser.newContext({ storageState: { cookies: [], origins: [] }, extraHTTPHeaders: address });
  const desk = await foreman.newPage();
  await desk.goto("/");
  await desk.getByRole("button", { name: "Enter as Odette" }).click();
  await expect(desk.getByRole("heading", { name: "Yard" })).toBeVisible();
  // Somebody who will leave.
  const invited = await foreman.request.post("/api/shop/invitations", { data: { name: "Sorrel Finch", role: "technician" }, headers: { origin: BASE } });
  const { code } = await invited.json();
  const short = `sorrel${Date.now() % 1e6}`;
  const leaver = await device();
  const come = (password: string) => leaver.post(`/api/invitations/${code}`, { data: { name: "Sorrel Finch", username: short, password } });
  const common = await come("password1");
  expect([common.status(), (await common.json()).code]).toEqual([400, "password:common"]);
  expect((await come("finch-in-the-hedge")).ok()).toBe(true);
  await leaver.dispose();

  await desk.getByRole("button", { name: "Your account and the shop" }).click();
  await desk.getByRole("menuitem", { name: "People" }).click();
  const member = desk.getByRole("listitem").filter({ hasText: short });
  await member.getByRole("button", { name: "New password" }).click();
  const link = (await member.getByRole("status").locator("span.readout").textContent()) ?? "";
  const guest = await browser.newContext({ storageState: { cookies: [], origins: [] }, extraHTTPHeaders: { "x-forwarded-for": "10.8.0.10" } });
  const phone = await guest.newPage();
  await phone.goto(new URL(link).pathname);
  await expect(phone.getByRole("heading", { name: "A new password for Sorrel Finch" })).toBeVisible();
  await phone.getByLabel("Password, at least 8 characters").fill("qwertyuiop");
  await phone.getByRole("button", { name: "Set it and sign in" }).click();
  await expect(phone.getByRole("alert")).toContainText("among the passwords tried first");
  await phone.getByLabel("Password, at least 8 characters").fill("wren-finch-and-rook");
  await phone.getByRole("button", { name: "Set it and sign in" }).click();
  await expect(phone.getByRole("heading", { name: "Yard" })).toBeVisible();
  // A code holds once.
  await phone.goto(new URL(link).pathname);
  await expect(phone.getByText(/does not hold \(any more\)/u).first()).toBeVisible();

  // A job of theirs with a photo.
  const made = await guest.request.post("/api/jobs", {
    data: { vehicle: { name: "Leaving" }, entries: [{ id: randomUUID(), at: new Date().toISOString(), by: "x", kind: "complaint", body: { text: "Leaves" } }] },
    headers: { origin: BASE },
  });
  const { id } = await made.json();
  const photo = randomUUID();
  const put = await guest.request.put(`/api/jobs/${id}/photos/${photo}`, { data: PIXEL, headers: { "content-type": "image/png", origin: BASE } });
  expect(put.ok()).toBe(true);
  const shown = { id: randomUUID(), at: new Date().toISOString(), by: "x", kind: "photo", body: { photo, caption: "A face", width: 1, height: 1 } };
  expect((await guest.request.post(`/api/jobs/${id}/entries`, { data: { entries: [shown] }, headers: { origin: BASE } })).ok()).toBe(true);
  await desk.goto(`/jobs/${id}`);
  await desk.getByRole("img", { name: "A face" }).click();
  await desk.getByRole("button", { name: "Remove the photo" }).click();
  await desk.getByLabel("Why").fill("somebody is on it");
  await desk.getByRole("button", { name: "Remove it for good" }).click();
  await expect(desk.getByText("removed by Odette Marsh: somebody is on it")).toBeVisible();
  expect((await guest.request.get(`/api/jobs/${id}/photos/${photo}`)).status()).toBe(404);

  // The name goes once the access is taken back; what was done stays.
  await desk.goto("/people");
  await member.getByRole("button", { name: "Take the access back" }).click();
  await desk
    .getByRole("dialog", { name: /^Take back the access of/u })
    .getByRole("button", { name: "Take the access back" })
    .click();
  await member.getByRole("button", { name: "Take the name out" }).click();
  await desk.getByLabel("Why").fill("asked for it");
  await desk.getByRole("button", { name: "Remove it for good" }).click();
  await expect(desk.getByText("The name is gone")).toBeVisible();
  await expect(desk.getByText("Sorrel Finch")).toHaveCount(0);
  await desk.goto(`/jobs/${id}`);
  await expect(desk.getByText(/Former technician/u).first()).toBeVisible();
  await desk.getByRole("button", { name: "Remove the job" }).click();
  await desk.getByLabel("Why").fill("made for a test");
  await desk.getByRole("button", { name: "Remove it for good" }).click();
  await expect(desk.getByRole("heading", { name: "Yard" })).toBeVisible();
  await desk.goto("/people");
  await expect(desk.getByText("made for a test")).toBeVisible();

  // A further shop.
  await desk.goto("/shops");
  const name = `Fen Lane ${Date.now()}`;
  await desk.getByLabel("Name of the shop").fill(name);
  await desk.getByLabel("Its foreman").fill("Ida Fell");
  await desk.getByRole("button", { name: "Open it" }).click();
  await expect(desk.getByRole("status")).toContainText("Ida Fell");
  await expect(desk.getByRole("listitem").filter({ hasText: name })).toContainText("0 people, 0 jobs");
  await foreman.close();
  await guest.close();
});

test("too many wrong passwords from one address have to wait; others are not kept out", async () => {
  const guesser = await device();
  const statuses: number[] = [];
  for (let attempt = 0; attempt < 15; attempt += 1) {
    statuses.push((await guesser.post("/api/auth/sign-in/username", { data: { username: "odette", password: `guess-number-${attempt}` } })).status());
  }
  expect(statuses[0]).toBe(401);
  expect(statuses.at(-1)).toBe(429);
  const own = await entered("odette", "keys-to-the-yard");
  expect((await own.get("/api/me")).ok()).toBe(true);
  await Promise.all([guesser.dispose(), own.dispose()]);
});
