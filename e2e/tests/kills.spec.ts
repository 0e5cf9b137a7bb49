import { randomUUID } from "node:crypto";
import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { chromium, expect, request, test } from "@playwright/test";
import { CHROMIUM, CHROMIUM_FLAGS, killBrowserOn } from "../browser";
import { newDatabase, startServer } from "../servers";

const BASE = process.env["BASE_URL"] ?? "http://127.0.0.1:4680";
/** KILLS=100 does as many; a few show every time that it holds. */
const SERVER_KILLS = Number(process.env["KILLS"] ?? 5);
const BROWSER_KILLS = Math.max(2, Math.round(SERVER_KILLS / 2));

const note = (text: string) => ({ id: randomUUID(), at: "2026-03-02T09:14:00Z", by: "x", kind: "note", body: { text } });
const sleep = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

test("a server that is killed under load loses nothing it acknowledged, and stores nothing twice", async () => {
  test.setTimeout(120_000 + SERVER_KILLS * 10_000);
  const database = await newDatabase();
  let running = await startServer(database);
  const { port, url } = running;
  const device = await request.newContext({ baseURL: url, extraHTTPHeaders: { origin: url }, storageState: { cookies: [], origins: [] } });
  expect((await device.post("/api/auth/sign-in/username", { data: { username: "wren", password: "lamp-on-the-bench" } })).ok()).toBe(true);
  const [{ id }] = await (await device.get("/api/jobs")).json();
  const kept: string[] = [];
  let sent = 0;
  try {
    for (let kill = 0; kill < SERVER_KILLS; kill += 1) {
      // Every device sends until it is acknowledged, as the outbox does: the same entry again where no answer came.
      let over = false;
      const writers = Array.from({ length: 6 }, async (_, writer) => {
        for (let turn = 0; !over; turn += 1) {
          const entry = note(`kill ${kill} writer ${writer} turn ${turn}`);
          sent += 1;
          for (let tries = 0; tries < 200; tries += 1) {
            const answer = await device.post(`/api/jobs/${id}/entries`, { data: { entries: [entry] }, timeout: 5000 }).catch(() => null);
            if (answer?.ok()) {
              kept.push(entry.id);
              break;
            }
            await sleep(50);
          }
        }
      });
      await sleep(50 + ((kill * 7919) % 400));
      const gone = new Promise((resolve) => running.child.once("exit", resolve));
      running.child.kill("SIGKILL");
      await gone;
      running = await startServer(database, { port });
      await sleep(60);
      over = true;
      await Promise.all(writers);
    }
    const job = await (await device.get(`/api/jobs/${id}`)).json();
    const ids: string[] = job.entries.map((entry: { id: string }) => entry.id);
    const [stored, twice] = [new Set(ids), ids.length - new Set(ids).size];
    process.stdout.write(
      `server killed ${SERVER_KILLS} times: ${sent} sent, ${kept.length} acknowledged, ${kept.filter((one) => !stored.has(one)).length} lost, ${twice} doubled\n`,
    );
    expect([kept.filter((one) => !stored.has(one)), twice]).toEqual([[], 0]);
    expect(kept.length).toBe(sent);
  } finally {
    running.child.kill("SIGKILL");
    await device.dispose();
  }
});

test("a browser that is killed at any moment after Enter keeps the reading", async () => {
  test.setTimeout(120_000 + BROWSER_KILLS * 40_000);
  const folder = mkdtempSync(join(tmpdir(), "killed-browser-"));
  const open = async () => {
    const context = await chromium.launchPersistentContext(folder, {
      executablePath: CHROMIUM,
      args: [...CHROMIUM_FLAGS],
      baseURL: BASE,
      viewport: { width: 1280, height: 800 },
      extraHTTPHeaders: { "x-forwarded-for": "10.44.0.1" },
    });
    // Cookies a killed browser had not written yet are gone: its person signs in again, and what waits is sent then.
    await context.request.post(`${BASE}/api/auth/sign-in/username`, { data: { username: "odette", password: "keys-to-the-yard" }, headers: { origin: BASE } });
    return { context, page: context.pages()[0] ?? (await context.newPage()) };
  };
  const circuits = [{ id: "ect", family: "thermistor-2w", title: "Coolant temperature" }];
  /** What was taken, by the job it was taken in: each kill has one of its own, so that its first test asks for a number. */
  const taken = new Map<string, string>();
  try {
    for (let kill = 0; kill < BROWSER_KILLS; kill += 1) {
      const { context, page } = await open();
      const complaint = { ...note(""), kind: "complaint", body: { text: "Killed at Enter" } };
      const made = await context.request.post(`${BASE}/api/jobs`, {
        data: { vehicle: { name: "Killed" }, circuits, entries: [complaint] },
        headers: { origin: BASE },
      });
      const { id } = (await made.json()) as { id: string };
      await page.goto(`/jobs/${id}/bench`);
      await expect(page.locator("main[aria-busy=false]")).toBeVisible();
      const value = (2 + kill / 100).toFixed(2);
      await page.locator("input[aria-describedby=entry-problem]").fill(value);
      await page.keyboard.press("Enter");
      // What is on the screen was written: from then on it may not be lost.
      await expect(page.getByRole("region", { name: "Readings" }).first().getByRole("listitem")).toHaveCount(1);
      taken.set(id, value);
      await sleep((kill * 37) % 250);
      expect(killBrowserOn(folder)).toBeGreaterThan(0);
      await context.close().catch(() => undefined);
    }
    // Opened once more, everything comes to the server.
    const { context, page } = await open();
    await page.goto("/");
    const stored = async (): Promise<[string, string][]> => {
      const jobs = [...taken.keys()].map(async (id) => {
        const job = (await (await context.request.get(`${BASE}/api/jobs/${id}`)).json()) as {
          entries: { kind: string; body: { reading?: { value: unknown } } }[];
        };
        return job.entries.flatMap(({ kind, body }): [string, string][] =>
          kind === "reading" && typeof body.reading?.value === "number" ? [[id, body.reading.value.toFixed(2)]] : [],
        );
      });
      return (await Promise.all(jobs)).flat();
    };
    await expect.poll(async () => (await stored()).length, { timeout: 120_000 }).toBeGreaterThanOrEqual(taken.size);
    const kept = await stored();
    const lost = [...taken].filter(([id, value]) => !kept.some(([job, read]) => job === id && read === value));
    process.stdout.write(`browser killed ${taken.size} times: ${lost.length} lost, ${kept.length - new Map(kept).size} doubled\n`);
    expect(lost).toEqual([]);
    expect(new Map(kept).size).toBe(kept.length);
    expect(taken.size).toBe(BROWSER_KILLS);
    await context.close();
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});
