import { randomUUID } from "node:crypto";
import { type APIRequestContext, expect, test } from "@playwright/test";

interface Summary {
  readonly id: string;
  readonly number: number;
  readonly title: string;
  readonly stage: string;
  readonly codes: string[];
  readonly readings: number;
  readonly vehicle: { readonly name?: string };
  readonly updatedAt: string;
}

const AT = "2026-03-02T09:14:00Z";
const entry = (kind: string, body: unknown, id: string = randomUUID()) => ({ id, at: AT, by: "somebody else", kind, body });
const COOLANT = [{ id: "ect", family: "thermistor-2w", title: "Coolant temperature" }];

async function jobs(request: APIRequestContext, q = ""): Promise<Summary[]> {
  return (await request.get(`/api/jobs?q=${encodeURIComponent(q)}`)).json();
}

async function made(request: APIRequestContext, data: Record<string, unknown> = {}): Promise<string> {
  const answer = await request.post("/api/jobs", {
    data: { vehicle: { name: `Mower ${randomUUID().slice(0, 8)}` }, circuits: COOLANT, entries: [entry("complaint", { text: "Runs cold" })], ...data },
  });
  expect(answer.status(), await answer.text()).toBe(200);
  return (await answer.json()).id;
}

test.describe("jobs", () => {
  test("are found by vehicle, code, words of the complaint and part, every word of them", async ({ request }) => {
    const name = `Sweeper ${randomUUID().slice(0, 8)}`;
    const id = await made(request, {
      vehicle: { name, plate: "TB 777 QX" },
      entries: [entry("complaint", { text: "Whistles at the quarry gate" }), entry("code", { code: "P0118", status: "current" })],
    });
    for (const words of [name, "TB 777 QX", "P0118 quarry", "whistles gate", `coolant ${name.split(" ")[1]}`])
      expect((await jobs(request, words)).map((job) => job.id)).toContain(id);
    expect((await jobs(request, `${name} P0117`)).map((job) => job.id)).not.toContain(id);
    const [found] = await jobs(request, name);
    expect(found).toMatchObject({ title: "Coolant temperature", codes: ["P0118"], readings: 0, stage: "complaint" });
  });

  test("stand in the yard by stage, each once, as many as the yard says", async ({ request }) => {
    const yard: { stage: string; count: number; jobs: Summary[] }[] = await (await request.get("/api/yard")).json();
    expect(yard.map(({ stage }) => stage)).toEqual(["complaint", "codes", "triage", "bench", "repair", "check", "closed"]);
    for (const { stage, count, jobs: shown } of yard) {
      expect(count).toBeGreaterThanOrEqual(shown.length);
      expect(new Set(shown.map((job) => job.stage))).toEqual(new Set(shown.length === 0 ? [] : [stage]));
      const dates = shown.map(({ updatedAt }) => updatedAt);
      expect(dates).toEqual([...dates].sort().reverse());
    }
    const ids = yard.flatMap(({ jobs: shown }) => shown.map(({ id }) => id));
    expect(new Set(ids).size).toBe(ids.length);
  });

  test("carry the name of who was signed in, whatever was sent", async ({ request }) => {
    const id = await made(request);
    const job = await (await request.get(`/api/jobs/${id}`)).json();
    expect(job.entries[0]).toMatchObject({ kind: "complaint", by: "Wren Halloran", body: { text: "Runs cold" } });
    expect(job.assignedTo === null || typeof job.assignedTo === "string").toBe(true);
  });

  test("have numbers that never repeat, made one after another or at once", async ({ request }) => {
    const ids = await Promise.all(Array.from({ length: 6 }, () => made(request)));
    const numbers = await Promise.all(ids.map(async (id) => (await (await request.get(`/api/jobs/${id}`)).json()).number as number));
    expect(new Set(numbers).size).toBe(numbers.length);
  });

  test("of a vehicle of the register are its history, and its details are kept up to date", async ({ request }) => {
    const name = `Crane ${randomUUID().slice(0, 8)}`;
    await made(request, { vehicle: { name, make: "Orrin", model: "Derrick" } });
    const [vehicle] = await (await request.get(`/api/vehicles?q=${encodeURIComponent(name)}`)).json();
    expect(vehicle.details).toMatchObject({ name, make: "Orrin" });
    const again = await made(request, { vehicleId: vehicle.id, vehicle: { mileageKm: 71_200 } });
    const file = await (await request.get(`/api/vehicles/${vehicle.id}`)).json();
    expect(file.jobs.map((job: Summary) => job.id)).toContain(again);
    expect(file.jobs).toHaveLength(2);
    expect(file.details).toMatchObject({ name, mileageKm: 71_200 });
    const changed = await request.patch(`/api/vehicles/${vehicle.id}`, { data: { details: { ...file.details, plate: "TB 1 CR" } } });
    expect((await changed.json()).details.plate).toBe("TB 1 CR");
    expect((await request.get(`/api/vehicles/${randomUUID()}`)).status()).toBe(404);
    expect((await request.post("/api/jobs", { data: { vehicleId: randomUUID(), entries: [entry("complaint", { text: "x" })] } })).status()).toBe(404);
  });

  test("are refused with the place of what cannot be, and nothing of them is stored", async ({ request }) => {
    const before = (await jobs(request)).length;
    const cases: [Record<string, unknown>, string][] = [
      [{ entries: [] }, "entries"],
      [{ circuits: [{ id: "ect", family: "no-such-family" }] }, "circuits[0].family"],
      [{ circuits: [{ id: "ect", family: "thermistor-2w", with: { pullup: -5 } }] }, "circuits[0].with.pullup"],
      [{ entries: [{ ...entry("complaint", { text: "x" }), at: "yesterday" }] }, "entries[0].at"],
      [{ entries: [entry("circuit", { circuit: { id: "map", family: "no-such-family" } })] }, "entries[0].body.circuit.family"],
    ];
    for (const [data, where] of cases) {
      const answer = await request.post("/api/jobs", {
        data: { vehicle: { name: "Never" }, circuits: COOLANT, entries: [entry("complaint", { text: "x" })], ...data },
      });
      expect(answer.status(), where).toBe(400);
      const problem = await answer.json();
      expect(problem.where).toContain(where);
      expect(problem.message.length).toBeGreaterThan(8);
    }
    expect((await jobs(request)).length).toBe(before);
  });
});

