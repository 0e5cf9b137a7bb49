import { AxeBuilder } from "@axe-core/playwright";
import { expect, type Page, test } from "@playwright/test";
import { enterReading, pick } from "./helpers";

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

const LIMITS = `family,meter,red,key,low,high,unit,source,make,model
potentiometer-3w,volts-dc,ref@sensor,on,4.5,5.5,V,Shelf book,Testmake,
potentiometer-3w,volts-dc,ref@sensor,on,x,5.05,V,Model sheet,Testmake,Heron
potentiometer,volts-dc,gnd@sensor,on,0,100,mV,Shelf book,Testmake,
potentiometer-3w,volts-dc,sig@sensor,on,0.3,0.9,V,,Testmake,
potentiometer-3w,volts-dc,ref@sensor,on,5.6,6.2,V,Copied list,Testmake,`;
const CURVE = `name,family,kind,x,y,source,make\n${[
  [0, 0.5],
  [25, 1.5],
  [50, 2.5],
  [75, 3.5],
  [100, 4.5],
]
  .map(([x, y]) => `Bench throttle,potentiometer-3w,position-volts,${x},${y},Shelf book,Testmake`)
  .join("\n")}`;

/** Opens a pasted table, mends what is given, and puts it on the shelf. */
async function bringIn(page: Page, table: string, mend: () => Promise<void>): Promise<void> {
  await page.goto("/shelf");
  await page.getByRole("button", { name: "Import a CSV" }).click();
  await page.getByLabel(/^Or paste it/u).fill(table);
  await page.getByRole("button", { name: "Read it" }).click();
  await mend();
  await page.getByRole("button", { name: "Check them" }).click();
  await page.getByRole("button", { name: /^Put (it|\d+) on the shelf$/u }).click();
  await expect(page.getByText(/^\d+ came\.$/u)).toBeVisible();
}

