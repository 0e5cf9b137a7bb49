import { randomUUID } from "node:crypto";
import { eq } from "drizzle-orm";
import { entry, newJob, newServer, newShop, reading, rules, type TestServer } from "../../test/house";
import { entries, jobs, people, photos } from "./schema";

let server: TestServer;
let shop: Awaited<ReturnType<typeof newShop>>;
beforeAll(async () => {
  server = await newServer();
  shop = await newShop(server);
});
afterAll(() => server.close());

const PNG = { type: "image/png", content: Buffer.from([1, 2, 3]) };

it("a removed job is gone with everything in it; its number is not given again and its trace stays", async () => {
  const id = await newJob(server, shop.technician);
  const key = { shopId: shop.technician.shopId, jobId: id };
  const photo = randomUUID();
  await server.attachments.putPhoto(key, photo, PNG);
  await server.attachments.putRecording(key, randomUUID(), { title: "t", seconds: [0], channels: [] });
  await server.entries.append(shop.technician, id, [reading(4)], rules);
  const number = (await server.jobs.header(shop.foreman, id))?.number;
  const elsewhere = await newShop(server, "Elsewhere");
  expect(await server.removals.job({ ...key, shopId: elsewhere.foreman.shopId }, elsewhere.foreman, "not theirs")).toBe(false);
  expect(await server.removals.job(key, shop.foreman, "entered twice")).toBe(true);
  expect(await server.jobs.find(shop.foreman, id)).toBeNull();
  expect(await server.database.select().from(entries).where(eq(entries.jobId, id))).toEqual([]);
  expect(await server.database.select().from(photos).where(eq(photos.jobId, id))).toEqual([]);
  expect(await server.entries.append(shop.technician, id, [reading(4)], rules)).toBeNull();
  expect((await server.removals.list(shop.foreman.shopId))[0]).toMatchObject({
    what: "job",
    subject: id,
    jobNumber: number,
    by: shop.foreman.name,
    reason: "entered twice",
  });
  const next = await newJob(server, shop.technician);
  expect((await server.jobs.header(shop.foreman, next))?.number).toBe((number ?? 0) + 1);
  expect(await server.removals.list(elsewhere.foreman.shopId)).toEqual([]);
});

it("a removed photo is gone; that it was taken stays", async () => {
  const id = await newJob(server, shop.technician);
  const key = { shopId: shop.technician.shopId, jobId: id, number: 1 };
  const photo = randomUUID();
  await server.attachments.putPhoto(key, photo, PNG);
  await server.attachments.putPhoto(key, photo, { ...PNG, content: Buffer.from([9]) });
  expect((await server.attachments.photo(key, photo))?.content).toEqual(PNG.content);
  await server.entries.append(shop.technician, id, [entry("photo", { photo, caption: "plug", width: 1, height: 1 })], rules);
  expect(await server.removals.photo(key, photo, shop.foreman, "a face is on it")).toBe(true);
  expect(await server.removals.photo(key, photo, shop.foreman, "again")).toBe(false);
  expect(await server.attachments.photo(key, photo)).toBeNull();
  expect((await server.entries.after(shop.technician, id, 1))?.map(({ kind }) => kind)).toEqual(["photo"]);
  expect(await server.removals.photosOf(key.shopId, 1)).toMatchObject([{ subject: photo, reason: "a face is on it" }]);
});

it("a person's name goes out of everything once the access is taken back; what was done stays", async () => {
  const house = await newShop(server, "Harbour");
  const { technician, foreman } = house;
  const id = await newJob(server, technician);
  await server.entries.append(technician, id, [reading(4)], rules);
  await server.entries.append(foreman, id, [entry("assigned", { person: technician.id, name: technician.name })], rules);
  const blank = () => server.removals.person(technician.shopId, technician.id, "Former technician 7", foreman, "asked for it");
  expect(await blank()).toBe(false);
  await server.people.change(technician.shopId, technician.id, { active: false });
  const file = await server.people.everythingOf(technician.shopId, technician.id);
  expect(file).toMatchObject({ format: "fox-lamp/person@1", assignedJobs: [1], person: { name: technician.name } });
  expect(file?.entries.map(({ kind }) => kind)).toEqual(["complaint", "reading"]);
  expect(await blank()).toBe(true);
  const whole = JSON.stringify([
    await server.jobs.find(foreman, id),
    await server.jobs.list(foreman, {}),
    await server.people.shop(technician.shopId),
    await server.database.select().from(people).where(eq(people.id, technician.id)),
    await server.database.select().from(jobs).where(eq(jobs.id, id)),
  ]);
  expect(whole.toLowerCase()).not.toContain(technician.name.toLowerCase());
  const log = await server.entries.after(foreman, id, 0);
  expect(log?.map(({ kind }) => kind)).toEqual(["complaint", "reading", "assigned"]);
  expect(log?.[1]).toMatchObject({ person: technician.id });
});

