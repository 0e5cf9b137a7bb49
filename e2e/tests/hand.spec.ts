import { type Browser, expect, type Page, test } from "@playwright/test";
import { enterReading, pick, storedJob } from "./helpers";

/** A real car: nothing is read by an instrument here, all is typed. */
const FILE = {
  format: "fox-lamp/job@1",
  vehicle: { name: "Depot van 3", plate: "FL 303" },
  complaint: "Dies on rough roads",
  circuits: [
    {
      id: "cam",
      family: "hall-3w",
      title: "Cam position",
      inline: ["C1"],
      colours: { feed: "red", sig: "green", gnd: "black" },
      with: { feedV: 12, pullupV: 5 },
    },
    { id: "map", family: "pressure-3w", title: "Manifold pressure", colours: { ref: "red", sig: "green", gnd: "black" } },
    { id: "tps", family: "potentiometer-3w", title: "Throttle position", colours: { ref: "red", sig: "green", gnd: "black" } },
  ],
  readings: [],
};

const DEVICES = [
  { name: "a laptop", viewport: { width: 1280, height: 800 }, phone: false },
  { name: "a phone", viewport: { width: 390, height: 844 }, phone: true },
] as const;
type Device = (typeof DEVICES)[number];

const idle = (page: Page) => expect(page.locator("main[aria-busy=false]")).toBeVisible({ timeout: 60_000 });
const overflow = (page: Page) => page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);

interface Stored {
  readonly meter: string;
  readonly red: string;
  readonly setup?: Record<string, unknown>;
  readonly value: unknown;
  readonly [more: string]: unknown;
}

/** A job on a real car's bench, and what the server has of its readings. */
async function bench(browser: Browser, { viewport, phone }: Device, file: object = FILE) {
  const context = await browser.newContext({ viewport, hasTouch: phone, isMobile: phone, colorScheme: "dark" });
  const page = await context.newPage();
  const made = await page.request.post("/api/jobs/import", { data: file });
  expect(made.ok(), await made.text()).toBe(true);
  const { id } = (await made.json()) as { id: string };
  await page.goto(`/jobs/${id}/bench`);
  await idle(page);
  const readings = async (): Promise<Stored[]> =>
    (await storedJob(page, id)).entries.flatMap(({ kind, body }) => (kind === "reading" ? [(body as unknown as { reading: Stored }).reading] : []));
  return { context, page, id, readings };
}

/** Opens the test of one's own as that device does: by its letter, or through the menu. */
async function ownTest(page: Page, phone: boolean) {
  const dialog = page.getByRole("dialog", { name: "A test of your own" });
  const question = page.getByRole("dialog", { name: "Does this reading fit?" });
  // The question about the reading before may come up in between; it is answered, and the test opened again.
  await expect(async () => {
    if (await question.isVisible()) await question.getByRole("button", { name: /^Keep/u }).click();
    if (await dialog.isVisible()) return;
    if (phone) {
      await page.getByRole("button", { name: "Other tests" }).tap({ timeout: 5000 });
      await page.getByRole("button", { name: /A test of your own/u }).tap({ timeout: 5000 });
    } else await page.keyboard.press("b");
    await expect(dialog).toBeVisible({ timeout: 8000 });
  }).toPass({ timeout: 90_000 });
  return dialog;
}

