import { expect, type Page, test } from "@playwright/test";
import { openBench, proposed } from "./helpers";

/** Most readings any of these jobs may take. */
const MOST_READINGS = 30;

/**
 * Does what the bench proposes until there is a verdict, by keyboard alone: R reads the connected instrument, Enter takes the value.
 * Whatever is asked about a value is answered with "keep".
 */
async function solveByKeyboard(page: Page): Promise<number> {
  const verdict = page.getByRole("region", { name: "Verdict" });
  const rows = page.getByRole("region", { name: "Readings" }).first().getByRole("listitem");
  const dialog = page.getByRole("dialog", { name: "Does this reading fit?" });
  for (let taken = 0; taken < MOST_READINGS; taken += 1) {
    await expect(page.locator("main[aria-busy=false]")).toBeVisible();
    if (await verdict.isVisible()) return taken;
    const before = await rows.count();
    await page.keyboard.press("r");
    // A number lands in the field and waits to be taken; a word is taken at once.
    const field = page.locator("form input").last();
    await expect
      .poll(async () => (await dialog.isVisible()) || (await rows.count()) > before || (await page.evaluate(() => document.activeElement?.tagName)) === "INPUT")
      .toBe(true);
    if ((await rows.count()) === before && !(await dialog.isVisible())) {
      await expect(field).toBeFocused();
      await page.keyboard.press("Enter");
    }
    await expect.poll(async () => (await dialog.isVisible()) || (await rows.count()) > before).toBe(true);
    if (await dialog.isVisible()) {
      await dialog.getByRole("button", { name: /^Keep/u }).focus();
      await page.keyboard.press("Enter");
    }
    await expect(rows).toHaveCount(before + 1);
  }
  throw new Error("no verdict");
}

/** One job of each kind of circuit, from the demo to a proven verdict, by keyboard alone on its virtual car. */
for (const { kind, vehicle, unit, words } of [
  { kind: "divider", vehicle: "Unit 2", unit: "fuelt/sensor", words: "Temperature sensor" },
  { kind: "three wires", vehicle: "Mobile library", unit: "tps/contact:ref@sensor", words: "Reference contact" },
  { kind: "hall sensor, cranking", vehicle: "Minibus 3", unit: "cam/wire:feed", words: "Feed wire" },
  { kind: "inductive", vehicle: "Minibus 12", unit: "crank/wire:sig+", words: "Signal + wire" },
  { kind: "piezo with a twin", vehicle: "Harbour launch Dunlin", unit: "knock1/sensor", words: "Knock sensor" },
  { kind: "oxygen with a heater", vehicle: "Unit 9", unit: "o2/heater", words: "Heater" },
  { kind: "solenoid", vehicle: "Parks pickup 6", unit: "purge/wire:ctl", words: "Control wire" },
  { kind: "shared reference with a chafed branch", vehicle: "Parks tipper 5", unit: "egr/wire:ref", words: "Reference wire, EGR lift" },
]) {
  test(`${kind}: ${unit} is proven by keyboard alone`, async ({ page }) => {
    test.setTimeout(240_000);
    const id = await openBench(page, vehicle);
    await solveByKeyboard(page);
    const verdict = page.getByRole("region", { name: "Verdict" });
    await expect(verdict.getByText("Proven", { exact: true })).toBeVisible();
    await expect(verdict).toContainText(words);
    const { diagnosis } = await proposed(page, id);
    expect(diagnosis.verdict.status).toBe("proven");
    expect([diagnosis.verdict.unit, ...diagnosis.verdict.group]).toContain(unit);
  });
}
