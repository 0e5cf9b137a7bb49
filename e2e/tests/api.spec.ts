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
});
