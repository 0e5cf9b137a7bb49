import AxeBuilder from "@axe-core/playwright";
import { expect, test } from "@playwright/test";
import { WREN } from "../sign-in";
import { enterReading, openBench, proposed, solveOnScreen, storedJob } from "./helpers";

const HIDDEN = [{ id: "ect/wire:sig/resistance", ohms: 8500 }];

test("a hidden resistance in a coolant circuit is proven through the screen and found again after a reload", async ({ page }) => {
  const id = await openBench(page, "Unit 7");
  await expect(page.getByRole("heading", { name: "What the module reads" })).toBeVisible();
  await expect(page.getByText("2.57 to 3.15 V").first()).toBeVisible();

  // The scan value is implausible: it reads far too cold for an engine at 18 degC.
  await page.keyboard.type("-10 degC");
  await page.keyboard.press("Enter");
  await expect(page.getByText("-10 °C").first()).toBeVisible();
  await expect(page.getByText(/Would read .+ at r1; you read -10 °C/u).first()).toBeVisible();

  await solveOnScreen(page, id, HIDDEN);

  const verdict = page.getByRole("region", { name: "Verdict" });
  await expect(verdict.getByText("Proven", { exact: true })).toBeVisible();
  await expect(verdict.getByRole("heading", { level: 2 })).toContainText("Signal wire");
  await page.getByRole("button", { name: "Record the verdict" }).click();
  await expect(page.getByText("Verdict recorded")).toBeVisible();
  await expect.poll(async () => (await storedJob(page, id)).entries.some(({ kind }) => kind === "decision")).toBe(true);

  await page.reload();
  await expect(page.getByText("Verdict recorded")).toBeVisible();
  await expect(page.getByRole("region", { name: "Verdict" }).getByRole("heading", { level: 2 })).toContainText("Signal wire");
  const { diagnosis, job } = await proposed(page, id);
  expect(diagnosis.verdict.status).toBe("proven");
  expect([diagnosis.verdict.unit, ...diagnosis.verdict.group]).toContain("ect/wire:sig");
  expect(job.entries.at(-1)?.body).toMatchObject({ stage: "repair" });

  await page.goto("/");
  await expect(page.getByRole("heading", { name: /Repair/u })).toBeVisible();
});

test("a slipped reading is asked about, corrected, taken back, and never refused", async ({ page }) => {
  const id = await openBench(page, "Mobile library");
  const readings = page.getByRole("region", { name: "Readings" }).first().getByRole("listitem");
  await expect(readings).toHaveCount(3);
  await page.getByRole("button", { name: "Other tests" }).click();
  await page.getByRole("button", { name: /Signal at the sensor, plugged, released/u }).click();

  await enterReading(page, "twelve");
  await expect(page.getByText('"twelve" is not a reading; expected a number such as 4.98')).toBeVisible();
  await enterReading(page, "-0.22");
  // It is in the record before anybody asks.
  await expect(readings).toHaveCount(4);
  const stored = async () => (await storedJob(page, id)).entries.filter(({ kind }) => kind === "reading").length;
  await expect.poll(stored).toBe(4);
  const question = page.getByRole("dialog", { name: "Does this reading fit?" });
  await expect(question).toContainText("It looks like the leads were swapped: 0.22 V would fit.");
  // Taken back, the same test stands there again.
  await question.getByRole("button", { name: "Take it back, measure again" }).click();
  await expect(readings).toHaveCount(3);
  await expect(page.locator("main[aria-busy=false]")).toBeVisible();
  await expect(
    page
      .getByRole("region", { name: /^Next, /u })
      .getByRole("heading")
      .first(),
  ).toContainText("Signal at the sensor");
  await enterReading(page, "-0.22");
  await question.getByRole("button", { name: "It was 0.22 V" }).click();
  await expect(readings).toHaveCount(4);
  await expect(readings.first()).toContainText("0.22 V");
  await expect.poll(stored).toBe(6);

  // Undone once the correction is gone, undone twice the reading is.
  await expect(page.locator("main[aria-busy=false]")).toBeVisible();
  await page.keyboard.press("Control+z");
  await expect(readings.first()).toContainText("-0.22");
  await page.keyboard.press("Control+z");
  await expect(readings).toHaveCount(3);
  await expect.poll(async () => (await storedJob(page, id)).entries.some(({ kind }) => kind === "retraction")).toBe(true);
});

