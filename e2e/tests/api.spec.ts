import { randomUUID } from "node:crypto";
import { expect, test } from "@playwright/test";

const note = (text: string, id: string = randomUUID()) => ({ id, at: "2026-03-02T09:14:00Z", by: "Wren", kind: "note", body: { text } });

test.describe("the HTTP interface", () => {
  test("is alive, ready and described", async ({ request }) => {
    expect(await (await request.get("/api/health")).json()).toEqual({ ok: true });
    expect(await (await request.get("/api/ready")).json()).toEqual({ ok: true });
    const document = await (await request.get("/api/openapi.json")).json();
    expect(Object.keys(document.paths)).toEqual(expect.arrayContaining(["/api/jobs", "/api/jobs/{id}", "/api/jobs/{id}/entries"]));
  });

  test("stores an entry once however often it is sent, in the order received", async ({ request }) => {
    const jobs = await (await request.get("/api/jobs")).json();
    const { id } = jobs[0];
    const [first, second] = [note("one"), note("two")];
    const once = await (await request.post(`/api/jobs/${id}/entries`, { data: { entries: [first] } })).json();
    const again = await (await request.post(`/api/jobs/${id}/entries`, { data: { entries: [first, second] } })).json();
    expect(again[0]).toEqual(once[0]);
    expect(again[1].seq).toBe(once[0].seq + 1);
    const { entries } = await (await request.get(`/api/jobs/${id}`)).json();
    expect(entries.filter((entry: { id: string }) => entry.id === first.id)).toHaveLength(1);
    const seqs = entries.map((entry: { seq: number }) => entry.seq);
    expect(seqs).toEqual([...seqs].sort((a, b) => a - b));
  });

  test("keeps every entry of many devices writing at once", async ({ request }) => {
    const jobs = await (await request.get("/api/jobs")).json();
    const { id } = jobs[1];
    const before = (await (await request.get(`/api/jobs/${id}`)).json()).entries.length;
    const answers = await Promise.all(
      Array.from({ length: 20 }, (_, index) => request.post(`/api/jobs/${id}/entries`, { data: { entries: [note(`device ${index}`)] } })),
    );
    expect(answers.every((answer) => answer.ok())).toBe(true);
    const { entries } = await (await request.get(`/api/jobs/${id}`)).json();
    expect(entries).toHaveLength(before + 20);
    expect(new Set(entries.map((entry: { seq: number }) => entry.seq)).size).toBe(entries.length);
  });

  test("refuses what cannot be with one clear sentence", async ({ request }) => {
    const jobs = await (await request.get("/api/jobs")).json();
    const { id } = jobs[0];
    const bad = await request.post(`/api/jobs/${id}/entries`, { data: { entries: [{ ...note("x"), kind: "wish" }] } });
    expect(bad.status()).toBe(400);
    expect(await bad.json()).toMatchObject({ where: "entries[0].kind" });
    const broken = await request.post(`/api/jobs/${id}/entries`, { data: Buffer.from("{ broken"), headers: { "content-type": "application/json" } });
    expect(broken.status()).toBe(400);
    expect((await broken.json()).message).toContain("not JSON");
    const shared = note("shared");
    expect((await request.post(`/api/jobs/${id}/entries`, { data: { entries: [shared] } })).ok()).toBe(true);
    const foreign = await request.post(`/api/jobs/${jobs[1].id}/entries`, { data: { entries: [shared] } });
    expect(foreign.status()).toBe(400);
    expect(await foreign.json()).toMatchObject({ code: "entry:foreign-id", where: "entries[0].id" });
    expect((await request.get(`/api/jobs/${randomUUID()}`)).status()).toBe(404);
    expect((await request.get("/api/jobs/seven")).status()).toBe(400);
    expect((await request.get("/api/nothing")).status()).toBe(404);
  });

  test("holds the rules of a job, whoever sends", async ({ request }) => {
    const entry = (kind: string, body: object) => ({ id: randomUUID(), at: "2026-03-02T09:14:00Z", by: "Wren", kind, body });
    const ect = { id: "ect", family: "thermistor-2w", title: "Coolant temperature" };
    const iat = { id: "iat", family: "thermistor-2w", title: "Intake air" };
    const read = (circuit: string, red = "sig@sensor") =>
      entry("reading", { reading: { circuit, meter: "volts-dc", red, black: "bat-", setup: { key: "on" }, value: 4.98 } });
    const made = await request.post("/api/jobs", {
      data: { vehicle: { name: "Rules" }, circuits: [ect, iat], entries: [entry("complaint", { text: "runs cold" })] },
    });
    expect(made.ok(), await made.text()).toBe(true);
    const { id } = await made.json();
    const send = (...entries: object[]) => request.post(`/api/jobs/${id}/entries`, { data: { entries } });
    const refused = async (code: string, ...entries: object[]) => {
      const answer = await send(...entries);
      expect(answer.status(), code).toBe(400);
      const problem = await answer.json();
      expect(problem.code).toBe(code);
      expect(problem.where).toMatch(/^entries\[\d\]/u);
      return problem.message as string;
    };

    // A reading needs a circuit and leads that exist.
    expect(await refused("reading:misplaced", read("egr"))).toContain('"egr"');
    await refused("reading:misplaced", read("ect", "ref@sensor"));
    const reading = read("ect");
    expect((await send(reading)).ok()).toBe(true);

    // A circuit that was read stays on the sheet until its readings are taken back.
    expect(await refused("circuit:read", entry("circuit", { remove: "ect" }))).toBe(
      "Coolant temperature has readings (r1): take them back first, or leave it on the sheet",
    );
    expect((await send(entry("circuit", { remove: "iat" }))).ok()).toBe(true);
    expect((await (await request.get(`/api/jobs/${id}`)).json()).circuits.map((circuit: { id: string }) => circuit.id)).toEqual(["ect"]);

    // Stages and ends ask for what they stand on.
    await refused("stage:too-early", entry("stage", { stage: "repair" }));
    await refused("stage:too-early", entry("stage", { stage: "closed" }));
    expect(await refused("closing:lacking", entry("closing", { outcome: "repaired" }))).toContain("a repair");
    await refused("closing:lacking", entry("closing", { outcome: "not-reproduced", plan: " " }));
    await refused("entry:unknown", entry("retraction", { entry: randomUUID() }));

    // Nothing of what was refused was stored; a refusal takes the whole lot with it.
    await refused("reading:misplaced", entry("note", { text: "with it" }), read("egr"));
    const { entries } = await (await request.get(`/api/jobs/${id}`)).json();
    expect(entries.map((one: { kind: string }) => one.kind)).toEqual(["complaint", "reading", "circuit"]);

    // A check that fails keeps the job from being closed as repaired.
    const verification = (check: string, fits: boolean) => entry("verification", { text: check, check, fits });
    const decision = entry("decision", { decision: "proven", unit: "ect/sensor", probability: 0.98, because: ["r1"] });
    const again = (fits: boolean) => entry("verification", { text: "again", check: "repeat", of: reading.id, fits });
    const tasks = ["compare-part", "seat", "torque", "contamination"].map((task) => entry("task", { task: `${task} ect/sensor`, done: true }));
    const work = [decision, entry("stage", { stage: "check" }), entry("repair", { text: "sensor replaced", unit: "ect/sensor" }), ...tasks];
    expect((await send(...work, verification("drive", true), verification("complaint", true), again(false))).ok()).toBe(true);
    expect(await refused("closing:lacking", entry("closing", { outcome: "repaired" }))).toContain("why it is closed although something is still outside");
    expect((await send(again(true), entry("closing", { outcome: "repaired" }), entry("stage", { stage: "closed" }))).ok()).toBe(true);
  });

  test("tells a device only what it has not seen", async ({ request }) => {
    const [{ id }] = await (await request.get("/api/jobs")).json();
    const { entries } = await (await request.get(`/api/jobs/${id}`)).json();
    const { seq } = entries.at(-1);
    const [first] = await (await request.post(`/api/jobs/${id}/entries`, { data: { entries: [note("later")] } })).json();
    const since = await (await request.get(`/api/jobs/${id}/entries?after=${seq}`)).json();
    expect(since.map((one: { id: string }) => one.id)).toEqual([first.id]);
    expect(await (await request.get(`/api/jobs/${id}/entries?after=${first.seq}`)).json()).toEqual([]);
    expect((await request.get(`/api/jobs/${id}/entries?after=soon`)).status()).toBe(400);
  });
});
