import { randomUUID } from "node:crypto";
import { BadInput, MOST_CAPTURE_BYTES, type StoredCapture } from "@fox-lamp/language";
import { newJob, newServer, newShop, rules, type TestServer } from "../../test/house";

let server: TestServer;
beforeAll(async () => {
  server = await newServer();
});
afterAll(() => server.close());

const CAPTURE: StoredCapture = {
  title: "Crank while it dies",
  source: "file",
  start: 0,
  rate: 1000,
  length: 3,
  channels: [{ name: "sig", unit: "V", circuit: "crank", red: "sig@sensor", black: "bat-" }],
  setup: { key: "crank" },
  analysis: { channels: [], firstToFail: null, camCrank: { degrees: [], shiftDegrees: null }, findings: [] },
};

async function freshJob(): Promise<{ shopId: string; jobId: string }> {
  const { technician } = await newShop(server, `Shop ${randomUUID()}`);
  return { shopId: technician.shopId, jobId: await newJob(server, technician) };
}

it("a capture comes in parts, in any order and as often as they are sent", async () => {
  const job = await freshJob();
  const id = randomUUID();
  expect(await server.captures.putPart(job, id, "0-0", Buffer.from([1]))).toBe(false);
  await server.captures.put(job, id, CAPTURE);
  await server.captures.put(job, id, { ...CAPTURE, title: "again" });
  expect(await server.captures.putPart(job, id, "0-p", Buffer.from([1, 2]))).toBe(true);
  expect(await server.captures.putPart(job, id, "0-0", Buffer.from([3]))).toBe(true);
  expect(await server.captures.putPart(job, id, "0-0", Buffer.from([9]))).toBe(true);
  expect(await server.captures.find(job, id)).toMatchObject({ title: "Crank while it dies", parts: expect.arrayContaining(["0-0", "0-p"]) });
  expect(await server.captures.part(job, id, "0-0")).toEqual(Buffer.from([3]));
  expect(await server.captures.part(job, id, "0-1")).toBeNull();
});

it("a job of another shop sees none of it", async () => {
  const [job, other] = [await freshJob(), await freshJob()];
  const id = randomUUID();
  await server.captures.put(job, id, CAPTURE);
  expect(await server.captures.find(other, id)).toBeNull();
  expect(await server.captures.putPart(other, id, "0-0", Buffer.from([1]))).toBe(false);
});

it("a capture travels with a job file and comes back the same", async () => {
  const [job, other] = [await freshJob(), await freshJob()];
  const id = randomUUID();
  await server.captures.put(job, id, CAPTURE);
  await server.captures.putPart(job, id, "0-0", Buffer.from([7, 8, 9]));
  const [carried] = await server.captures.all(job);
  expect(carried).toMatchObject({ id, parts: { "0-0": "BwgJ" } });
  const renamed = randomUUID();
  await server.captures.bringIn(other, { ...(carried as NonNullable<typeof carried>), id: renamed });
  expect(await server.captures.find(other, renamed)).toEqual({ ...CAPTURE, parts: ["0-0"] });
  expect(await server.captures.part(other, renamed, "0-0")).toEqual(Buffer.from([7, 8, 9]));
});

it("a capture kept as known good is found from other jobs on the vehicle, and from no other shop", async () => {
  const { technician } = await newShop(server, `Shop ${randomUUID()}`);
  const [first, second] = [await newJob(server, technician), await newJob(server, technician)];
  const id = randomUUID();
  const { shopId } = technician;
  await server.captures.put({ shopId, jobId: first }, id, CAPTURE);
  expect(await server.captures.known({ shopId, jobId: second })).toEqual([]);
  const body = { capture: id, title: CAPTURE.title, seconds: 1, channels: ["sig"], findings: [], known: true };
  await server.entries.append(technician, first, [{ id: randomUUID(), at: "2026-03-02T09:14:00Z", by: "x", kind: "capture", body }], rules);
  const sister = await server.database.execute<{ vehicle_id: string }>(`select vehicle_id from jobs where id = '${first}'`);
  await server.database.execute(`update jobs set vehicle_id = '${sister.rows[0]?.vehicle_id}' where id = '${second}'`);
  expect(await server.captures.known({ shopId, jobId: second })).toMatchObject([{ id, job: first, same: true, title: CAPTURE.title }]);
  expect(await server.captures.known({ shopId, jobId: first })).toEqual([]);
  expect(await server.captures.known(await freshJob())).toEqual([]);
});

it("a capture that is too large is refused with one sentence", async () => {
  const job = await freshJob();
  const id = randomUUID();
  await server.captures.put(job, id, CAPTURE);
  await expect(server.captures.putPart(job, id, "0-0", Buffer.alloc(MOST_CAPTURE_BYTES + 1))).rejects.toThrow(BadInput);
  expect(await server.captures.find(job, id)).toMatchObject({ parts: [] });
});
