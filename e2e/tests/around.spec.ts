import AxeBuilder from "@axe-core/playwright";
import { type Browser, expect, type Page, test } from "@playwright/test";
import { ODETTE } from "../sign-in";
import { enterReading, openBench, pick, storedJob } from "./helpers";

const idle = (page: Page) => expect(page.locator("main[aria-busy=false]")).toBeVisible();
const rows = (page: Page) => page.getByRole("region", { name: "Readings" }).first().getByRole("listitem");

/** A second device: its own storage, its own screen. */
async function device(browser: Browser, size: { width: number; height: number }): Promise<Page> {
  const context = await browser.newContext({ viewport: size, hasTouch: true, colorScheme: "dark" });
  return context.newPage();
}

test("two devices work on one job, and a third shows the value across the bay", async ({ page, browser }) => {
  const id = await openBench(page, "Unit 2");
  await idle(page);
  const before = await rows(page).count();
  const phone = await device(browser, { width: 390, height: 844 });
  await phone.goto(`/jobs/${id}/bench`);
  await idle(phone);

  await page.keyboard.press("c");
  const dialog = page.getByRole("dialog", { name: "Call-out" });
  await expect(dialog.locator("p.readout")).toHaveText(/^[A-Z0-9]{5} [A-Z0-9]{5}$/u);
  const code = (await dialog.locator("p.readout").textContent()) ?? "";
  await dialog.getByRole("button", { name: "Keep it on" }).click();
  const wall = await device(browser, { width: 1280, height: 800 });
  await wall.goto("/callout");
  await wall.getByLabel("Code on the bench").fill(code.toLowerCase());
  await wall.getByRole("button", { name: "Show it" }).click();
  const title =
    (await page
      .getByRole("region", { name: /^Next, /u })
      .getByRole("heading")
      .first()
      .textContent()) ?? "";
  await expect(wall.getByRole("heading", { level: 1 })).toHaveText(title);

  // What the first device types stands on the wall before it is taken; what it takes stands on the phone.
  await page.keyboard.type("4.02");
  await expect(wall.getByRole("status")).toHaveText("4.02 V");
  await expect(wall.getByText("outside the window")).toBeVisible();
  await page.keyboard.press("Enter");
  await expect(wall.getByText("outside the window, taken")).toBeVisible();
  await expect(phone.getByRole("tab", { name: `Readings ${before + 1}` })).toBeVisible();
  await idle(phone);

  // The phone goes on with the keypad; the first device sees it.
  const next =
    (await phone
      .getByRole("region", { name: /^Next, /u })
      .getByRole("heading")
      .first()
      .textContent()) ?? "";
  await phone.getByRole("button", { name: /^Read the/u }).tap();
  await expect(phone.locator("input[aria-describedby=entry-problem]")).not.toHaveValue("");
  await phone.getByRole("button", { name: "Take", exact: true }).tap();
  await expect(phone.getByRole("tab", { name: `Readings ${before + 2}` })).toBeVisible();
  await idle(phone);
  const asked = phone.getByRole("dialog", { name: "Does this reading fit?" });
  if (await asked.isVisible()) await asked.getByRole("button", { name: /^Keep/u }).tap();
  await expect(rows(page)).toHaveCount(before + 2);
  expect(next).not.toBe("");
  for (const left of [before + 1, before]) {
    await page.keyboard.press("Control+z");
    await expect(rows(page)).toHaveCount(left);
  }
  // Switched off at the bench, it is over everywhere, and the code opens nothing any more.
  await page.keyboard.press("c");
  await dialog.getByRole("button", { name: "Switch it off" }).click();
  await expect(wall.getByText(/nothing is shown under this code/u)).toBeVisible();
  await expect(wall.getByRole("status")).toHaveCount(0);
});

test("a reading is corrected and taken back at any time, and what it was stays in the record", async ({ page }) => {
  const id = await openBench(page, "Parks pickup 2");
  await idle(page);
  await enterReading(page, "4.9");
  const keep = page.getByRole("button", { name: /^Keep/u });
  await expect.poll(async () => (await keep.isVisible()) || (await rows(page).count()) === 1).toBe(true);
  if (await keep.isVisible()) await keep.click();
  await expect(rows(page)).toHaveCount(1);
  await page.getByRole("button", { name: "Correct r1" }).click();
  await page.getByLabel("Corrected value of r1").fill("nonsense");
  await page.getByRole("button", { name: "Correct", exact: true }).click();
  await expect(page.getByText('"nonsense" is not a reading')).toBeVisible();
  await page.getByLabel("Corrected value of r1").fill("2.31");
  await page.getByRole("button", { name: "Correct", exact: true }).click();
  await expect(rows(page).first()).toContainText("2.31 V");
  await expect(rows(page).first().locator(".line-through")).toHaveText("4.90 V");
  await expect.poll(async () => (await storedJob(page, id)).entries.filter(({ kind }) => kind === "reading").length).toBe(2);

  // Undo takes the correction back, and the first value stands again.
  await page.keyboard.press("Control+z");
  await expect(rows(page).first()).toContainText("4.90 V");
  await page.getByRole("button", { name: "Take r1 back" }).click();
  await expect(rows(page)).toHaveCount(0);
});

