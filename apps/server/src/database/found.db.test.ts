import { entry, newJob, newServer, newShop, reading, rules, type TestServer } from "../../test/house";

let server: TestServer;
let shop: Awaited<ReturnType<typeof newShop>>;
beforeAll(async () => {
  server = await newServer();
  shop = await newShop(server);
});
afterAll(() => server.close());

interface Made {
  readonly unit: string;
  readonly model?: string;
  readonly outcome?: "repaired" | "undecided";
  readonly status?: "proven" | "narrowing";
  readonly override?: boolean;
  readonly closed?: boolean;
}

/** A job that ended as is said, on a vehicle of a model. */
async function job({ unit, model = "Skua", outcome = "repaired", status = "proven", override = false, closed = true }: Made): Promise<string> {
  const id = await newJob(server, shop.technician);
  const found = await server.jobs.find(shop.foreman, id);
  await server.vehicles.change(shop.technician.shopId, found?.vehicleId ?? "", { details: { name: "Unit", make: "Orrin", model } });
  await server.entries.append(
    shop.technician,
    id,
    [
      reading(4.9),
      ...(override ? [entry("decision", { decision: "override", unit, probability: 0.4 })] : []),
      entry("decision", { decision: status, unit, probability: 0.98 }),
      ...(closed ? [entry("closing", { outcome: "elsewhere", text: "done there" }), entry("stage", { stage: "closed" })] : []),
    ],
    rules,
  );
  await server.projection.follow({ shopId: shop.technician.shopId, jobId: id });
  // What closing as repaired asks for (codes, repair, drive) is another test's: here only how it is counted.
  if (closed) await server.pool.query("update jobs set outcome = $1 where id = $2", [outcome, id]);
  return id;
}

it("what was found before is counted from closed, proven and repaired jobs, by model and in the shop", async () => {
  await job({ unit: "ect/contact:sig@sensor" });
  await job({ unit: "ect/contact:sig@sensor" });
  await job({ unit: "ect/contact:sig@sensor", model: "Gannet" });
  await job({ unit: "ect/sensor", model: "Gannet" });
  // None of these counts: still open, undecided, replaced against the advice, not proven.
  await job({ unit: "ect/wire:sig", closed: false });
  await job({ unit: "ect/wire:gnd", outcome: "undecided" });
  await job({ unit: "ect/module:pull", override: true });
  await job({ unit: "ect/sensor", status: "narrowing" });
  const asked = await job({ unit: "ect/wire:sig", closed: false });
  const { found = [] } = (await server.jobs.detail(shop.foreman, asked)) ?? {};
  expect(found.map(({ family, unit, model, shop: all }) => [family, unit, model, all])).toEqual([
    ["thermistor-2w", "contact:sig@sensor", 2, 3],
    ["thermistor-2w", "sensor", 0, 1],
  ]);
  const other = await newShop(server, "Elsewhere");
  const theirs = await newJob(server, other.technician);
  expect((await server.jobs.detail(other.foreman, theirs))?.found).toEqual([]);
});

it("a job does not count for itself", async () => {
  const own = await job({ unit: "ect/wire:sig", model: "Plover" });
  const { found = [] } = (await server.jobs.detail(shop.foreman, own)) ?? {};
  expect(found.find(({ unit }) => unit === "wire:sig")).toBeUndefined();
});
