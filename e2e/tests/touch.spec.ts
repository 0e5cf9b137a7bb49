import { type Browser, expect, type Page, test } from "@playwright/test";
import { enterReading, storedJob } from "./helpers";

/** A real car with one sensor: nothing is read by an instrument here. */
const FILE = {
  format: "fox-lamp/job@1",
  vehicle: { name: "Depot van 5", plate: "FL 505" },
  complaint: "Hesitates when it pulls away",
  circuits: [
    {
      id: "tps",
      family: "potentiometer-3w",
      title: "Throttle position",
      colours: { ref: "red", sig: "green", gnd: "black" },
      cavities: { ref: "A", sig: "B", gnd: "C" },
    },
  ],
  readings: [],
};
const DEVICES = [
  { name: "a laptop", viewport: { width: 1280, height: 800 }, phone: false },
  { name: "a phone", viewport: { width: 390, height: 844 }, phone: true },
] as const;

const idle = (page: Page) => expect(page.locator("main[aria-busy=false]")).toBeVisible({ timeout: 60_000 });

async function bench(browser: Browser, { viewport, phone }: (typeof DEVICES)[number]) {
  const context = await browser.newContext({ viewport, hasTouch: phone, isMobile: phone });
  const page = await context.newPage();
  const made = await page.request.post("/api/jobs/import", { data: FILE });
  const { id } = (await made.json()) as { id: string };
  await page.goto(`/jobs/${id}/bench`);
  await idle(page);
  const touch = async (name: RegExp): Promise<void> => {
    const target = page.getByRole("button", { name }).first();
    await (phone ? target.tap() : target.click());
  };
  return { context, page, id, touch };
}

for (const device of DEVICES) {
  test(`leads are put on by touching the drawing and the connector, on ${device.name}`, async ({ browser }) => {
    const { context, page, id, touch } = await bench(browser, device);
    const dialog = page.getByRole("dialog", { name: "A test of your own" });

    // Reference against ground at the part's own plug, as one does before anything else.
    await touch(/^Put leads by touch$/u);
    await expect(page.getByText("Touch the point where the red lead goes.")).toBeVisible();
    await touch(/^Red lead on .*reference.*sensor/iu);
    await expect(page.getByText("Now the point where the black lead goes.")).toBeVisible();
    await touch(/^Black lead on .*ground.*sensor/iu);
    await expect(dialog).toContainText("Reference at the sensor to ground at the sensor");
    await dialog.getByRole("button", { name: "Measure this" }).click();
    await expect(dialog).toHaveCount(0);
    await enterReading(page, "4.99");
    await expect
      .poll(async () => (await storedJob(page, id)).entries.flatMap(({ kind, body }) => (kind === "reading" ? [body["reading"]] : [])))
      .toMatchObject([{ meter: "volts-dc", red: "ref@sensor", black: "gnd@sensor", value: 4.99 }]);
    await idle(page);

    // The test at hand with its red lead in another cavity: all else stays as it was.
    const face = page.getByRole("button", { name: /^Red lead on [ABC], /u });
    for (let skipped = 0; skipped < 8 && (await face.count()) === 0; skipped += 1) {
      await page.getByRole("button", { name: "Cannot do this" }).click();
      await page.getByRole("dialog").getByRole("button", { name: "Cannot reach it" }).click();
      await idle(page);
    }
    await touch(/^Red lead on A, /u);
    await expect(dialog).toContainText(/^.*Reference at /u);
    await context.close();
  });
}

test("what is taken back says what it was and can be put back; no single key takes anything", async ({ browser }) => {
  const { context, page, id } = await bench(browser, DEVICES[0]);
  await expect(page).toHaveTitle("Depot van 5, bench · Fox Lamp");
  await enterReading(page, "0.72");
  const rows = page.getByRole("region", { name: "Readings" }).first().getByRole("listitem");
  await expect(rows).toHaveCount(1);
  await idle(page);
  const asked = page.getByRole("dialog", { name: "Does this reading fit?" });
  if (await asked.isVisible()) await asked.getByRole("button", { name: /^Keep/u }).click();
  for (const key of ["u", "Delete", "Backspace"]) await page.keyboard.press(key);
  await expect(rows).toHaveCount(1);
  await page.keyboard.press("Control+z");
  await expect(rows).toHaveCount(0);
  await expect(page.getByText(/^Taken back: r1, .*0\.72 V$/u)).toBeVisible();
  await page.getByRole("button", { name: "Put back" }).click();
  await expect(rows).toHaveCount(1);
  await expect(rows.first()).toContainText("r1");
  await expect.poll(async () => (await storedJob(page, id)).entries.filter(({ kind }) => kind === "retraction").length).toBe(2);
  await page.reload();
  await idle(page);
  await expect(rows).toHaveCount(1);
  await context.close();
});

test("cavities are found in one's own order, and what was measured is the job's", async ({ browser }) => {
  const { context, page, id } = await bench(browser, DEVICES[0]);
  await page.goto(`/jobs/${id}/sheet/tps`);
  await expect(page).toHaveTitle("Depot van 5, circuit sheet · Fox Lamp");
  await page.getByRole("button", { name: "Find the cavities by measuring" }).click();
  const identify = page.getByRole("dialog", { name: "Identify the cavities" });
  await identify.getByLabel("Names of the cavities, with spaces").fill("1 2 3");
  await identify.getByRole("button", { name: "Begin" }).click();
  const measure = async (cavity: string, question: string, value: string): Promise<void> => {
    await identify.getByLabel("Cavity", { exact: true }).selectOption(cavity);
    await identify.getByLabel("What is measured").selectOption(question);
    await identify.getByLabel("Reading").fill(value);
    await identify.getByRole("button", { name: "Take", exact: true }).click();
  };
  // The wire that moves first, then which of the others is at ground: nobody began with volts at cavity 1.
  await measure("2", "moves", "0.68 to 4.21");
  await expect(identify.getByRole("list", { name: "What is known so far" })).toContainText("2 is the signal");
  await measure("3", "ohms-to-ground", "0.4");
  await identify.getByRole("button", { name: "Fill the sheet" }).click();
  await expect(page.getByLabel("Cavity: signal")).toHaveValue("2");
  await expect(page.getByLabel("Cavity: ground")).toHaveValue("3");
  await page.getByRole("button", { name: "Save the circuit" }).click();
  await expect
    .poll(async () => (await storedJob(page, id)).entries.flatMap(({ kind, body }) => (kind === "reading" ? [body["reading"]] : [])))
    .toMatchObject([
      { red: "sig@sensor", record: "min-max", value: { min: 0.68, max: 4.21 } },
      { red: "gnd@sensor", meter: "ohms", value: 0.4 },
    ]);
  // What a sound throttle shows accuses nobody.
  await page.goto(`/jobs/${id}/bench`);
  await idle(page);
  await expect(page.getByRole("region", { name: "Readings" }).first().getByText("!", { exact: true })).toHaveCount(0);
  await context.close();
});
