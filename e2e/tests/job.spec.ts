import { expect, type Page, test } from "@playwright/test";
import { solveByKeyboard, storedJob } from "./helpers";
import { pdfText } from "./pdf";

/** Nobody is signed in at first. */
test.use({ storageState: { cookies: [], origins: [] } });

const idOf = (page: Page): string => /jobs\/([0-9a-f-]{36})/u.exec(page.url())?.[1] ?? "";

test("a whole job: from the front door and the complaint to the report, nothing replaced without proof", async ({ page }) => {
  test.setTimeout(300_000);
  await page.goto("/");
  await page.getByLabel("Short name or e-mail").fill("wren");
  await page.getByLabel("Password").fill("not-the-password");
  await page.getByRole("button", { name: "Sign in" }).click();
  await expect(page.getByRole("alert")).toHaveText("Name and password do not belong together.");
  await page.getByRole("button", { name: "Enter as Wren" }).click();

  // Intake: a vehicle of the register with its circuits, the complaint in the customer's words.
  await page.getByRole("link", { name: "New job" }).click();
  await page.getByRole("button", { name: "Open the job" }).click();
  await expect(page.getByText("Complaint, in the customer's words: this one is needed.")).toBeVisible();
  await page.getByLabel("Complaint, in the customer's words").fill("No power uphill, three lamps at once since the loom was moved.");
  await page.getByLabel("When it happens: hot, cold, wet, bumps, load").fill("On bumps");
  await page.getByLabel("Find it in the register: name, plate, make").fill("514 skua");
  await page.getByRole("button", { name: /^Unit 14/u }).click();
  await expect(page.getByText("4 circuits known of this vehicle")).toBeVisible();
  await page.getByLabel("Mileage, km").fill("88,940");
  await page.getByRole("button", { name: "Open the job" }).click();
  await expect(page.getByRole("heading", { level: 1, name: /^No power uphill/u })).toBeVisible();
  const id = idOf(page);

  // Battery first: weak, charged, measured again.
  const battery = page.getByRole("region", { name: "Battery first" });
  await battery.getByRole("button", { name: "Read from the simulated meter" }).click();
  await expect(battery.getByLabel("At rest, V")).not.toHaveValue("");
  await battery.getByRole("button", { name: "Save" }).click();
  await expect(battery).toContainText("Not fit for testing");
  await battery.getByRole("button", { name: "Measured again after charging" }).click();
  await battery.getByLabel("At rest, V").fill("twelve");
  await battery.getByRole("button", { name: "Save" }).click();
  await expect(battery.getByRole("alert")).toHaveText('"twelve" is not a number.');
  await battery.getByLabel("At rest, V").fill("12,66");
  await battery.getByLabel("Lowest while cranking, V").fill("10.7");
  await battery.getByText("Measured again after charging").click();
  await battery.getByRole("button", { name: "Save" }).click();
  await expect(battery).toContainText("Fit for testing.");
  await page.getByRole("button", { name: "Yes, seen" }).click();
  await expect(page.getByText("✓ The complaint was there when looked for.")).toBeVisible();

  // Codes from the adapter, the module's data while driving.
  await page.getByRole("button", { name: "To codes and data" }).click();
  await page.getByRole("button", { name: "Read codes from the adapter" }).click();
  const codes = page.getByRole("region", { name: "Codes", exact: true });
  for (const code of ["P0107", "P0122", "P0405"]) await expect(codes.getByText(code, { exact: true })).toBeVisible();
  await page.getByRole("button", { name: "Record a drive of 60 s" }).click();
  await expect(page.getByText(/^Throttle position stays at 0 %/u)).toBeVisible();
  await page.getByRole("button", { name: "Codes are saved: go on" }).click();

  // Triage: one fault could explain them all; what is seen before touching is a reading already.
  await expect(page.getByText(/^One fault could explain these three codes/u)).toBeVisible();
  const tree = page.getByRole("region", { name: "What one fault could explain" });
  for (const branch of ["Manifold pressure", "Throttle position", "EGR lift"]) await expect(tree.getByText(branch, { exact: true })).toBeVisible();
  const looks = page.getByRole("region", { name: "Look, before touching" });
  const look = looks.getByRole("listitem").filter({ hasText: "Throttle position seated" });
  await look.getByRole("button", { name: "Looks fine" }).click();
  await expect(look.getByRole("button", { name: "Looks fine" })).toHaveAttribute("aria-pressed", "true");
  await page.getByRole("button", { name: "Open the bench" }).click();

  await expect(page.getByRole("heading", { name: "Where it can still be" })).toBeVisible();
  await solveByKeyboard(page);
  const verdict = page.getByRole("region", { name: "Verdict" });
  await expect(verdict.getByRole("heading", { level: 2 })).toContainText("Reference wire, EGR lift");
  await verdict.getByRole("button", { name: "Record the verdict" }).click();
  await verdict.getByRole("link", { name: "Locate and repair" }).click();

  // Locate, repair, tasks.
  const locate = page.getByRole("region", { name: "Locate it" });
  await locate.getByLabel("Where: stretch, contact or branch").fill("C2 to sensor, at the bracket");
  await locate.getByRole("button", { name: "Add" }).click();
  await locate.getByLabel("How").selectOption("found");
  const which = locate.getByLabel("Which of them");
  if (await which.isVisible()) await which.selectOption("egr/wire:ref");
  await locate.getByLabel("Where: stretch, contact or branch").fill("60 mm behind C2, chafed through on the bracket");
  await locate.getByLabel("Damaged wires").fill("5");
  await expect(locate.getByText("5 damaged wires; this shop changes the loom from 4 on.")).toBeVisible();
  await locate.getByLabel("Damaged wires").fill("1");
  await locate.getByRole("button", { name: "Add" }).click();
  const done = page.getByRole("region", { name: "What was done" });
  await done.getByLabel("In words").fill("Reference wire repaired behind C2, sleeved, bracket edge covered");
  await done.getByRole("button", { name: "Write the repair down" }).click();
  const toCheck = page.getByRole("button", { name: "Repair is done: check it" });
  await expect(toCheck).toBeDisabled();
  const tasks = page.getByRole("region", { name: "Before the check" });
  for (const box of await tasks.getByRole("checkbox").all()) await box.check();
  await toCheck.click();

  // Check: before and after, codes, drive, complaint.
  const repeats = page.getByRole("region", { name: "The tests that failed, again" });
  const items = repeats.getByRole("listitem");
  await expect(items.first()).toBeVisible();
  const failed = await items.count();
  for (let index = 0; index < failed; index += 1) {
    await items.nth(index).getByRole("button", { name: "Read from the simulated instrument" }).click();
    // The last one done, the step folds to a line that says what came of it.
    if (index < failed - 1) await expect(items.nth(index).getByText("✓ as it should be")).toBeVisible();
  }
  await expect(repeats).toContainText(`${failed} of ${failed} tests repeated, as they should be.`);
  const step = (name: string) => page.getByRole("region", { name, exact: true });
  await expect(step("Clear the codes")).toHaveAttribute("aria-current", "step");
  await step("Clear the codes").getByRole("button", { name: "Clear the codes", exact: true }).click();
  const close = page.getByRole("region", { name: "Close the job" });
  await expect(close.getByText(/^Still lacking: driven, codes read again, complaint gone/iu)).toBeVisible();
  await page.getByLabel("Driven, with what was seen").fill("12 km with the hill, full load: all three values follow");
  await page.getByRole("region", { name: "Drive" }).getByRole("button", { name: "Save" }).click();
  await step("Read the codes again").getByRole("button", { name: "Read the codes again", exact: true }).click();
  await expect(step("Read the codes again")).toContainText("None came back.");
  await page.getByRole("button", { name: "It is gone" }).click();
  await close.getByLabel("For the customer, besides").fill("The wiper blades are worn.");
  await close.getByRole("button", { name: "Close the job", exact: true }).click();

  // The report, as screen and as PDF.
  const report = page.getByRole("article", { name: "For the customer" });
  await expect(report).toContainText("A wire to the EGR lift sensor was damaged".replace("EGR", "egr"));
  await expect(page.locator("[aria-busy=false] article").first()).toBeVisible();
  const download = page.waitForEvent("download");
  await page.getByRole("button", { name: "Save as PDF" }).click();
  const { pages, text } = await pdfText(await (await download).path());
  expect(pages).toBeGreaterThanOrEqual(2);
  for (const words of [
    "Tallow Bay Community Transport",
    "Unit 14",
    "No power uphill, three lamps at once",
    "A wire to the egr lift sensor was damaged",
    "Reference wire repaired behind C2",
    "P0405",
    "The wiper blades are worn.",
    "12 km with the hill",
  ])
    expect(text).toContain(words);

  const { entries } = await storedJob(page, id);
  expect(entries.every((entry) => (entry as unknown as { by: string }).by === "Wren Halloran")).toBe(true);
  expect(entries.filter(({ kind }) => kind === "verification").length).toBeGreaterThanOrEqual(3);
});