test("a test that cannot be done is skipped with its reason and another one is proposed; any test can be put together", async ({ page }) => {
  const id = await openBench(page, "Minibus 3");
  await idle(page);
  const title = page
    .getByRole("region", { name: /^(Next|Your choice)/u })
    .getByRole("heading")
    .first();
  const first = (await title.textContent()) ?? "";
  await page.keyboard.press("s");
  await page.getByRole("button", { name: "Cannot reach it" }).click();
  await expect(title).not.toHaveText(first);
  await expect.poll(async () => (await storedJob(page, id)).entries.filter(({ kind }) => kind === "skip").length).toBe(1);

  await idle(page);
  await page.keyboard.press("b");
  const dialog = page.getByRole("dialog", { name: "A test of your own" });
  await pick(page, dialog, "Red lead on", "feed at c1");
  await dialog.getByRole("group", { name: "Unplugged" }).getByRole("checkbox").last().check();
  await expect(dialog.getByText("Feed at C1 to battery negative")).toBeVisible();
  await expect(dialog.getByText(/settles (much|some|little)/u)).toBeVisible();
  await dialog.getByRole("button", { name: "Measure this" }).click();
  await expect(page.getByRole("heading", { name: "Feed at C1 to battery negative" })).toBeVisible();
  await enterReading(page, "12.4");
  await expect(rows(page)).toHaveCount(1);
  await expect(rows(page).first()).toContainText("Feed at C1");

  await page.keyboard.press("k");
  await page.getByPlaceholder("Type what you want to do").fill("undo");
  await page.keyboard.press("Enter");
  await expect(rows(page)).toHaveCount(0);
});

test("a fault that comes and goes is watched while places are moved, and what was seen is entered", async ({ page }) => {
  const id = await openBench(page, "Parks pickup 2");
  await idle(page);
  await page.keyboard.press("w");
  const watch = page.getByRole("dialog", { name: /^Watch/u });
  await watch.getByRole("button", { name: "Start watching" }).click();
  await expect(watch.getByText(/left its window first/u)).toBeVisible();
  await watch.getByRole("button", { name: "sensor", exact: true }).click();
  await expect(watch.locator(".apexcharts-series").first()).toBeAttached();
  await watch.getByRole("button", { name: "Stop" }).click();
  await watch.getByRole("button", { name: /^Enter lowest and highest/u }).click();
  await expect(rows(page)).toHaveCount(1);
  await expect
    .poll(async () => (await storedJob(page, id)).entries.findLast(({ kind }) => kind === "reading")?.body)
    .toMatchObject({ reading: { record: "min-max", symptom: true } });
});

test("a first visit is offered a guided job that follows what is done, can be left, and is not offered again", async ({ page }) => {
  await page.goto("/");
  await page.getByRole("link", { name: "Start the guided job" }).click({ timeout: 30_000 });
  const guide = page.getByRole("status").filter({ hasText: "Your first job here" });
  await expect(guide).toContainText("The test on top settles most for the least time.");
  const field = page.locator("input[aria-describedby=entry-problem]");
  for (const [taken, said] of ["The reading moved the suspects", "What is proven stands solid"].entries()) {
    await idle(page);
    await page.keyboard.press("r");
    const shown = async (): Promise<string> => ((await field.count()) === 0 ? "" : await field.inputValue());
    await expect.poll(async () => (await rows(page).count()) > taken || (await shown()) !== "").toBe(true);
    if ((await rows(page).count()) === taken) {
      await expect(guide).toContainText("Enter, or Take, records the reading.");
      await page.keyboard.press("Enter");
    }
    await expect(rows(page)).toHaveCount(taken + 1);
    await idle(page);
    const question = page.getByRole("dialog", { name: "Does this reading fit?" });
    if (await question.isVisible()) await question.getByRole("button", { name: /^Keep/u }).click();
    await expect(guide).toContainText(said);
  }
  // The job is left as it was found.
  for (const left of [1, 0]) {
    await page.getByRole("button", { name: "Undo" }).first().click();
    await expect(rows(page)).toHaveCount(left);
  }
  await page.getByRole("button", { name: "Leave the guided job" }).click();
  await expect(guide).toHaveCount(0);
  await page.goto("/");
  await expect(page.getByText("Parks tipper 5", { exact: true })).toBeVisible();
  await expect(page.getByRole("link", { name: "Start the guided job" })).toHaveCount(0);
});

test("settings change what is planned and how values are shown, and the shop keeps them", async ({ browser }) => {
  const context = await browser.newContext({ storageState: ODETTE });
  const page = await context.newPage();
  await page.goto("/settings");
  await page.getByText("°F", { exact: true }).click();
  await page.getByText("Left: entry on the left").click();
  const adapter = page.getByRole("checkbox", { name: "Scan adapter" });
  await expect(adapter).toBeChecked();
  await adapter.click();
  await expect(adapter).not.toBeChecked();
  await expect(page.getByText("Saved")).toBeVisible();
  await openBench(page, "Unit 4");
  await idle(page);
  await expect(page.getByText("°F").first()).toBeVisible();
  const entry = await page.locator("input[aria-describedby=entry-problem]").boundingBox();
  expect(entry?.x ?? 999).toBeLessThan(300);
  await expect(page.getByText("Read the scan adapter")).toHaveCount(0);
  await page.goto("/settings");
  await expect(adapter).not.toBeChecked();
  await adapter.click();
  await expect(adapter).toBeChecked();
  await expect(page.getByText("Saved")).toBeVisible();
  await context.close();
});

