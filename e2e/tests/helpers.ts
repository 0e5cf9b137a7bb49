import { execFileSync } from "node:child_process";
import { fileURLToPath } from "node:url";
import { expect, type Locator, type Page } from "@playwright/test";

const COMMAND = fileURLToPath(new URL("../../bin/fox-lamp", import.meta.url));

/** Runs the command line with JSON on standard input. */
export function foxLamp(command: string, input: unknown): unknown {
  return JSON.parse(execFileSync(COMMAND, [command, "-"], { input: JSON.stringify(input), encoding: "utf8" }));
}

export interface NextTest {
  readonly title: string;
  readonly circuit: string;
  readonly meter: string;
  readonly red: string;
  readonly black: string | null;
  readonly setup: Record<string, unknown>;
  readonly unit?: string;
  readonly record?: string;
}

function typed(value: number, meter: string): string {
  if (meter === "ohms" && value >= 1000) return `${(value / 1000).toPrecision(3)}k`;
  return Math.abs(value) < 0.1 ? `${(value * 1000).toFixed(1)}m` : value.toFixed(2);
}

/** What a technician would read for a test on a car with a fault, as typed shorthand or the name of a word's button. */
export function wouldRead(circuits: readonly Record<string, unknown>[], faults: readonly unknown[], test: NextTest): string {
  if (test.meter === "look") return "Looks fine";
  const { circuit, meter, red, black, setup, unit, record } = test;
  const measurement = {
    circuit,
    meter,
    red,
    setup,
    ...(black === null ? {} : { black }),
    ...(unit === undefined ? {} : { unit }),
    ...(record === undefined ? {} : { record }),
  };
  const { measurements } = foxLamp("measure", { circuits, faults, measurements: [measurement] }) as {
    measurements: { value: number | string | { min: number; max: number } }[];
  };
  const value = measurements[0]?.value ?? 0;
  if (typeof value === "object") return `${typed(value.min, meter)} to ${typed(value.max, meter)}`;
  if (typeof value === "string") return { click: "Click", "no-click": "No click" }[value] ?? value;
  return typed(value, meter);
}

/** The test the bench proposes, computed from what the server has stored, by the command line. */
export async function proposed(page: Page, id: string) {
  const job = await storedJob(page, id);
  const gone = new Set(job.entries.flatMap(({ kind, body }) => (kind === "retraction" ? [String(body["entry"])] : [])));
  const bodies = (kind: string) => job.entries.filter((entry) => entry.kind === kind && !gone.has(entry.id)).map(({ body }) => body as Record<string, unknown>);
  // A corrected reading stands in the place and under the name of what it replaces.
  const readings = [...new Map(bodies("reading").map(({ reading }) => [(reading as { id: string }).id, reading])).values()];
  const { hints = [], ...conditions } = bodies("conditions").at(-1) ?? {};
  const diagnosis = foxLamp("diagnose", { circuits: job.circuits, readings, hints, conditions, codes: bodies("code") }) as {
    verdict: { status: string; unit: string; group: string[] };
    next: NextTest[];
  };
  return { job, readings, diagnosis };
}

/** Takes what the bench proposes, reading by reading, on a car with hidden faults, until it offers to record a verdict. */
export async function solveOnScreen(page: Page, id: string, hidden: readonly unknown[]): Promise<void> {
  const { circuits } = await storedJob(page, id);
  for (let step = 0; step < 16; step += 1) {
    await expect(page.locator("main[aria-busy=false]")).toBeVisible({ timeout: 60_000 });
    const verdict = page.getByRole("button", { name: "Record the verdict" });
    const title = page
      .getByRole("region", { name: /^Next, /u })
      .getByRole("heading")
      .first();
    await expect(verdict.or(title).first()).toBeVisible({ timeout: 60_000 });
    if (await verdict.isVisible()) return;
    const shown = (await title.textContent()) ?? "";
    const list = page.getByRole("region", { name: "Readings" }).first().getByRole("listitem");
    const before = (await list.count()) + 1;
    await expect
      .poll(async () => {
        const { entries } = await storedJob(page, id);
        const gone = new Set(entries.flatMap(({ kind, body }) => (kind === "retraction" ? [String(body["entry"])] : [])));
        return entries.filter(({ id: own, kind }) => kind === "reading" && !gone.has(own)).length;
      })
      .toBe(before - 1);
    const { diagnosis } = await proposed(page, id);
    const next = diagnosis.next.find(({ title: own }) => shown.toLowerCase() === own.toLowerCase() || shown.toLowerCase().endsWith(`: ${own.toLowerCase()}`));
    expect(next, `the command line proposes "${shown}" too`).toBeDefined();
    if (next) await enterReading(page, wouldRead(circuits, hidden, next));
    await expect(list).toHaveCount(before, { timeout: 60_000 });
  }
}