test("a table with three bad rows is mended and comes at once; its curve is used on the sheet, its limits disagree at the reading, and it goes at once", async ({
  page,
}) => {
  await bringIn(page, LIMITS, async () => {
    const dialog = page.getByRole("dialog");
    await expect(dialog.getByText("3 cells cannot be read")).toBeVisible();
    await expect(dialog.getByText('Row 3, low: "x" is no number')).toBeVisible();
    await expect(dialog.getByText('Row 4, family: "potentiometer" is no family')).toBeVisible();
    await expect(dialog.getByText("Row 5, source: is empty")).toBeVisible();
    await expect(dialog.getByRole("button", { name: "Check them" })).toBeDisabled();
    await dialog.getByLabel("Row 3, low", { exact: true }).fill("4.95");
    await dialog.getByLabel("Row 4, family", { exact: true }).selectOption("potentiometer-3w");
    await dialog.getByLabel("Row 5, source", { exact: true }).fill("Shelf book");
    await dialog.getByRole("button", { name: "Check them" }).click();
    // What cannot be is told with its reason before it comes.
    await expect(dialog.getByText(/^This cannot be right: 6.2 V lies above what feeds it/u)).toBeVisible();
    expect((await new AxeBuilder({ page }).analyze()).violations.map(({ id: rule, nodes }) => `${rule} ${nodes[0]?.html}`)).toEqual([]);
    await dialog.getByRole("button", { name: "Another file" }).click();
    await dialog
      .getByLabel(/^Or paste it/u)
      .fill(LIMITS.replace(",x,", ",4.95,").replace("potentiometer,", "potentiometer-3w,").replace("V,,", "V,Shelf book,"));
    await dialog.getByRole("button", { name: "Read it" }).click();
  });
  await bringIn(page, CURVE, async () => undefined);
  await page.getByLabel("Find: vehicle, pin, source").fill("testmake");
  await expect(page.getByText("6 found")).toBeVisible();
  await page.getByRole("button", { name: /Reference at the sensor.*Testmake Heron/u }).click();
  await expect(page.getByText(/^Shelf book says something else: .+ Model sheet is used/u)).toBeVisible();
  await expect(page.getByText(/^This cannot be right: 6.2 V/u)).toBeVisible();
  expect((await new AxeBuilder({ page }).analyze()).violations.map(({ id: rule, nodes }) => `${rule} ${nodes[0]?.html}`)).toEqual([]);

  // A job on a car of this model: the curve is taken from the shelf, and the reading passes by one book and fails by the other.
  const circuits = [{ id: "tps", family: "potentiometer-3w", title: "Throttle" }];
  const reading = { circuit: "tps", meter: "volts-dc", red: "ref@sensor", black: "gnd@sensor", setup: { key: "on" }, value: 4.9 };
  const vehicle = { name: "Unit 64", make: "Testmake", model: "Heron", year: 2016 };
  const { id } = await (
    await page.request.post("/api/jobs/import", { data: { format: "fox-lamp/job@1", vehicle, complaint: "Limp home", circuits, readings: [reading] } })
  ).json();
  await page.goto(`/jobs/${id}/sheet/tps`);
  await page.getByRole("button", { name: "Bench throttle, Shelf book" }).click();
  await expect(page.getByLabel("Point 3, V", { exact: true })).toHaveValue("2.5");
  // Half of the way between two points of a straight line.
  await page.getByLabel("Read it at, %", { exact: true }).fill("60");
  await expect(page.getByText("is 2.9 V")).toBeVisible();
  await page.getByLabel("Read it at, V", { exact: true }).fill("3.7");
  await expect(page.getByText("is 80 %")).toBeVisible();
  await page.getByLabel("Point 3, V", { exact: true }).fill("2.9");
  await expect(page.getByText(/^Point 3 \(50, 2\.9\) does not fit the others/u)).toBeVisible();
  await page.getByLabel("Point 3, V", { exact: true }).fill("2.5");
  await page.getByRole("button", { name: "Save the circuit" }).click();
  await expect
    .poll(async () => (await (await page.request.get(`/api/jobs/${id}`)).json()).circuits[0].with?.transfer)
    .toEqual([
      [0, 0.5],
      [25, 1.5],
      [50, 2.5],
      [75, 3.5],
      [100, 4.5],
    ]);
  await page.goto(`/jobs/${id}/bench`);
  const log = page.getByRole("region", { name: "Readings" });
  await expect(log.getByText("It passes by Shelf book and fails by Model sheet. Model sheet is the more specific and is used.")).toBeVisible({
    timeout: 60_000,
  });
  // The test at hand, put together freely: the shelf's limit stands at it and goes with the reading.
  await page.keyboard.press("b");
  const dialog = page.getByRole("dialog", { name: "A test of your own" });
  await pick(page, dialog, "Red lead on", "reference at the sensor");
  await dialog.getByRole("button", { name: "Measure this" }).click();
  await expect(page.getByText("4.95 to 5.05 V (Model sheet)")).toBeVisible();
  await expect(page.getByText(/^Model sheet and Shelf book differ: a reading of .+ passes by Shelf book and fails by Model sheet\.$/u)).toBeVisible();
  await enterReading(page, "5.01");
  await expect
    .poll(async () => {
      const { entries } = (await (await page.request.get(`/api/jobs/${id}`)).json()) as {
        entries: { kind: string; body: { reading?: { limits?: object } } }[];
      };
      return entries.filter(({ kind }) => kind === "reading").at(-1)?.body.reading?.limits;
    })
    .toEqual({ low: 4.95, high: 5.05, source: "Model sheet" });
  await expect(log.getByText("The book's limits count as this circuit's reference voltage.").first()).toBeVisible({ timeout: 60_000 });

  // Both imports go at once, and leave what stood there before.
  await page.goto("/shelf?q=testmake");
  for (let left = 2; left > 0; left -= 1) {
    await page.getByRole("button", { name: "Take it back" }).first().click();
    await page.getByRole("dialog").getByRole("button", { name: "Take it back" }).click();
    await expect(page.getByText(/records? are off the shelf\.$/u).first()).toBeVisible();
    await expect(page.getByRole("button", { name: "Take it back" })).toHaveCount(left);
  }
  await expect(page.getByText("0 found")).toBeVisible();
});

