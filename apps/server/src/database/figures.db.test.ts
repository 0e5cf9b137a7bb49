import { entry, newJob, newServer, newShop, reading, rules, type TestServer } from "../../test/house";

let server: TestServer;
let shop: Awaited<ReturnType<typeof newShop>>;
const at = (minute: number): string => new Date(Date.UTC(2026, 2, 2, 9, minute)).toISOString();
/** An entry of a minute of the same morning. */
const timed = <T extends object>(made: T, minute: number): T => ({ ...made, at: at(minute) });

/** A job that was proven after so many minutes on the clock. */
async function provenJob(unit: string, minutes: number, codes: readonly string[] = [], close = false): Promise<string> {
  const id = await newJob(server, shop.technician);
  const entries = [
    ...codes.map((code) => entry("code", { code })),
    timed(reading(4.9), 0),
    timed(entry("decision", { decision: "proven", unit, probability: 0.98 }), minutes),
    ...(close ? [entry("closing", { outcome: "elsewhere", text: "done there" }), entry("stage", { stage: "closed" })] : []),
  ];
  await server.entries.append(shop.technician, id, entries, rules);
  await server.projection.follow({ shopId: shop.technician.shopId, jobId: id });
  return id;
}

beforeAll(async () => {
  server = await newServer();
  shop = await newShop(server);
  await provenJob("ect/sensor", 10);
  await provenJob("ect/wire:sig", 20);
  await provenJob("ect/contact:sig@sensor", 60, ["P0118"], true);
  const open = await newJob(server, shop.foreman);
  await server.entries.append(shop.foreman, open, [entry("decision", { decision: "override", unit: "ect/sensor", probability: 0.4 })], rules);
  await server.projection.follow({ shopId: shop.foreman.shopId, jobId: open });
});
afterAll(() => server.close());

describe("figures", () => {
  const of = (asked = {}) => server.figures.of(shop.foreman.shopId, 60, asked);
  it("count the middle of the minutes on the clock, and only parts that were not at fault as saved", async () => {
    const figures = await of();
    expect(figures).toMatchObject({ jobs: 4, proven: 3, closed: 1, clockMinutes: 20, clocked: 3, partsSaved: 2, partMinutes: 40, moneySaved: 80 });
    expect(figures.families).toEqual(["thermistor-2w"]);
    expect(figures.months.reduce((sum, { opened }) => sum + opened, 0)).toBe(4);
    expect(figures.overrides).toEqual([expect.objectContaining({ unit: "ect/sensor", right: null })]);
    expect(figures.outcomes).toEqual({ elsewhere: 1 });
  });
  it("are of the person, the vehicle, the family and the time that are asked for", async () => {
    expect((await of({ person: shop.foreman.id })).jobs).toBe(1);
    expect((await of({ vehicle: "unit 904" })).jobs).toBe(4);
    expect((await of({ vehicle: "launch" })).jobs).toBe(0);
    expect((await of({ family: "thermistor-2w" })).jobs).toBe(3);
    expect((await of({ family: "hall-3w" })).proven).toBe(0);
    const today = new Date().toISOString().slice(0, 10);
    expect((await of({ from: "2020-01-01", to: today })).jobs).toBe(4);
    expect((await of({ to: "2020-01-01" })).jobs).toBe(0);
  });
  it("are of one shop: another has its own", async () => {
    const other = await newShop(server, "Elsewhere");
    expect(await server.figures.of(other.foreman.shopId, 60)).toMatchObject({ jobs: 0, clockMinutes: null, months: [], families: [] });
  });
  it("stand row by row for a table, the latest first", async () => {
    const rows = await server.figures.rows(shop.foreman.shopId);
    expect(rows.map(({ unit }) => unit)).toEqual([null, "ect/contact:sig@sensor", "ect/wire:sig", "ect/sensor"]);
    expect(rows[1]).toMatchObject({
      vehicle: "Unit 9 TB 904",
      circuits: "Coolant temperature",
      codes: "P0118",
      stage: "closed",
      outcome: "elsewhere",
      minutes: 60,
      readings: 1,
    });
    expect(rows[1]?.opened).toMatch(/^\d{4}-\d\d-\d\d$/u);
  });
});