test("a technician sees what the shop has decided, and changes only the own device", async ({ page }) => {
  await page.goto("/settings");
  await expect(page.getByText("A foreman of this shop decides these.")).toBeVisible();
  await expect(page.getByRole("checkbox", { name: "Scan adapter" })).toBeDisabled();
  await expect(page.getByRole("radio", { name: "°F" })).toBeEnabled();
});

for (const theme of ["dark", "light"] as const) {
  test(`no view has an accessibility fault in the ${theme} theme`, async ({ browser }) => {
    const context = await browser.newContext({ storageState: ODETTE, colorScheme: theme, viewport: { width: 1280, height: 800 } });
    const page = await context.newPage();
    const check = async (what: string): Promise<void> => {
      const axe = new AxeBuilder({ page }).exclude(".apexcharts-canvas");
      // Names, roles and order are the same by night; what can differ is the contrast.
      const { violations } = await (theme === "dark" ? axe.withRules(["color-contrast"]) : axe).analyze();
      expect(
        violations.map(({ id, nodes }) => `${what}: ${id} ${nodes[0]?.html ?? ""}`),
        what,
      ).toEqual([]);
    };
    await page.goto("/");
    await expect(page.getByText("Parks tipper 5", { exact: true })).toBeVisible();
    await check("yard");
    await page.goto("/settings");
    await expect(page.getByText("Multimeter")).toBeVisible();
    await check("settings");
    await page.goto("/callout");
    await expect(page.getByRole("heading", { level: 1, name: "Call-out" })).toBeVisible();
    await check("call-out code");
    // What waits or has only a message is a page too.
    await page.route("**/api/me", () => undefined);
    await page.goto("/settings");
    await expect(page.getByRole("heading", { level: 1, name: "Loading ..." })).toBeAttached();
    await check("waiting");
    await page.unroute("**/api/me");
    for (const nowhere of ["/nowhere", "/jobs/0195d000-0000-7000-8000-000000000000"]) {
      await page.goto(nowhere);
      await expect(page.locator("main#content:visible")).toBeVisible();
      await expect(page.getByRole("heading", { level: 1, name: "Loading ..." })).toHaveCount(0);
      await check(nowhere);
    }
    const id = await openBench(page, "Parks tipper 5");
    await idle(page);
    await check("bench");
    for (const [key, name] of [
      ["b", "A test of your own"],
      ["k", "What to do"],
      ["c", "Call-out"],
      ["w", /^Watch/u],
    ] as const) {
      await page.keyboard.press(key);
      await expect(page.getByRole("dialog", { name })).toBeVisible();
      await check(String(name));
      await page.keyboard.press("Escape");
      await expect(page.getByRole("dialog", { name })).toHaveCount(0);
    }
    await page.goto(`/jobs/${id}/paper`);
    await expect(page.getByRole("heading", { name: "Plan to take along" })).toBeVisible();
    await check("paper");
    const verified = ((await (await page.request.get("/api/jobs?q=TB505MB")).json()) as { id: string }[])[0]?.id ?? "";
    const traced = ((await (await page.request.get("/api/jobs?q=TB215MB")).json()) as { id: string }[])[0]?.id ?? "";
    for (const [path, heading] of [
      [`/jobs/${id}`, /^Lost power on the quarry road/u],
      [`/jobs/${id}/codes`, "Codes and data"],
      [`/jobs/${id}/triage`, "Before touching anything"],
      [`/jobs/${id}/sheet/map`, /^Circuit sheet/u],
      [`/jobs/${traced}/traces`, "Traces"],
      [`/jobs/${verified}/repair`, "Locate and repair"],
      [`/jobs/${verified}/check`, "Check"],
      [`/jobs/${verified}/report`, "Report"],
      ["/jobs/new", "New job"],
      ["/people", "People"],
      ["/account", "Your account"],
      ["/figures", "Figures of the shop"],
      ["/shelf", "Specifications"],
      ["/cards/meter-loading", "Ten megohms see nothing"],
      ["/calculators/thermistor-three", "Calculators"],
      ["/shops", "Shops of this installation"],
    ] as const) {
      await page.goto(path);
      await expect(page.getByRole("heading", { level: 1, name: heading })).toBeVisible();
      await check(path);
    }
    const outside = await browser.newContext({ storageState: { cookies: [], origins: [] }, colorScheme: theme });
    const door = await outside.newPage();
    await door.goto("/");
    await expect(door.getByRole("heading", { name: "Sign in" })).toBeVisible();
    const { violations } = await new AxeBuilder({ page: door }).analyze();
    expect(violations.map(({ id: rule }) => rule)).toEqual([]);
    await outside.close();
    await context.close();
  });
}