test("which reference a circuit has is settled by measuring; a limit holds at its altitude and speed; a curve's tolerance is the sheet's", async ({ page }) => {
  const circuits = [{ id: "map", family: "pressure-3w", title: "Manifold pressure" }];
  const file = { format: "fox-lamp/job@1", vehicle: { name: "Unit 66", make: "Heightmake", model: "Peak" }, complaint: "Black smoke", circuits, readings: [] };
  const { id } = await (await page.request.post("/api/jobs/import", { data: file })).json();
  const table = [
    "make,family,meter,red,black,key,rpm,load,altitude,low,high,unit,source",
    "Heightmake,pressure-3w,volts-dc,sig@sensor,bat-,on,,,0-500,3.7,4.5,V,Book at the sea",
    "Heightmake,pressure-3w,volts-dc,sig@sensor,bat-,on,,,1800-2200,2.8,3.5,V,Book in the hills",
  ].join("\n");
  await bringIn(page, table, async () => undefined);
  await page.goto("/shelf?q=heightmake");
  await expect(page.getByText(/0 to 500 m above the sea/u)).toBeVisible();
  // The shop stands at the sea: only the limit for there is at the test.
  await page.goto(`/jobs/${id}/bench`);
  await expect(page.getByRole("button", { name: "Take", exact: true })).toBeVisible({ timeout: 60_000 });
  await page.keyboard.press("b");
  const own = page.getByRole("dialog", { name: "A test of your own" });
  await pick(page, own, "Red lead on", "signal at the sensor");
  await own.getByRole("button", { name: "Measure this" }).click();
  await expect(page.getByText("3.7 to 4.5 V (Book at the sea)")).toBeVisible({ timeout: 60_000 });
  await expect(page.getByText(/Book in the hills/u)).toHaveCount(0);

  await page.goto(`/jobs/${id}/sheet/map`);
  await page.getByRole("button", { name: "Which one is it? Measure" }).click();
  const which = page.getByRole("dialog", { name: "Which reference is it?" });
  // 7.9 V well below a battery of 12.6 V is a regulator's 8 V; 12.4 V would be asked about again with the engine running.
  await which.getByLabel("The reference, key on, V").fill("12.4");
  await which.getByLabel("Battery, at the same moment, V").fill("12.6");
  await expect(which.getByText(/may be the battery's own feed/u)).toBeVisible();
  await which.getByLabel("The reference, key on, V").fill("7.9");
  await expect(which.getByText("A reference of 8 V, made by the module.")).toBeVisible();
  expect((await new AxeBuilder({ page }).analyze()).violations.map(({ id: rule, nodes }) => `${rule} ${nodes[0]?.html}`)).toEqual([]);
  await which.getByRole("button", { name: "Put 8 V on the sheet" }).click();
  await expect(page.getByLabel("Reference voltage, V")).toHaveValue("8");
  await page.getByLabel("Reference voltage, V").fill("5 ± 0.1");
  await page.getByRole("button", { name: "Save the circuit" }).click();
  await expect
    .poll(async () => {
      const job = (await (await page.request.get(`/api/jobs/${id}`)).json()) as { circuits: { with?: object }[] };
      return job.circuits[0]?.with;
    })
    .toMatchObject({ vref: { value: 5, from: "specified", spread: 0.1 } });
  await page.goto("/shelf?q=heightmake");
  await page.getByRole("button", { name: "Take it back" }).first().click();
  await page.getByRole("dialog").getByRole("button", { name: "Take it back" }).click();
  await expect(page.getByText("0 found")).toBeVisible();
});

test("what a calculator gives goes back to the bench as a reading, and a card's live block is moved", async ({ page }) => {
  const circuits = [{ id: "ect", family: "thermistor-2w", title: "Coolant temperature", with: { pullup: 2200, pullupV: 5 } }];
  const readings = [{ circuit: "ect", meter: "volts-dc", red: "sig@sensor", black: "bat-", setup: { key: "on" }, value: 3.1 }];
  const file = { format: "fox-lamp/job@1", vehicle: { name: "Unit 65" }, complaint: "Fan runs at once", circuits, readings };
  const { id } = await (await page.request.post("/api/jobs/import", { data: file })).json();
  await page.goto(`/calculators/divider?supply=5&pull=2200&sensor=2200&job=${id}`);
  expect(await answerOf(page)).toBe("2.5 V");
  await page.getByRole("button", { name: "Use as expected value" }).click();
  await expect(page).toHaveURL(new RegExp(`/jobs/${id}/bench$`, "u"));
  // Two parts of 1 %: 0.99 of 1.99 and 1.01 of 2.00 parts of 5 V.
  await expect(page.getByLabel("The book says")).toHaveValue("2.475 to 2.525 V");
  await page.goBack();
  await page.getByRole("button", { name: "Use as reading" }).click();
  await expect(page.locator("input[aria-describedby=entry-problem]")).toHaveValue("2.5 V", { timeout: 60_000 });
  await page.getByRole("link", { name: "About this circuit" }).click();
  await expect(page.getByRole("heading", { name: "Temperature sensor, two wires" })).toBeVisible();
  await expect(page.getByText("Coolant temperature: a pull-up of 2200 Ω to 5 V")).toBeVisible();
  await page.getByLabel("Find a card").fill("averaging meter");
  await page.getByRole("link", { name: "The averaging meter" }).click();
  const figure = page.getByRole("figure");
  await expect(figure.getByText("0.59 V")).toBeVisible();
  await figure.getByLabel("Share of the time high").fill("50");
  await expect(figure.getByText("2.55 V")).toBeVisible();
  expect((await new AxeBuilder({ page }).analyze()).violations.map(({ id: rule, nodes }) => `${rule} ${nodes[0]?.html}`)).toEqual([]);
});