test("a test that cannot be done is skipped and another is proposed", async ({ page }) => {
  await openBench(page, "Parks pickup 2");
  const title = page
    .getByRole("region", { name: /^Next, /u })
    .getByRole("heading")
    .first();
  const first = (await title.textContent()) ?? "";
  await page.getByRole("button", { name: "Cannot do this" }).click();
  await page.getByRole("button", { name: "No such tool here" }).click();
  await expect(title).not.toHaveText(first);
});

test("what is entered while the server is away is kept and sent later", async ({ page, context }) => {
  const id = await openBench(page, "Unit 4");
  const readings = page.getByRole("region", { name: "Readings" }).first().getByRole("listitem");
  const count = await readings.count();
  const stored = async (): Promise<number> => (await storedJob(page, id)).entries.filter(({ kind }) => kind === "reading").length;
  const before = await stored();
  await context.route("**/api/jobs/*/entries", (route) => route.abort());
  await expect(page.getByRole("heading", { name: "Ground drop at the sensor, working" })).toBeVisible();
  await enterReading(page, "10m");
  await expect(readings).toHaveCount(count + 1);
  await expect(page.getByText("kept on this device")).toBeVisible();
  await page.reload();
  await expect(readings).toHaveCount(count + 1);
  expect(await stored()).toBe(before);
  await context.unroute("**/api/jobs/*/entries");
  await expect.poll(stored, { timeout: 30_000 }).toBe(before + 1);
  await expect(page.getByText("kept on this device")).toBeHidden();
});

test("on a phone the keypad takes a reading and nothing runs out of the screen", async ({ browser }) => {
  const context = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true, colorScheme: "dark" });
  const page = await context.newPage();
  await openBench(page, "Parks pickup 2");
  const overflow = await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);
  expect(overflow).toBeLessThanOrEqual(0);
  for (const key of ["4", ".", "9"])
    await page
      .locator("button", { hasText: new RegExp(`^${key.replace(".", "\\.")}$`, "u") })
      .first()
      .tap();
  await expect(page.locator("input[aria-describedby=entry-problem]")).toHaveValue("4.9");
  await context.close();
});

for (const theme of ["dark", "light"] as const) {
  test(`no accessibility violations, ${theme}`, async ({ browser }) => {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, colorScheme: theme });
    const page = await context.newPage();
    const check = async (): Promise<void> => {
      const { violations } = await new AxeBuilder({ page }).analyze();
      expect(violations.map(({ id, nodes }) => `${id}: ${nodes.map(({ target }) => target.join(" ")).join(", ")}`)).toEqual([]);
    };
    await page.goto("/");
    await expect(page.getByText("Harbour launch Petrel")).toBeVisible();
    await check();
    await page.getByText("Harbour launch Petrel").click();
    await expect(page.getByRole("heading", { name: "Order of work" })).toBeVisible();
    await check();
    await page.getByRole("link", { name: "Bench", exact: true }).click();
    await expect(page.getByRole("region", { name: "Verdict" })).toBeVisible();
    await check();
    await openBench(page, "Mobile library");
    await check();
    await context.close();
  });
}

test("the bench opens again without the server, and what is entered then is sent later", async ({ browser }) => {
  const context = await browser.newContext({ serviceWorkers: "allow", storageState: WREN });
  const page = await context.newPage();
  const id = await openBench(page, "Unit 6");
  await page.evaluate(() => navigator.serviceWorker.ready);
  // The first visit fetched without the worker; from the second one on it keeps what it sees.
  await page.reload();
  await expect(page.locator("main[aria-busy=false]")).toBeVisible();
  await expect.poll(() => page.evaluate(() => navigator.serviceWorker.controller !== null)).toBe(true);
  const before = (await storedJob(page, id)).entries.length;
  await context.setOffline(true);
  await page.reload();
  await expect(page.locator("main[aria-busy=false]")).toBeVisible();
  await page.keyboard.type("4.98");
  await page.keyboard.press("Enter");
  const notice = page.getByText(/kept on this device/u);
  await expect(notice).toBeVisible();
  await context.setOffline(false);
  await expect(notice).toHaveCount(0);
  await expect.poll(async () => (await storedJob(page, id)).entries.length).toBe(before + 1);
  await context.close();
});