test.describe("instruments", () => {
  const volts = (red: string) => ({ circuit: "ect", meter: "volts-dc", red, black: "bat-", setup: {} });

  test("of a virtual car read all measurements of a question in one moment, and no real car's", async ({ request }) => {
    const demo = (await jobs(request, "Unit 7")).find(({ vehicle }) => vehicle.name === "Unit 7");
    const job = await (await request.get(`/api/jobs/${demo?.id}`)).json();
    const { id: circuit } = job.circuits[0];
    const question = { measurements: [volts("sig@sensor"), volts("gnd@sensor")].map((one) => ({ ...one, circuit })) };
    const answer = await request.post(`/api/jobs/${job.id}/instruments`, { data: question });
    expect(answer.status(), await answer.text()).toBe(200);
    const { values } = await answer.json();
    expect(values).toHaveLength(2);
    for (const value of values) expect(typeof value).toBe("number");
    const real = await made(request);
    const refused = await request.post(`/api/jobs/${real}/instruments`, { data: { measurements: [volts("sig@sensor")] } });
    expect(refused.status()).toBe(409);
    expect(await refused.json()).toMatchObject({ code: "instrument:real-car" });
    expect((await request.post(`/api/jobs/${real}/scan`, { data: { do: "codes" } })).status()).toBe(409);
  });

  test("say where a lead cannot be", async ({ request }) => {
    const [demo] = await jobs(request, "Unit 7");
    const answer = await request.post(`/api/jobs/${demo?.id}/instruments`, {
      data: { measurements: [{ meter: "volts-dc", red: "nowhere@moon", black: "bat-", setup: {} }] },
    });
    expect(answer.status()).toBe(400);
    expect((await answer.json()).where).toContain("red");
  });

  test("the scan adapter gives codes and a recording whose channels are as long as its time", async ({ request }) => {
    const [demo] = await jobs(request, "Unit 8");
    const { codes } = await (await request.post(`/api/jobs/${demo?.id}/scan`, { data: { do: "codes" } })).json();
    for (const { code } of codes) expect(code).toMatch(/^[PBCU][0-9A-F]{4}/u);
    const { recording } = await (await request.post(`/api/jobs/${demo?.id}/scan`, { data: { do: "live", seconds: 5 } })).json();
    expect(recording.channels.length).toBeGreaterThan(0);
    for (const { values } of recording.channels) expect(values).toHaveLength(recording.seconds.length);
    expect(recording.seconds).toEqual([...recording.seconds].sort((a: number, b: number) => a - b));
    expect((await request.post(`/api/jobs/${demo?.id}/scan`, { data: { do: "dance" } })).status()).toBe(400);
  });
});

