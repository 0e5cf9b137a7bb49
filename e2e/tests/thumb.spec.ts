import { type APIRequestContext, expect, type Locator, type Page, test } from "@playwright/test";

const ROOM = { width: 390, height: 844 };
/** What a gloved finger hits. */
const TARGET = 44;

/** A job of its own with two circuits, its bench opened. */
async function benchOfTwo(page: Page, request: APIRequestContext): Promise<void> {
  const circuits = [
    { id: "ect", family: "thermistor-2w", title: "Coolant" },
    { id: "map", family: "pressure-3w", title: "Manifold" },
  ];
  const made = await request.post("/api/jobs/import", {
    data: { format: "fox-lamp/job@1", vehicle: { name: "Thumb and reader" }, complaint: "Runs badly", circuits },
  });
  expect(made.ok(), await made.text()).toBe(true);
  const { id } = (await made.json()) as { id: string };
  await page.goto(`/jobs/${id}/bench`);
  await expect(page.locator("main[aria-busy=false]")).toBeVisible({ timeout: 60_000 });
}

/** Taps as a thumb does: what is too small, or runs out of the screen, fails. */
async function tap(page: Page, target: Locator): Promise<void> {
  await target.scrollIntoViewIfNeeded();
  const box = await target.boundingBox();
  if (box === null) throw new Error("nothing is there to be tapped");
  expect(box.height, `height of ${String(target)}`).toBeGreaterThanOrEqual(TARGET);
  expect(box.width, `width of ${String(target)}`).toBeGreaterThanOrEqual(TARGET);
  expect(box.x).toBeGreaterThanOrEqual(0);
  expect(box.x + box.width).toBeLessThanOrEqual(ROOM.width);
  await target.tap();
  expect(await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth)).toBeLessThanOrEqual(0);
}

test.describe("on a phone, with the thumb", () => {
  // Nobody is signed in at first.
  test.use({ viewport: ROOM, hasTouch: true, isMobile: true, storageState: { cookies: [], origins: [] } });

  test("a job goes from the front door to the verdict, its figures typed on the keypad", async ({ page }) => {
    test.setTimeout(300_000);
    await page.goto("/");
    await tap(page, page.getByRole("button", { name: "Enter as Wren" }));
    await tap(page, page.getByRole("link", { name: "New job" }));
    await page.getByLabel("Complaint, in the customer's words").fill("No power uphill, three lamps at once.");
    await page.getByLabel("Find it in the register: name, plate, make").fill("514 skua");
    await tap(page, page.getByRole("button", { name: /^Unit 14/u }));
    await tap(page, page.getByRole("button", { name: "Open the job" }));
    await expect(page.getByRole("heading", { level: 1, name: /^No power uphill/u })).toBeVisible();
    await tap(page, page.getByRole("button", { name: "To codes and data" }));
    await tap(page, page.getByRole("button", { name: "Read codes from the adapter" }));
    // The list grows above the button until all of them stand in it.
    await expect(page.getByRole("button", { name: /^Remove P/u })).toHaveCount(3);
    await expect(page.getByRole("status").filter({ hasText: "3 codes saved" })).toBeVisible();
    await tap(page, page.getByRole("button", { name: "Codes are saved: go on" }));
    await tap(page, page.getByRole("button", { name: "Open the bench" }));

    const verdict = page.getByRole("button", { name: "Record the verdict" });
    const question = page.getByRole("dialog", { name: "Does this reading fit?" });
    const readings = page.getByRole("tab", { name: /^Readings/u });
    const field = page.locator("input[aria-describedby=entry-problem]");
    let typedByHand = 0;
    for (let taken = 0; taken < 30; taken += 1) {
      await expect(page.locator("main[aria-busy=false]")).toBeVisible({ timeout: 60_000 });
      if (await question.isVisible()) {
        await tap(page, question.getByRole("button", { name: /^Keep/u }));
        continue;
      }
      if (await verdict.isVisible()) break;
      await tap(page, page.getByRole("button", { name: /^Read /u }));
      await expect(async () => {
        const waits = (await field.count()) > 0 && (await field.inputValue()) !== "";
        expect(waits || (await question.isVisible()) || (await readings.textContent())?.trim() === `Readings ${taken + 1}`).toBe(true);
      }).toPass({ timeout: 30_000 });
      if (await question.isVisible()) continue;
      if ((await field.count()) > 0 && (await field.inputValue()) !== "") {
        const shown = await field.inputValue();
        // What the meter shows is typed once more, key by key.
        if (/^[\d.]+[kmM]?$/u.test(shown)) {
          for (const _ of shown) await tap(page, page.getByRole("button", { name: "Rub out" }));
          await expect(field).toHaveValue("");
          for (const key of shown) await tap(page, page.locator("main button.readout").filter({ hasText: new RegExp(`^${key.replace(".", "\\.")}$`, "u") }));
          await expect(field).toHaveValue(shown);
          typedByHand += 1;
        }
        await tap(page, page.getByRole("button", { name: "Take", exact: true }));
      }
    }
    expect(typedByHand).toBeGreaterThan(0);
    await expect(page.getByRole("region", { name: "Verdict" })).toContainText("Reference wire, EGR lift");
    await tap(page, verdict);
  });
});

test("on a phone field, keypad and key stand on one screen with the test, the circuits in a list beside it", async ({ browser, request }) => {
  const context = await browser.newContext({ viewport: ROOM, hasTouch: true, isMobile: true });
  const page = await context.newPage();
  await benchOfTwo(page, request);
  await page.evaluate(() => window.scrollTo(0, 0));
  const take = await page.getByRole("button", { name: "Take", exact: true }).boundingBox();
  await expect(page.getByRole("combobox", { name: "Circuits" }).getByRole("option")).toHaveCount(2);
  // Under the thumb: in the lower half, and not below the screen.
  expect(take?.y ?? 0).toBeGreaterThan(ROOM.height / 2);
  expect((take?.y ?? ROOM.height) + (take?.height ?? 0)).toBeLessThanOrEqual(ROOM.height);
  await context.close();
});

test("a reader of the screen hears the test first, then the circuit, the readings, the suspects", async ({ page, request }) => {
  await benchOfTwo(page, request);
  await page.keyboard.press("Tab");
  const skip = page.getByRole("link", { name: "Skip to content" });
  await expect(skip).toBeFocused();
  await page.keyboard.press("Enter");
  await expect(page).toHaveURL(/#content$/u);
  // What stands where, in the order of the document.
  const heard = await page.locator("main").evaluate((main) => {
    const order = (selector: string): number => [...main.querySelectorAll("*")].findIndex((element) => element.matches(selector));
    return {
      title: order("h1"),
      test: order("input[aria-describedby=entry-problem]"),
      readings: order('[aria-label="Readings"]'),
      suspects: order("aside"),
    };
  });
  for (const at of Object.values(heard)) expect(at).toBeGreaterThanOrEqual(0);
  expect(Object.entries(heard).sort(([, one], [, other]) => one - other)).toEqual(Object.entries(heard));
  // The first stop behind the link is of the test.
  const region = page.getByRole("region", { name: /^Next, /u });
  const inTest = async (): Promise<boolean> => region.evaluate((one) => one.contains(document.activeElement));
  for (let stop = 0; stop < 4 && !(await inTest()); stop += 1) await page.keyboard.press("Tab");
  expect(await inTest()).toBe(true);
});
