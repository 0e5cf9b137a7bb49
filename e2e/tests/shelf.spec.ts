import { AxeBuilder } from "@axe-core/playwright";
import { expect, type Page, test } from "@playwright/test";

// Worked out beforehand by hand: Ohm's law, the standard atmosphere, counting.

async function answerOf(page: Page): Promise<string> {
  return (await page.getByRole("region", { name: "Answer" }).locator("p.readout").first().textContent()) ?? "";
}

test("a calculator answers whichever number is left empty, in the units one likes", async ({ page }) => {
  await page.goto("/calculators");
  await page.getByLabel("Find a calculator").fill("air pr");
  await page.getByRole("link", { name: "Air pressure" }).click();
  await page.getByLabel("Height", { exact: true }).fill("1500");
  expect(await answerOf(page)).toBe("84.56 kPa");
  await page.getByLabel("Unit of Pressure there").selectOption("inHg");
  expect(await answerOf(page)).toBe("24.97 inHg");
  // The other way round: the height is left empty, the pressure typed in the unit that was chosen.
  await page.getByLabel("Pressure there", { exact: true }).fill("24.97");
  await page.getByLabel("Height", { exact: true }).fill("");
  expect(await answerOf(page)).toMatch(/^1(499|500)(\.\d+)? m$/u);
  await page.getByLabel("Unit of Height").selectOption("ft");
  expect(await answerOf(page)).toMatch(/^49(19|2\d)(\.\d+)? ft$/u);
  // What cannot be is said at its field, and nothing typed is lost.
  await page.getByLabel("Pressure there", { exact: true }).fill("x");
  await expect(page.getByText("not a number")).toBeVisible();
  await page.getByLabel("Pressure there", { exact: true }).fill("24.97");
  await page.getByLabel("Sea-level pressure reported", { exact: true }).fill("50");
  await expect(page.getByText("Sea-level pressure reported is 50 kPa; expected 85 to 110")).toBeVisible();
  await expect(page.getByLabel("Pressure there", { exact: true })).toHaveValue("24.97");
  expect((await new AxeBuilder({ page }).analyze()).violations.map(({ id: rule, nodes }) => `${rule} ${nodes[0]?.html}`)).toEqual([]);
});

test("a reading opens in its calculator with its numbers, and the result goes back into the job", async ({ page }) => {
  const circuits = [{ id: "ect", family: "thermistor-2w", title: "Coolant temperature", with: { pullup: 2200, pullupV: 5 } }];
  const readings = [{ circuit: "ect", meter: "volts-dc", red: "sig@sensor", black: "bat-", setup: { key: "on" }, value: 3.1 }];
  const file = { format: "fox-lamp/job@1", vehicle: { name: "Unit 62" }, complaint: "Fan runs at once", circuits, readings };
  const { id } = await (await page.request.post("/api/jobs/import", { data: file })).json();
  await page.goto(`/jobs/${id}/bench`);
  await page.getByRole("region", { name: "Readings" }).getByRole("link", { name: "Work it out" }).click({ timeout: 60_000 });
  await expect(page.getByRole("heading", { name: "Divider" })).toBeVisible();
  await expect(page.getByLabel("Signal", { exact: true })).toHaveValue("3.1");
  // 2200 x 3.1 / 1.9
  expect(await answerOf(page)).toBe("3589.5 Ω");
  await page.getByLabel("Unit of Sensor to ground").selectOption("kohm");
  expect(await answerOf(page)).toBe("3.589 kΩ");
  await page.getByRole("button", { name: "Note it in the job" }).click();
  await expect(page.getByText("Noted in the job.")).toBeVisible();
  await page.getByRole("link", { name: "Back to the job" }).click();
  await expect(page).toHaveURL(new RegExp(`/jobs/${id}/bench$`, "u"));
  await expect
    .poll(async () => {
      const { entries } = (await (await page.request.get(`/api/jobs/${id}`)).json()) as { entries: { kind: string; body: { text?: string } }[] };
      return entries.find(({ kind }) => kind === "note")?.body.text;
    })
    .toBe("Divider: supply 5 V, pull-up 2200 Ω, signal 3.1 V give sensor to ground 3.589 kΩ");
});

test("a book's window that passes what the circuit fails is explained at the reading, and one that cannot be is named", async ({ page }) => {
  const circuits = [{ id: "tps", family: "potentiometer-3w", title: "Throttle" }];
  const reading = { circuit: "tps", meter: "volts-dc", red: "ref@sensor", black: "bat-", setup: { key: "on" } };
  const readings = [
    { ...reading, value: 4.4, limits: { low: 4.3, high: 5.3, source: "page 12" } },
    { ...reading, red: "gnd@sensor", value: 0.03, limits: { low: 2, high: 3, source: "page 13" } },
  ];
  const file = { format: "fox-lamp/job@1", vehicle: { name: "Unit 63" }, complaint: "Limp home", circuits, readings };
  const { id } = await (await page.request.post("/api/jobs/import", { data: file })).json();
  await page.goto(`/jobs/${id}/bench`);
  const log = page.getByRole("region", { name: "Readings" });
  await expect(log.getByText(/^It passes by the book and fails by the circuit, which makes 4\.[78]/u)).toBeVisible({ timeout: 60_000 });
  await expect(log.getByText(/^These limits cannot be right: a sound circuit makes .+ V; 2 to 3 V would call every sound one bad\.$/u)).toBeVisible();
});