test.describe("call-outs", () => {
  test("show on any device what the bench put there, last one wins", async ({ request, playwright, baseURL }) => {
    const [demo] = await jobs(request, "Unit 7");
    const { code } = await (await request.post("/api/callouts", { data: { job: demo?.id } })).json();
    expect(code).toMatch(/^[A-Z0-9]{10}$/u);
    const state = {
      job: demo?.id,
      vehicle: "Unit 7",
      title: "Signal",
      how: "DC volts",
      low: 2.1,
      high: 3.2,
      unit: "V",
      word: null,
      value: null,
      taken: false,
      fits: null,
    };
    expect((await request.get(`/api/callouts/${code}`)).status()).toBe(204);
    for (const value of [2.4, 2.6]) expect((await request.put(`/api/callouts/${code}`, { data: { ...state, value } })).status()).toBe(200);
    const stranger = await playwright.request.newContext({ ...(baseURL === undefined ? {} : { baseURL }), storageState: { cookies: [], origins: [] } });
    expect(await (await stranger.get(`/api/callouts/${code}`)).json()).toMatchObject({ value: 2.6, low: 2.1, unit: "V" });
    expect((await stranger.put(`/api/callouts/${code}`, { data: state })).status()).toBe(401);
    expect((await stranger.delete(`/api/callouts/${code}`)).status()).toBe(401);
    expect((await stranger.get("/api/callouts/ZZZZZZ2345")).status()).toBe(404);
    expect((await stranger.get("/api/jobs")).status()).toBe(401);
    expect((await request.put(`/api/callouts/${code}`, { data: { ...state, job: randomUUID() } })).status()).toBe(404);
    // A code is the server's own: nobody puts something up under one he made up.
    expect((await request.put("/api/callouts/MADEUPCODE", { data: state })).status()).toBe(404);
    expect((await request.delete(`/api/callouts/${code}`)).status()).toBe(200);
    expect((await stranger.get(`/api/callouts/${code}`)).status()).toBe(404);
    // Whoever tries codes is stopped soon.
    const guesser = await playwright.request.newContext({
      ...(baseURL === undefined ? {} : { baseURL }),
      storageState: { cookies: [], origins: [] },
      extraHTTPHeaders: { "x-forwarded-for": "10.9.9.9" },
    });
    const tried: number[] = [];
    for (let guess = 0; guess < 40; guess += 1) tried.push((await guesser.get(`/api/callouts/GUESS${String(10_000 + guess)}`)).status());
    expect([tried[0], tried.at(-1)]).toEqual([404, 429]);
    await Promise.all([stranger.dispose(), guesser.dispose()]);
  });
});

test.describe("attachments", () => {
  // The smallest picture there is: one pixel.
  const PIXEL = Buffer.from("iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==", "base64");

  test("are what was put there, of pictures and recordings alone", async ({ request }) => {
    const id = await made(request);
    const photo = randomUUID();
    expect((await request.put(`/api/jobs/${id}/photos/${photo}`, { data: PIXEL, headers: { "content-type": "image/png" } })).status()).toBe(200);
    const back = await request.get(`/api/jobs/${id}/photos/${photo}`);
    expect(back.headers()["content-type"]).toBe("image/png");
    expect((await back.body()).equals(PIXEL)).toBe(true);
    const words = await request.put(`/api/jobs/${id}/photos/${randomUUID()}`, { data: Buffer.from("a letter"), headers: { "content-type": "image/png" } });
    expect(words.status()).toBe(400);
    expect(await words.json()).toMatchObject({ code: "photo:type" });
    const recording = { title: "Idle", seconds: [0, 1], channels: [{ name: "ect.sig", circuit: "ect", unit: "degC", values: [20, null] }] };
    const name = randomUUID();
    expect((await request.put(`/api/jobs/${id}/recordings/${name}`, { data: recording })).status()).toBe(200);
    expect(await (await request.get(`/api/jobs/${id}/recordings/${name}`)).json()).toEqual(recording);
    expect((await request.get(`/api/jobs/${id}/recordings/${randomUUID()}`)).status()).toBe(404);
    // Whoever knows a name does not get it through another job.
    expect((await request.get(`/api/jobs/${await made(request)}/recordings/${name}`)).status()).toBe(404);
  });

  test("of more than a photo's size are refused in one sentence", async ({ request }) => {
    const id = await made(request);
    const large = await request.put(`/api/jobs/${id}/photos/${randomUUID()}`, {
      data: Buffer.concat([PIXEL, Buffer.alloc(3_100_000)]),
      headers: { "content-type": "image/png" },
    });
    expect(large.status()).toBe(413);
    expect(await large.json()).toMatchObject({ code: "body:too-large", where: "photo" });
  });
});