/** Waits until the server has everything that was entered on this device. */
export async function allSent(page: Page): Promise<void> {
  const waiting = (): Promise<number> =>
    page.evaluate(async () => {
      const database = await new Promise<IDBDatabase>((resolve, reject) => {
        const asked = indexedDB.open("fox-lamp-outbox");
        asked.onsuccess = () => resolve(asked.result);
        asked.onerror = () => reject(asked.error);
      });
      const count = await new Promise<number>((resolve, reject) => {
        const asked = database.transaction("waiting").objectStore("waiting").count();
        asked.onsuccess = () => resolve(asked.result);
        asked.onerror = () => reject(asked.error);
      });
      database.close();
      return count;
    });
  await expect.poll(waiting, { timeout: 60_000 }).toBe(0);
}

/** The job as the server has it. */
export async function storedJob(
  page: Page,
  id: string,
): Promise<{ circuits: Record<string, unknown>[]; entries: { id: string; kind: string; body: Record<string, never> }[] }> {
  const response = await page.request.get(`/api/jobs/${id}`);
  expect(response.ok()).toBe(true);
  return response.json();
}

/** Opens a demo job's bench from the yard and waits until the diagnosis is there. @returns the job's id */
export async function openBench(page: Page, vehicle: string): Promise<string> {
  await page.goto("/");
  await page.getByText(vehicle, { exact: true }).click();
  await page.waitForURL(/\/jobs\//u);
  const id = /jobs\/([^/]+)/u.exec(page.url())?.[1] ?? "";
  if (!page.url().endsWith("/bench")) await page.goto(`/jobs/${id}/bench`);
  await expect(page.getByRole("region", { name: "Readings", includeHidden: true }).first()).toBeAttached();
  await expect(page.locator("main[aria-busy=false]")).toBeVisible({ timeout: 60_000 });
  return id;
}

/** Enters a reading for the test on screen: a word by its button, a number in the field. */
export async function enterReading(page: Page, text: string): Promise<void> {
  const word = page.getByRole("button", { name: text, exact: true });
  if ((await word.count()) > 0) await word.first().click();
  else {
    await page.locator("input[aria-describedby=entry-problem]").fill(text);
    await page.getByRole("button", { name: "Take", exact: true }).click();
  }
}

/** Most readings any of these jobs may take. */
const MOST_READINGS = 30;

/**
 * Does what the bench proposes until there is a verdict, by keyboard alone: R reads the connected instrument, Enter takes the value.
 * Whatever is asked about a value is answered with "keep".
 */
export async function solveByKeyboard(page: Page): Promise<number> {
  const verdict = page.getByRole("region", { name: "Verdict" });
  const rows = page.getByRole("region", { name: "Readings" }).first().getByRole("listitem");
  const dialog = page.getByRole("dialog", { name: "Does this reading fit?" });
  for (let taken = 0; taken < MOST_READINGS; taken += 1) {
    await expect(page.locator("main[aria-busy=false]")).toBeVisible();
    // A reading is in the record before anything judges it; the question whether it fits comes after.
    if (await dialog.isVisible()) {
      const keep = dialog.getByRole("button", { name: /^Keep/u });
      await keep.focus();
      await expect(keep).toBeFocused();
      await page.keyboard.press("Enter");
      await expect(dialog).toHaveCount(0);
    }
    if (await verdict.isVisible()) return taken;
    const before = await rows.count();
    // A number lands in the field and waits to be taken; a word is taken at once.
    const field = page.locator("input[aria-describedby=entry-problem]");
    const answered = async (): Promise<boolean> =>
      (await dialog.isVisible()) || (await rows.count()) > before || (await page.evaluate(() => document.activeElement?.tagName)) === "INPUT";
    // An instrument that did not answer in time (the page says so) is read again, as anybody would.
    await expect(async () => {
      await page.keyboard.press("r");
      await expect.poll(answered, { timeout: 15_000 }).toBe(true);
    }).toPass({ timeout: 60_000 });
    // The question came up while the key was pressed.
    if (await dialog.isVisible()) continue;
    if ((await rows.count()) === before) {
      await expect(field).toBeFocused();
      await page.keyboard.press("Enter");
    }
    await expect(rows).toHaveCount(before + 1);
  }
  throw new Error("no verdict");
}

/** Chooses from a list that is searched by typing. */
export async function pick(page: Page, within: Page | Locator, label: string, words: string): Promise<void> {
  await within.getByRole("combobox", { name: new RegExp(`^${label}`, "u") }).click();
  const list = page.getByRole("dialog", { name: label });
  await list.getByRole("combobox").fill(words);
  await page.keyboard.press("Enter");
  await expect(list).toHaveCount(0);
}