for (const device of DEVICES) {
  test.describe(`on ${device.name}`, () => {
    test("a resistor of any ohms, a jumper, a moved connector and steel at the tip are put together, foreseen and kept", async ({ browser }) => {
      test.setTimeout(600_000);
      const { context, page, readings } = await bench(browser, device);
      // A resistor of 3.3 kilo-ohm from the reference to the signal of the pressure sensor's plug: the module's pull-down makes little of it.
      let dialog = await ownTest(page, device.phone);
      await pick(page, dialog, "Circuit", "manifold");
      await pick(page, dialog, "Instrument", "scan data");
      await pick(page, dialog, "Value of", "signal at the sensor");
      await dialog.getByRole("checkbox", { name: "Pressure sensor" }).check();
      await dialog.getByRole("button", { name: "Put something in" }).click();
      await dialog.getByLabel("What", { exact: true }).selectOption({ label: "Resistor" });
      await expect(dialog.getByText("Expected the ohms of the resistor")).toBeVisible();
      await expect(dialog.getByRole("button", { name: "Measure this" })).toBeDisabled();
      await dialog.getByLabel("Ohms", { exact: true }).fill("3k3");
      await pick(page, dialog, "From", "reference at the sensor");
      await pick(page, dialog, "To", "signal at the sensor");
      // Some 5 V through 3.3 kilo-ohm into a far weaker pull-down: nearly the reference.
      await expect(dialog.getByText(/^4\.\d\d to [45]\.\d\d V$/u)).toBeVisible({ timeout: 60_000 });
      await expect(dialog.getByText(/resistor's ohms/u)).toBeVisible();
      await expect(dialog.getByText("Fused lead only", { exact: false })).toHaveCount(0);
      expect(await overflow(page)).toBeLessThanOrEqual(0);
      await dialog.getByRole("button", { name: "Measure this" }).click();
      await expect(page.getByRole("heading", { name: /^Manifold pressure: signal, what the module reads/u })).toBeVisible();
      await enterReading(page, "4.9");
      await expect.poll(readings).toMatchObject([
        {
          circuit: "map",
          meter: "scan",
          red: "sig@module",
          value: 4.9,
          setup: { key: "on", open: ["sensor"], add: [{ kind: "resistor", from: "ref@sensor", to: "sig@sensor", ohms: 3300 }] },
        },
      ]);
      await idle(page);

      // A jumper nobody proposes, on another circuit; put on the wrong point it is refused before anything is done.
      dialog = await ownTest(page, device.phone);
      await pick(page, dialog, "Circuit", "throttle");
      await dialog.getByRole("checkbox", { name: "Position sensor" }).check();
      await dialog.getByRole("button", { name: "Put something in" }).click();
      await pick(page, dialog, "To", "battery negative");
      await pick(page, dialog, "From", "battery negative");
      await expect(dialog.getByText("Both ends are on the same point")).toBeVisible();
      await pick(page, dialog, "From", "signal at the sensor throttle");
      await expect(dialog.getByText("Fused lead only", { exact: false })).toBeVisible({ timeout: 60_000 });
      await dialog.getByRole("button", { name: "Measure this" }).click();
      await enterReading(page, "15m");
      await expect
        .poll(async () => (await readings()).at(-1))
        .toMatchObject({ circuit: "tps", value: 0.015, setup: { add: [{ kind: "jumper", to: "bat-" }] } });
      await idle(page);

      // A ground is borrowed from another circuit: title and drawing say whose it is.
      dialog = await ownTest(page, device.phone);
      await pick(page, dialog, "Circuit", "throttle");
      await pick(page, dialog, "Red lead on", "reference at the sensor");
      await pick(page, dialog, "Black lead on", "ground at the sensor, cam");
      await expect(dialog.getByRole("combobox", { name: /^Black lead on/u })).toContainText("Cam");
      await dialog.getByRole("button", { name: "Measure this" }).click();
      await expect(page.getByRole("heading", { name: /reference at the sensor to ground at the sensor of cam/u })).toBeVisible();
      await expect(page.getByText(/Sensor connector of cam/u)).toBeVisible();
      await enterReading(page, "5.0");
      await expect.poll(async () => (await readings()).at(-1)).toMatchObject({ circuit: "tps", red: "ref@sensor", black: "cam:gnd@sensor", value: 5 });
      await idle(page);

      // The cam's inline connector is moved while lowest and highest are kept.
      dialog = await ownTest(page, device.phone);
      await pick(page, dialog, "Circuit", "cam");
      await pick(page, dialog, "Red lead on", "feed at c1");
      await dialog.getByRole("checkbox", { name: "Keep lowest and highest" }).check();
      await dialog.getByLabel("Meanwhile").selectOption({ label: "moved" });
      await pick(page, dialog, "Where", "c1");
      await expect(dialog.getByText(/apart$/u)).toBeVisible({ timeout: 60_000 });
      await dialog.getByRole("button", { name: "Measure this" }).click();
      await enterReading(page, "0.2 to 12.3");
      await expect
        .poll(async () => (await readings()).at(-1))
        .toMatchObject({
          circuit: "cam",
          red: "feed@C1",
          record: "min-max",
          value: { min: 0.2, max: 12.3 },
          setup: { stimulus: { kind: "wiggle", at: "C1" } },
        });
      await idle(page);

      // Steel and no steel, each said without knowing which level that is.
      for (const [steel, value] of [
        ["yes", "0.1"],
        ["no", "4.95"],
      ] as const) {
        dialog = await ownTest(page, device.phone);
        await pick(page, dialog, "Circuit", "cam");
        await dialog.getByLabel("Steel at the tip").selectOption({ label: steel });
        await dialog.getByRole("button", { name: "Measure this" }).click();
        await enterReading(page, value);
        await expect.poll(async () => (await readings()).at(-1)).toMatchObject({ value: Number(value), setup: { steel: steel === "yes" ? "at" : "away" } });
        await idle(page);
      }

      // A test that is cancelled leaves nothing behind.
      const before = (await readings()).length;
      const title = page
        .getByRole("region", { name: /^(Next|Your choice)/u })
        .getByRole("heading")
        .first();
      const proposed = await title.textContent();
      dialog = await ownTest(page, device.phone);
      await pick(page, dialog, "Instrument", "ohms");
      await page.keyboard.press("Escape");
      await expect(dialog).toHaveCount(0);
      await expect(title).toHaveText(proposed ?? "");
      dialog = await ownTest(page, device.phone);
      await expect(dialog.getByRole("combobox", { name: "Instrument" })).toContainText("DC volts");
      await page.keyboard.press("Escape");
      expect((await readings()).length).toBe(before);
      await context.close();
    });

    test("three lines of the moment it failed are entered as one act, and a book's limits stand beside the window", async ({ browser }) => {
      test.setTimeout(600_000);
      const { context, page, readings } = await bench(browser, device);
      await page.getByRole("button", { name: "The book says something else?" }).click();
      await page.getByLabel("The book says").fill("about five");
      await expect(page.getByText('"about five" is no limit', { exact: false })).toBeVisible();
      await page.getByLabel("The book says").fill("4.95 to 5.05");
      await page.getByLabel("Where", { exact: true }).fill("page 12");
      await enterReading(page, "4.2");
      await expect.poll(readings).toMatchObject([{ value: 4.2, limits: { low: 4.95, high: 5.05, source: "page 12" } }]);
      await idle(page);
      if (device.phone) await page.getByRole("tab", { name: /^Readings/u }).tap();
      await expect(page.getByText("book: 4.95 to 5.05 V (page 12)")).toBeVisible();
      if (device.phone) await page.getByRole("tab", { name: "Test" }).tap();
      if (device.phone) {
        await page.getByRole("button", { name: "everything" }).tap();
        await page.getByPlaceholder("Type what you want to do").fill("watch");
        await page.keyboard.press("Enter");
      } else await page.keyboard.press("w");
      const dialog = page.getByRole("dialog", { name: /^Watch/u });
      await dialog.getByRole("button", { name: "Enter these lines" }).click();
      await expect(dialog.getByRole("alert")).toContainText("Nothing was typed");
      await dialog.getByRole("button", { name: "the loom" }).click();
      const lines = dialog.getByRole("textbox");
      await expect(lines).toHaveCount(3);
      await lines.nth(0).fill("0.3 to 5.0");
      await lines.nth(1).fill("much");
      await lines.nth(2).fill("12m");
      await dialog.getByRole("button", { name: "Enter these lines" }).click();
      await expect(dialog.getByText('"much" is not a reading', { exact: false })).toBeVisible();
      expect(await readings()).toHaveLength(1);
      await lines.nth(1).fill("0.1");
      await dialog.getByRole("button", { name: "Enter these lines" }).click();
      await expect(dialog.getByText(/3 lines entered/u)).toBeVisible();
      await expect
        .poll(async () => (await readings()).slice(1).map(({ value, symptom }) => [value, symptom]))
        .toEqual([
          [{ min: 0.3, max: 5 }, true],
          [0.1, true],
          [0.012, true],
        ]);
      await dialog.getByRole("button", { name: "Close" }).click();
      await idle(page);
      if (await page.getByRole("dialog", { name: "Does this reading fit?" }).isVisible()) await page.getByRole("button", { name: /^Keep/u }).click();
      await context.close();
    });

    test("nothing runs out of the screen at any size of text, and what is touched is large enough", async ({ browser }) => {
      test.setTimeout(600_000);
      const { context, page, id } = await bench(browser, device);
      for (const scale of ["150%", "200%"]) {
        // As in a browser whose text somebody has made larger: there before the page is.
        const sized = await context.newPage();
        await sized.addInitScript((size) => {
          const style = document.createElement("style");
          style.textContent = `html { font-size: ${size} !important; }`;
          document.documentElement.append(style);
        }, scale);
        for (const path of ["/", "", "/codes", "/triage", "/bench", "/repair", "/check", "/settings", "/jobs/new"]) {
          const inJob = ["", "/codes", "/triage", "/bench", "/repair", "/check"].includes(path);
          await sized.goto(inJob ? `/jobs/${id}${path}` : path);
          await expect(sized.locator("main").first()).toBeVisible();
          if (path === "/bench") await idle(sized);
          await expect.poll(() => overflow(sized), { message: `${path} at ${scale}` }).toBeLessThanOrEqual(0);
        }
        await sized.close();
      }
      await page.goto(`/jobs/${id}/bench`);
      await idle(page);
      const small = await page
        .locator("main button:visible, main input:not([type=checkbox]):not([type=radio]):visible, main select:visible, header a:visible")
        .evaluateAll((elements) =>
          elements.flatMap((element) => {
            const { width, height } = element.getBoundingClientRect();
            return height < 43.5 || width < 43.5
              ? [`${element.textContent?.trim() || element.getAttribute("aria-label")}: ${Math.round(width)}x${Math.round(height)}`]
              : [];
          }),
        );
      expect(small).toEqual([]);
      await context.close();
    });
  });
}

test("a car that does not start is asked for no idle, and the fact stands on the bench", async ({ browser }) => {
  const [laptop] = DEVICES;
  const { context, page, id } = await bench(browser, laptop);
  await page.goto(`/jobs/${id}`);
  await page.getByLabel("Engine", { exact: true }).selectOption({ label: "Does not start" });
  await page.getByLabel("Altitude").fill("300 kPa");
  await expect(page.getByText('"300 kPa" is no altitude', { exact: false })).toBeVisible();
  await page.getByLabel("Altitude").fill("1.2 km");
  await page.getByLabel("Altitude").blur();
  await expect
    .poll(async () => (await storedJob(page, id)).entries.filter(({ kind }) => kind === "conditions").at(-1)?.body)
    .toMatchObject({
      facts: { engine: "does-not-start", altitudeMetres: 1200 },
    });
  await page.goto(`/jobs/${id}/bench`);
  await idle(page);
  await expect(page.getByText("Does not start · 1200 m above the sea")).toBeVisible();
  await page.getByRole("button", { name: "Other tests" }).click();
  const offered = page.getByRole("dialog", { name: "Other tests" });
  await expect(offered.getByRole("button").first()).toBeVisible();
  await expect(offered.getByText(/idling|at idle|revving/u)).toHaveCount(0);
  await context.close();
});

test("every list tells two circuits of a job apart", async ({ browser }) => {
  const [laptop] = DEVICES;
  const { context, page } = await bench(browser, laptop);
  const titles = ["Cam position", "Manifold pressure", "Throttle position"];
  const named = (text: string): boolean => titles.some((title) => text.includes(title));
  await expect(page.getByRole("region", { name: /^Next/u }).getByRole("heading").first()).toContainText(new RegExp(titles.join("|"), "u"));
  await page.keyboard.press("o");
  const offered = page.getByRole("dialog", { name: "Other tests" }).getByRole("button");
  await expect(offered.filter({ hasText: "Cam position" }).first()).toBeVisible();
  const others = await offered.allTextContents();
  expect(others.filter((text) => !named(text) && !text.startsWith("A test of your own"))).toEqual([]);
  await page.keyboard.press("Escape");
  await page.keyboard.press("k");
  const tests = page.getByRole("group", { name: "Tests", exact: true }).getByRole("option");
  await expect(tests.first()).toBeVisible();
  expect((await tests.allTextContents()).filter((text) => !named(text))).toEqual([]);
  await page.keyboard.press("Escape");
  await expect(tests).toHaveCount(0);
  await enterReading(page, "4.98");
  await expect(page.getByRole("region", { name: "Readings" }).first().getByRole("listitem").first()).toContainText(new RegExp(titles.join("|"), "u"));
  await context.close();
});