/** What a sound coolant circuit shows at its two cavities, by how one asks: signal, ground. */
const SHOWS = [
  ["from battery positive", "7.5", "12.5"],
  ["with 1.0 kΩ", "1.56", "0.01"],
  ["plugged and back-probed", "2.6", "0.01"],
  ["resistance to battery negative", "3.2k", "0.4"],
  ["against battery negative", "5.01", "0.01"],
] as const;

test("a part fitted before proof is asked about, and recorded with the odds", async ({ page }) => {
  await page.goto("/");
  await page.getByRole("button", { name: "Enter as Wren" }).click();
  await page.getByRole("link", { name: "New job" }).click();
  await page.getByLabel("Name or number in the fleet").fill("Loan car");
  await page.getByLabel("Complaint, in the customer's words").fill("Gauge stays cold.");
  await page.getByRole("button", { name: "Open the job" }).click();
  await expect(page.getByRole("heading", { level: 1, name: "Gauge stays cold." })).toBeVisible();
  const id = idOf(page);

  // No circuit known yet: one is put on the sheet, its cavities found by measuring.
  await page.goto(`/jobs/${id}/sheet`);
  await page.getByRole("button", { name: "Save the circuit" }).click();
  await expect(page.getByRole("alert").first()).toContainText("Needs a short name");
  await page.getByLabel("What it is called").fill("Coolant temperature");
  await page.getByLabel("Short name in readings").fill("ect");
  await page.getByLabel("Point 1, °C", { exact: true }).fill("20");
  await page.getByLabel("Point 1, Ω", { exact: true }).fill("2500");
  await page.getByLabel("Point 2, °C", { exact: true }).fill("80");
  await page.getByLabel("Point 2, Ω", { exact: true }).fill("warm");
  await expect(page.getByRole("alert").first()).toContainText("Line 2");
  await page.getByLabel("Point 2, Ω", { exact: true }).fill("320");
  await page.getByRole("button", { name: "Find the cavities by measuring" }).click();
  const identify = page.getByRole("dialog", { name: "Identify the cavities" });
  await identify.getByLabel("Names of the cavities, with spaces").fill("A B");
  await identify.getByRole("button", { name: "Begin" }).click();
  for (let asked = 0; asked < 6 && !(await identify.getByText("✓ Every cavity is settled.").isVisible()); asked += 1) {
    const question = (await identify.locator("form p").first().textContent()) ?? "";
    // B is the signal, A the ground of a sound circuit with the reference at 5 V.
    const signal = question.includes("Cavity B");
    const [, onSignal, onGround] = SHOWS.find(([words]) => question.includes(words)) ?? ["", "0", "0"];
    const value = signal ? onSignal : onGround;
    await identify.getByLabel("Reading").fill(value);
    await identify.getByRole("button", { name: "Take" }).click();
  }
  await identify.getByRole("button", { name: "Fill the sheet" }).click();
  await expect(page.getByLabel("Cavity: signal")).toHaveValue("B");
  await expect(page.getByLabel("Cavity: ground")).toHaveValue("A");
  await page.getByRole("button", { name: "Save the circuit" }).click();
  await expect(page.getByRole("region", { name: "Circuits" }).getByText("Coolant temperature", { exact: true })).toBeVisible();

  await page.goto(`/jobs/${id}/repair`);
  const gate = page.getByRole("region", { name: "Fit a part before proof?" });
  await expect(gate.getByText(/\d+ % likely to be the cause\. Nothing proves it yet\. About \d+ min lost/u)).toBeVisible();
  await gate.getByRole("button", { name: "Fit it anyway" }).click();
  const done = page.getByRole("region", { name: "What was done" });
  await expect(done).toBeVisible();
  await done.getByLabel("New part, Ω").fill("25k");
  await done.getByLabel("In words").fill("Coolant sensor replaced on the customer's wish");
  await done.getByRole("button", { name: "Write the repair down" }).click();
  await expect(page.getByText("Keep the old part until the verdict is proven")).toBeVisible();
  await expect.poll(async () => (await storedJob(page, id)).entries.filter(({ kind }) => kind === "repair").length).toBe(1);
  const { entries } = await storedJob(page, id);
  const override = entries.find(({ kind, body }) => kind === "decision" && body["decision"] === "override")?.body as { probability?: number } | undefined;
  expect(override?.probability).toBeGreaterThan(0);

  // The gauge still stays cold: the job ends elsewhere, never silently.
  await page.goto(`/jobs/${id}/check`);
  const close = page.getByRole("region", { name: "Close the job" });
  await close.getByLabel("How it ends").selectOption("refused");
  await expect(close.getByRole("button", { name: "Close the job", exact: true })).toBeDisabled();
  await close.getByLabel("Why").fill("The owner sells the car.");
  await close.getByRole("button", { name: "Close the job", exact: true }).click();
  await expect(page.getByRole("article", { name: "For the customer" })).toContainText("The repair was not wanted.");
});

test("a report whose typeface cannot be loaded is written with a plain one, and says so", async ({ page }) => {
  await page.route(/\.woff$/u, (route) => route.fulfill({ body: "no typeface", contentType: "font/woff" }));
  await page.goto("/");
  await page.getByRole("button", { name: "Enter as Wren" }).click();
  await page.getByText("Unit 5", { exact: true }).first().click();
  await page.getByRole("link", { name: "Closed" }).click();
  await expect(page.locator("[aria-busy=false] article").first()).toBeVisible();
  const download = page.waitForEvent("download");
  await page.getByRole("button", { name: "Save as PDF" }).click();
  const { text } = await pdfText(await (await download).path());
  expect(text).toContain("The purge valve itself was faulty.");
  await expect(page.getByRole("alert")).toHaveText("The PDF was written with a plain typeface: the shop's own could not be loaded.");
});