it("what a shop keeps no longer goes by its own rule, and nothing else", async () => {
  const [strict, lax] = [await newShop(server, "Strict"), await newShop(server, "Lax")];
  const settings = (await server.people.shop(strict.foreman.shopId))?.settings;
  await server.people.changeSettings(strict.foreman.shopId, { ...settings, keepPhotosMonths: 6, keepClosedJobsMonths: 24 } as never);
  const made = async (who: typeof strict.technician, { closed, monthsOld }: { closed: boolean; monthsOld: number }): Promise<{ id: string; photo: string }> => {
    const id = await newJob(server, who);
    const photo = randomUUID();
    await server.attachments.putPhoto({ shopId: who.shopId, jobId: id }, photo, PNG);
    await server.pool.query("update photos set received_at = now() - make_interval(months => $2) where job_id = $1", [id, monthsOld]);
    await server.pool.query("update jobs set stage = $3, updated_at = now() - make_interval(months => $2) where id = $1", [
      id,
      monthsOld,
      closed ? "closed" : "bench",
    ]);
    return { id, photo };
  };
  const [oldClosed, oldOpen, fresh, elsewhere] = [
    await made(strict.technician, { closed: true, monthsOld: 25 }),
    await made(strict.technician, { closed: false, monthsOld: 25 }),
    await made(strict.technician, { closed: true, monthsOld: 5 }),
    await made(lax.technician, { closed: true, monthsOld: 99 }),
  ];
  expect(await server.removals.sweep()).toEqual({ photos: 2, jobs: 1 });
  const here = async ({ id, photo }: { id: string; photo: string }, { shopId }: typeof strict.technician, as: typeof strict.foreman) => [
    (await server.jobs.find(as, id)) !== null,
    (await server.attachments.photo({ shopId, jobId: id }, photo)) !== null,
  ];
  expect(await here(oldClosed, strict.technician, strict.foreman)).toEqual([false, false]);
  expect(await here(oldOpen, strict.technician, strict.foreman)).toEqual([true, false]);
  expect(await here(fresh, strict.technician, strict.foreman)).toEqual([true, true]);
  expect(await here(elsewhere, lax.technician, lax.foreman)).toEqual([true, true]);
  expect((await server.removals.list(strict.foreman.shopId)).map(({ what, by }) => [what, by])).toEqual([
    ["job", "the shop's rule"],
    ["photo", "the shop's rule"],
    ["photo", "the shop's rule"],
  ]);
});

it("what cannot leave its trace is not removed", async () => {
  const { technician, foreman } = await newShop(server, "Trace");
  const id = await newJob(server, technician);
  const key = { shopId: technician.shopId, jobId: id };
  const photo = randomUUID();
  await server.attachments.putPhoto(key, photo, PNG);
  await server.people.change(technician.shopId, technician.id, { active: false });
  // The trace is refused by the database itself: a reason is never null.
  const no = null as unknown as string;
  await expect(server.removals.photo({ ...key, number: 1 }, photo, foreman, no)).rejects.toThrow();
  await expect(server.removals.job(key, foreman, no)).rejects.toThrow();
  await expect(server.removals.person(technician.shopId, technician.id, "Former technician 1", foreman, no)).rejects.toThrow();
  expect((await server.attachments.photo(key, photo))?.content).toEqual(PNG.content);
  expect((await server.jobs.find(foreman, id))?.entries).toHaveLength(1);
  expect((await server.people.everythingOf(technician.shopId, technician.id))?.person.name).toBe(technician.name);
  expect(await server.removals.list(technician.shopId)).toEqual([]);
});

it("the removed photos of a job are found however much was removed since", async () => {
  const { technician, foreman } = await newShop(server, "Many");
  const id = await newJob(server, technician);
  const removed = async (number: number): Promise<string> => {
    const photo = randomUUID();
    await server.attachments.putPhoto({ shopId: technician.shopId, jobId: id }, photo, PNG);
    await server.removals.photo({ shopId: technician.shopId, jobId: id, number }, photo, foreman, "not ours");
    return photo;
  };
  const first = await removed(1);
  await server.pool.query(
    "insert into removals (shop_id, id, what, subject, job_number, by, reason) select $1, gen_random_uuid(), 'photo', gen_random_uuid(), 2, 'x', 'y' from generate_series(1, 300)",
    [technician.shopId],
  );
  expect((await server.removals.photosOf(technician.shopId, 1)).map(({ subject }) => subject)).toEqual([first]);
  expect(await server.removals.list(technician.shopId)).toHaveLength(200);
});
