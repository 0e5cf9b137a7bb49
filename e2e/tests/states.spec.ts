import { expect, type Page, test } from "@playwright/test";
import { enterReading, storedJob } from "./helpers";

const idle = (page: Page) => expect(page.locator("main[aria-busy=false]")).toBeVisible();
const field = (page: Page) => page.locator("input[aria-describedby=entry-problem]");
const rows = (page: Page) => page.getByRole("region", { name: "Readings" }).first().getByRole("listitem");
const overflow = (page: Page) => page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);

const LONG = "the one behind the second bulkhead that nobody has ever been able to reach without taking the seats out first";
const KINDS = [
  "thermistor-2w",
  "potentiometer-3w",
  "pressure-3w",
  "hall-3w",
  "vr-2w",
  "knock-2w",
  "oxygen-narrow",
  "solenoid-2w",
  "maf-voltage",
  "switch",
  "thermistor-2w",
  "pressure-3w",
];

test("twelve circuits with very long names and 200 readings fit a laptop and a phone", async ({ page, request, browser }) => {
  test.setTimeout(300_000);
  const circuits = KINDS.map((family, index) => ({ id: `c${index + 1}`, family, title: `Circuit ${index + 1}, ${LONG}` }));
  const readings = Array.from({ length: 200 }, (_, index) => ({
    id: `r${index + 1}`,
    circuit: `c${(index % 12) + 1}`,
    meter: "volts-dc",
    red: "bat+",
    black: "bat-",
    value: 12.4 + 0.01 * (index % 7),
  }));
  const made = await request.post("/api/jobs/import", {
    data: { format: "fox-lamp/job@1", vehicle: { name: `Minibus ${LONG}` }, complaint: `${LONG}. ${LONG}.`, circuits, readings },
  });
  expect(made.ok(), await made.text()).toBe(true);
  const { id } = (await made.json()) as { id: string };
  await page.goto(`/jobs/${id}/bench`);
  await idle(page);
  const strip = page.getByRole("navigation", { name: "Circuits", exact: true });
  await expect(strip.getByRole("button")).toHaveCount(12);
  await expect(rows(page)).not.toHaveCount(0);
  expect(await overflow(page)).toBeLessThanOrEqual(0);
  await strip.getByRole("button").last().click();
  await expect(page.getByRole("heading", { name: /^Circuit 12, the one/u }).first()).toBeVisible();
  await enterReading(page, (await field(page).count()) > 0 ? "4.98" : "Looks fine");
  const stored = async () => (await storedJob(page, id)).entries.filter(({ kind }) => kind === "reading").length;
  await expect.poll(stored).toBe(201);

  const state = await page.context().storageState();
  const phone = await (
    await browser.newContext({ storageState: state, viewport: { width: 390, height: 844 }, hasTouch: true, isMobile: true, serviceWorkers: "block" })
  ).newPage();
  await phone.goto(`/jobs/${id}/bench`);
  await idle(phone);
  expect(await overflow(phone)).toBeLessThanOrEqual(0);
  await phone.goto(`/jobs/${id}`);
  await expect(phone.getByRole("heading", { level: 1 })).toBeVisible();
  expect(await overflow(phone)).toBeLessThanOrEqual(0);
  await phone.context().close();
});
