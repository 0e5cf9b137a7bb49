import type { NewEntry } from "@fox-lamp/language";
import { eq } from "drizzle-orm";
import fc from "fast-check";
import { entry, newJob, newServer, newShop, reading, rules, serverOn, type TestServer } from "../../test/house";
import { jobHeads, jobs } from "./schema";

let server: TestServer;
let shop: Awaited<ReturnType<typeof newShop>>;
beforeAll(async () => {
  server = await newServer();
  shop = await newShop(server);
});
afterAll(() => server.close());

async function columns(id: string): Promise<object> {
  const [{ updatedAt: _touched, createdAt: _made, ...rest } = {} as never] = await server.database.select().from(jobs).where(eq(jobs.id, id));
  return rest;
}
const summary = async (id: string) => (await server.jobs.list(shop.technician, {})).find((job) => job.id === id);

describe("what lists show of a job", () => {
  it("follows entries that change it at once, and counts readings soon after", async () => {
    const id = await newJob(server, shop.technician);
    await server.entries.append(shop.technician, id, [entry("stage", { stage: "codes" }), entry("code", { code: "P0118" })], rules);
    expect(await summary(id)).toMatchObject({ stage: "codes", codes: ["P0118"], readings: 0 });
    await server.entries.append(shop.technician, id, [reading(4.9), reading(4.8)], rules);
    await server.projection.follow({ shopId: shop.technician.shopId, jobId: id });
    expect(await summary(id)).toMatchObject({ readings: 2 });
    expect((await server.jobs.list(shop.technician, { words: ["p0118", "904"] })).map((job) => job.id)).toContain(id);
  });

  it("is the same however it was followed, and made anew from nothing", async () => {
    const kinds = fc.constantFrom("reading", "replace", "note", "stage", "code", "retract", "repair", "decide", "wait");
    await fc.assert(
      fc.asyncProperty(fc.array(fc.tuple(kinds, fc.boolean()), { minLength: 1, maxLength: 14 }), async (steps) => {
        const id = await newJob(server, shop.technician);
        const key = { shopId: shop.technician.shopId, jobId: id };
        const readings: string[] = [];
        for (const [kind, now] of steps) {
          const last = readings.at(-1);
          const made = ((): NewEntry => {
            switch (kind) {
              case "reading":
                return reading(readings.length);
              case "replace":
                return last === undefined ? reading(0) : reading(9, { replaces: last });
              case "retract":
                return last === undefined ? entry("note", { text: "nothing" }) : entry("retraction", { entry: last });
              case "stage":
                return entry("stage", { stage: readings.length % 2 ? "codes" : "bench" });
              case "code":
                return entry("code", { code: `P01${10 + readings.length}` });
              case "repair":
                return entry("repair", { text: "contact cleaned", part: { number: "A-1" } });
              case "decide":
                return entry("decision", { decision: "proven", unit: "ect/sensor", probability: 0.98 });
              case "wait":
                return entry("waiting", { for: readings.length % 2 ? "part" : null });
              default:
                return entry("note", { text: "x" });
            }
          })();
          await server.entries.append(shop.technician, id, [made], rules);
          if (made.kind === "reading") readings.push(made.id);
          if (now) await server.projection.follow(key);
        }
        await server.projection.follow(key);
        const followed = await columns(id);
        await server.database.update(jobHeads).set({ folded: 0 }).where(eq(jobHeads.jobId, id));
        await server.projection.follow(key);
        expect(await columns(id)).toEqual(followed);
      }),
      { numRuns: 25 },
    );
  });

  it("is brought up to date, and told of, by whichever server is left when one died before it did", async () => {
    const id = await newJob(server, shop.technician);
    const dying = serverOn(server.url);
    await dying.entries.append(shop.technician, id, [reading(4.9)], rules);
    await dying.pool.end();
    expect(await summary(id)).toMatchObject({ readings: 0 });
    expect(await server.projection.sweep()).toBeGreaterThan(0);
    expect(await summary(id)).toMatchObject({ readings: 1 });
    expect(server.told).toContainEqual({ job: id, seq: 2 });
    expect(await server.projection.sweep()).toBe(0);
  });

  it("counts every reading once where two servers follow one job at the same moment", async () => {
    const id = await newJob(server, shop.technician);
    const other = serverOn(server.url);
    const key = { shopId: shop.technician.shopId, jobId: id };
    for (let round = 1; round <= 15; round += 1) {
      await Promise.all([server, other].map((each) => each.entries.append(shop.technician, id, [reading(round)], rules)));
      await Promise.all([server, other, server].map((each) => each.projection.follow(key)));
    }
    await other.close();
    expect(await summary(id)).toMatchObject({ readings: 30 });
  });

  it("is made anew for a whole shop without touching when it was touched", async () => {
    const id = await newJob(server, shop.technician);
    const before = await summary(id);
    await server.database.update(jobs).set({ title: "spoilt", readings: 99 }).where(eq(jobs.id, id));
    expect(await server.projection.rebuild(shop.technician.shopId)).toBeGreaterThan(0);
    expect(await summary(id)).toEqual(before);
  });
});