describe("the yard", () => {
  const asked = { words: [] };
  const ids = async (more: object): Promise<number[]> => (await server.jobs.list(shop.foreman, { ...asked, ...more })).map(({ number }) => number);
  it("filters by person, code and how long nobody touched a job", async () => {
    expect(await ids({ person: shop.foreman.id })).toHaveLength(1);
    expect(await ids({ person: "nobody" })).toEqual([]);
    expect(await ids({ code: "p0118" })).toHaveLength(1);
    expect(await ids({ idleDays: 0 })).toHaveLength(4);
    expect(await ids({ idleDays: 3 })).toEqual([]);
  });
  it("knows what waits for what since when, and what is promised when, in that order", async () => {
    const [first, second, third] = (await server.jobs.list(shop.foreman, asked)).map(({ id }) => id) as [string, string, string];
    const append = async (id: string, ...entries: Parameters<typeof server.entries.append>[2]) => {
      await server.entries.append(shop.foreman, id, entries, rules);
      await server.projection.follow({ shopId: shop.foreman.shopId, jobId: id });
    };
    await append(first, timed(entry("waiting", { for: "part" }), 50), entry("promised", { at: "2026-03-09T16:00:00.000Z" }));
    await append(second, timed(entry("waiting", { for: "customer" }), 10), timed(entry("waiting", { for: "customer", text: "again" }), 30));
    await append(third, entry("promised", { at: "2026-03-04T08:00:00.000Z" }));
    expect((await server.jobs.list(shop.foreman, { ...asked, waiting: "any", sort: "waiting" })).map(({ id }) => id)).toEqual([second, first]);
    expect((await server.jobs.list(shop.foreman, { ...asked, waiting: "part" })).map(({ id, waitingSince }) => [id, waitingSince])).toEqual([[first, at(50)]]);
    // Said again, it waits since it was said first.
    expect((await server.jobs.list(shop.foreman, { ...asked, waiting: "customer" }))[0]?.waitingSince).toBe(at(10));
    const promised = await server.jobs.list(shop.foreman, { ...asked, promised: true, sort: "promised" });
    const open = promised.filter(({ stage }) => stage !== "closed").map(({ id }) => id);
    expect(open).toEqual([third, first].filter((id) => promised.some((job) => job.id === id)));
    await append(third, entry("promised", { at: null }));
    expect((await server.jobs.list(shop.foreman, { ...asked, promised: true })).map(({ id }) => id)).not.toContain(third);
  });
});

describe("a vehicle", () => {
  it("remembers what its latest closed job left undecided, and forgets it once a later one settles", async () => {
    const id = await newJob(server, shop.technician);
    const [{ vehicleId } = { vehicleId: "" }] = (
      await server.pool.query<{ vehicleId: string }>('select vehicle_id as "vehicleId" from jobs where id = $1', [id])
    ).rows;
    const left = {
      units: [
        { unit: "ect/sensor", probability: 0.55 },
        { unit: "ect/wire:sig", probability: 0.4 },
      ],
    };
    const shopId = shop.technician.shopId;
    expect(await server.jobs.leftOpenOn(shopId, vehicleId)).toBeNull();
    const undecided = entry("closing", { outcome: "undecided", left, plan: "come back when hot" });
    await server.entries.append(shop.technician, id, [undecided, entry("stage", { stage: "closed" })], rules);
    await server.projection.follow({ shopId, jobId: id });
    expect(await server.jobs.leftOpenOn(shopId, vehicleId)).toEqual(left);
    expect(await server.jobs.leftOpenOn((await newShop(server, "Third")).foreman.shopId, vehicleId)).toBeNull();
    await server.entries.append(shop.technician, id, [entry("closing", { outcome: "elsewhere", text: "found there" })], rules);
    await server.projection.follow({ shopId, jobId: id });
    expect(await server.jobs.leftOpenOn(shopId, vehicleId)).toBeNull();
  });
});
