import { randomUUID } from "node:crypto";
import { readFileSync } from "node:fs";
import { AxeBuilder } from "@axe-core/playwright";
import { expect, type Page, test } from "@playwright/test";

// Captures written by hand, from what the circuits are: a hall sensor on a wheel of twelve teeth whose ground lifts for a while.

const RATE = 20_000;

/** The course of feed, signal and ground; while its ground is lost the sensor lets go of its line and floats up to its feed. */
function captureCsv(lost: { from: number; to: number } | null): string {
  const rows = Array.from({ length: RATE }, (_, at) => {
    const time = at / RATE;
    const gone = lost !== null && time >= lost.from && time < lost.to;
    // 800 turns a minute, twelve teeth of which the last is missing.
    const place = ((time * 800) / 60) % 1;
    const tooth = Math.floor(12 * place);
    const high = tooth < 11 && 12 * place - tooth < 0.5;
    const ripple = 0.01 * Math.sin(at * 1.7);
    return [time.toFixed(5), (13.9 + ripple).toFixed(3), (gone ? 5.02 : high ? 5.02 : 0.12).toFixed(2), (gone ? 13.6 : 0.03 + ripple).toFixed(3)].join(";");
  });
  return ["# workshop scope", "Time (s);sig.feed (V);cam (V);cam gnd (V)", ...rows].join("\r\n").replaceAll(".", ",").replace("sig,feed", "cam feed");
}

const CAM = { id: "cam", family: "hall-3w", title: "Cam position", with: { teeth: 12, missing: 1, feedV: 12, pullup: 2200, pullupV: 5 } };

async function newJob(page: Page): Promise<string> {
  const file = { format: "fox-lamp/job@1", vehicle: { name: "Unit 61" }, complaint: "Stalls now and then", intermittent: true, circuits: [CAM] };
  const { id } = await (await page.request.post("/api/jobs/import", { data: file })).json();
  return id as string;
}

async function bring(page: Page, name: string, csv: string): Promise<void> {
  await page.locator("input[type=file]").setInputFiles({ name, mimeType: "text/csv", buffer: Buffer.from(csv) });
  await page.getByRole("button", { name: "Judge it" }).click();
}

test("a capture is brought in, judged, weighed, compared with a known good one, and stands in the report", async ({ page }) => {
  const id = await newJob(page);
  await page.goto(`/jobs/${id}/traces`);
  await expect(page.getByText("No capture in this job yet.")).toBeVisible();
  await page.locator("input[type=file]").setInputFiles({ name: "stall.csv", mimeType: "text/csv", buffer: Buffer.from(captureCsv({ from: 0.42, to: 0.5 })) });
  // The names say where the leads were.
  await expect(page.getByLabel("Lead cam feed")).toHaveValue("cam:feed");
  await expect(page.getByLabel("Lead cam", { exact: true })).toHaveValue("cam:sig");
  await expect(page.getByLabel("Lead cam gnd")).toHaveValue("cam:gnd");
  await page.getByLabel("Engine speed, rpm (if known)").fill("800");
  await page.getByRole("button", { name: "Judge it" }).click();
  const findings = page.getByRole("region", { name: "What stands out" });
  await expect(findings.getByText(/^gnd goes first, at 0\.42/u)).toBeVisible();
  await expect(findings.getByText(/^sig stands high at 5\.0\d V for (79|80|81)/u)).toBeVisible();
  await expect(findings.getByText(/^feed/u)).toHaveCount(0);

  // Between the cursors: what a meter would have shown, and why.
  const traces = page.getByRole("region", { name: "Traces of feed, sig, gnd" });
  const box = (await traces.boundingBox()) as { x: number; y: number; width: number; height: number };
  await traces.click({ position: { x: 0.15 * box.width, y: 0.5 * box.height } });
  await traces.click({ position: { x: 0.35 * box.width, y: 0.5 * box.height } });
  const between = page.getByRole("region", { name: "Between the cursors" });
  await expect(between.getByRole("heading", { name: "What a meter would have shown of sig" })).toBeVisible();
  await expect(between.getByText(/^A meter would show 2\.\d+ V here, because the signal is at .+ for 5\d % of the time/u)).toBeVisible();

  await page.getByRole("button", { name: "Store it, and enter 6 readings" }).click();
  await expect(page.getByText("Stored with the job.")).toBeVisible();
  await expect(page).toHaveURL(/\/traces\/[0-9a-f-]{36}$/u);

  // The suspects have moved: three tests at once, taken while the fault was there.
  await page.goto(`/jobs/${id}/bench`);
  const first = page.getByRole("region", { name: "Where it can still be" }).getByRole("listitem").first();
  await expect(first).toContainText(/Ground/u, { timeout: 60_000 });
  // From a reading back to its stretch of trace: over the bench, and on a page of their own.
  await page.getByRole("region", { name: "Readings" }).getByRole("button", { name: "Show it on the trace" }).first().click();
  const over = page.getByRole("dialog", { name: "Traces" });
  await expect(over.getByRole("region", { name: "Traces of feed, sig, gnd" })).toBeVisible();
  // The cursors stand around it.
  await expect(over.getByRole("region", { name: "Between the cursors" }).getByRole("heading", { name: /^What a meter would have shown/u })).toBeVisible();
  await over.getByRole("link", { name: "On a page of their own" }).click();
  await expect(page).toHaveURL(/\/traces\/[0-9a-f-]{36}$/u);
  await expect(page.getByRole("region", { name: "Traces of feed, sig, gnd" })).toBeVisible();

  // A known good one of the same leads: numbers, and the trace laid behind.
  await bring(page, "sound.csv", captureCsv(null));
  await expect(page.getByText("✓ Nothing stands out.")).toBeVisible();
  await page.getByRole("button", { name: "Store it, and enter 3 readings" }).click();
  await expect(page).toHaveURL(/\/traces\/[0-9a-f-]{36}$/u);
  await page.getByRole("button", { name: "Keep as known good" }).click();
  await expect(page.getByText("✓ Kept as known good.")).toBeVisible();
  await page.getByRole("link", { name: /^stall/u }).click();
  await page.getByLabel("Compare with").selectOption({ label: "sound, known good" });
  await expect(page.getByRole("region", { name: "Against the other capture" }).getByText("sig: dropouts 1, there 0")).toBeVisible();

  // A mark by hand stays.
  await page.getByRole("region", { name: "Traces of feed, sig, gnd" }).click({ position: { x: 0.2 * box.width, y: 0.5 * box.height } });
  await page.getByRole("region", { name: "Traces of feed, sig, gnd" }).click({ position: { x: 0.3 * box.width, y: 0.5 * box.height } });
  await page.getByLabel("What you see").fill("edges rounded");
  await page.getByRole("button", { name: "Mark this stretch by hand" }).click();
  await expect(findings.getByText("sig: edges rounded")).toBeVisible();
  expect((await new AxeBuilder({ page }).analyze()).violations.map(({ id: rule, nodes }) => `${rule} ${nodes[0]?.html}`)).toEqual([]);

  // The report carries the picture.
  await page.goto(`/jobs/${id}/report`);
  await expect(page.getByRole("img", { name: /^Trace: stall\. gnd goes first/u })).toBeVisible();

  // It leaves with the job's file and comes back the same, to the last sample.
  const file = await (await page.request.get(`/api/jobs/${id}/file`)).json();
  expect(file.captures).toHaveLength(2);
  const again = await (await page.request.post("/api/jobs/import", { data: file })).json();
  const back = await (await page.request.get(`/api/jobs/${again.id}/file`)).json();
  expect(back.captures.map(({ parts }: { parts: object }) => parts)).toEqual(file.captures.map(({ parts }: { parts: object }) => parts));
  await page.goto(`/jobs/${again.id}/traces`);
  await expect(page.getByRole("region", { name: "Traces of feed, sig, gnd" })).toBeVisible();
});

for (const [name, size] of [
  ["wide", { width: 1280, height: 800 }],
  ["a phone", { width: 390, height: 844 }],
] as const)
  test(`a capture is brought in over the bench and moves the suspects behind it, ${name}`, async ({ page }) => {
    await page.setViewportSize(size);
    const id = await newJob(page);
    await page.goto(`/jobs/${id}/bench`);
    await expect(
      page
        .getByRole("region", { name: /^Next, /u })
        .getByRole("heading")
        .first(),
    ).toBeVisible({ timeout: 60_000 });
    if (name === "wide") await page.keyboard.press("v");
    else {
      await page.getByRole("button", { name: "everything" }).click();
      await page.getByRole("option", { name: /^traces V/u }).click();
    }
    const over = page.getByRole("dialog", { name: "Traces" });
    await expect(over.getByText("No capture in this job yet.")).toBeVisible();
    await bring(page, "stall.csv", captureCsv({ from: 0.42, to: 0.5 }));
    await expect(over.getByRole("region", { name: "What stands out" }).getByText(/^gnd goes first, at 0\.42/u)).toBeVisible();
    const sideways = await over.evaluate((element) => element.scrollWidth - element.clientWidth);
    expect(sideways).toBeLessThanOrEqual(1);
    expect((await new AxeBuilder({ page }).include("[role=dialog]").analyze()).violations.map(({ id: rule, nodes }) => `${rule} ${nodes[0]?.html}`)).toEqual(
      [],
    );
    await over.getByRole("button", { name: "Store it, and enter 6 readings" }).click();
    await expect(over.getByRole("button", { name: /^stall/u })).toHaveAttribute("aria-pressed", "true");
    await expect(page).toHaveURL(/\/bench$/u);
    await over.getByRole("button", { name: "Close", exact: true }).click();
    await expect(over).toHaveCount(0);
    if (name !== "wide") await page.getByRole("tab", { name: /^Suspects/u }).click();
    const first = page.getByRole("region", { name: "Where it can still be" }).getByRole("listitem").first();
    await expect(first).toContainText(/Ground/u, { timeout: 60_000 });
  });

test("damaged and doubtful files are told from captures, with one sentence each", async ({ page }) => {
  const id = await newJob(page);
  await page.goto(`/jobs/${id}/traces`);
  const input = page.locator("input[type=file]");
  const alert = page.getByRole("alert");
  for (const [content, sentence] of [
    ["", "the file is empty; expected a row of names and rows of numbers"],
    ["time_s,sig\n0,1\n0.001,x7\n0.002,1\n", 'line 3, column sig: "x7" is not a number'],
    ["time_s,sig\n0,1\n0.002,1\n0.001,2\n", "line 4, column time: time runs back from 0.002 s to 0.001 s; expected rising times"],
  ] as const) {
    await input.setInputFiles({ name: "bad.csv", mimeType: "text/csv", buffer: Buffer.from(content) });
    await expect(alert).toHaveText(sentence);
  }
  await input.setInputFiles({
    name: "drive.csv",
    mimeType: "text/csv",
    buffer: Buffer.from("time_s,coolant [degC],speed [rpm]\n0,80,800\n0.5,81,810\n1,80,805\n"),
  });
  await expect(alert).toContainText("drive.csv looks like a log of the module's data");
  await alert.getByRole("button", { name: "No, it is a scope's" }).click();
  await expect(page.getByRole("region", { name: "What the channels are" })).toBeVisible();
  // The other way round: a scope's file under Codes is sent where it is judged as one.
  await page.goto(`/jobs/${id}/codes`);
  await page.locator("input[type=file]").setInputFiles({ name: "stall.csv", mimeType: "text/csv", buffer: Buffer.from(captureCsv(null)) });
  await expect(page.getByRole("alert")).toContainText("This is a scope's capture");
});

test("a capture stored without a connection waits on the device and is sent when there is one", async ({ page, context }) => {
  const id = await newJob(page);
  await page.goto(`/jobs/${id}/traces`);
  await bring(page, "stall.csv", captureCsv({ from: 0.42, to: 0.5 }));
  await expect(page.getByRole("button", { name: /^Store it/u })).toBeVisible();
  const captures = /\/api\/jobs\/[^/]+\/captures\//u;
  await context.route(captures, (route) => route.abort());
  await page.getByRole("button", { name: /^Store it/u }).click();
  await expect(page.getByText(/parts wait on this device until the server can be reached/u).first()).toBeVisible();
  await expect(page.getByRole("region", { name: "Traces of feed, sig, gnd" })).toBeVisible();
  await context.unroute(captures);
  await page.evaluate(() => window.dispatchEvent(new Event("online")));
  await expect
    .poll(
      async () =>
        ((await (await page.request.get(`/api/jobs/${id}/file`)).json()) as { captures?: { parts: object }[] }).captures?.map(
          ({ parts }) => Object.keys(parts).length,
        ),
      { timeout: 30_000 },
    )
    .toEqual([6]);
});

test("the virtual car's own scope gives a capture of any of its circuits", async ({ page }) => {
  const jobs = (await (await page.request.get("/api/jobs")).json()) as { id: string; vehicle: { name: string } }[];
  await page.goto(`/jobs/${jobs.find(({ vehicle }) => vehicle.name === "Minibus 3")?.id}/traces`);
  await page.getByRole("button", { name: "Capture", exact: true }).click();
  await expect(page.getByText(/^sig stands at .+ while the engine turns\.$/u)).toBeVisible();
  await page.getByRole("button", { name: "Put it away" }).click();
  await expect(page.getByRole("region", { name: "Take one from the virtual car" })).toBeVisible();
});

test("channels are shown otherwise without being changed, and leave as CSV and WAV", async ({ page }) => {
  const id = await newJob(page);
  await page.goto(`/jobs/${id}/traces`);
  await bring(page, "sound.csv", captureCsv(null));
  await expect(page.getByText("The pale bands are where a sound car's channel would stay", { exact: false })).toBeVisible();
  await expect(page.getByRole("region", { name: "What it shows" }).getByText("sig: its wheel turns at 800 rev/min.")).toBeVisible();
  await page.getByText("How the channels are shown").click();
  await page.getByLabel("Channel", { exact: true }).selectOption({ label: "gnd" });
  await page.getByRole("button", { name: "Move the channel up" }).click();
  await expect(page.getByRole("region", { name: "Traces of feed, gnd, sig" })).toBeVisible();
  await page.getByLabel("Coupling").selectOption("ac");
  await page.getByLabel("Smoothed over").selectOption("0.001");
  await page.getByLabel("Top, V").fill("-5");
  await expect(page.getByText("Two numbers, the top above the foot.")).toBeVisible();
  await page.getByLabel("Top, V").fill("0.5");
  await page.getByRole("button", { name: "Hide the channel" }).click();
  await expect(page.getByRole("region", { name: "Traces of feed, sig", exact: true })).toBeVisible();
  // What leaves is all of it, as it was captured.
  const [csv] = await Promise.all([page.waitForEvent("download"), page.getByRole("button", { name: "As CSV" }).click()]);
  const text = readFileSync(await csv.path(), "utf8").split("\n");
  expect(text[1]).toBe("time_s,cam:feed [V],cam:sig [V],cam:gnd [V]");
  expect(text).toHaveLength(RATE + 3);
  const [wav] = await Promise.all([page.waitForEvent("download"), page.getByRole("button", { name: "As WAV" }).click()]);
  expect(wav.suggestedFilename()).toBe("sound feed.wav");
  await page.getByRole("button", { name: "Put it away" }).click();
  await page.locator("input[type=file]").setInputFiles({ name: "feed.wav", mimeType: "audio/wav", buffer: readFileSync(await wav.path()) });
  await page.getByLabel("Lead channel 1").selectOption("cam:feed");
  await page.getByRole("button", { name: "Judge it" }).click();
  await expect(page.getByRole("button", { name: "Store it, and enter 1 reading" })).toBeVisible();
});

test("a file that does not say when its samples were taken is read at the rate somebody says", async ({ page }) => {
  const id = await newJob(page);
  await page.goto(`/jobs/${id}/traces`);
  const bare = captureCsv(null)
    .split("\r\n")
    .slice(1)
    .map((line) => line.split(";").slice(1).join(";"))
    .join("\r\n");
  await page.locator("input[type=file]").setInputFiles({ name: "bare.csv", mimeType: "text/csv", buffer: Buffer.from(bare) });
  const asked = page.getByRole("region", { name: /^bare\.csv does not say when its samples were taken/u });
  await expect(asked.getByRole("columnheader", { name: "cam feed, V" })).toBeVisible();
  await asked.getByRole("button", { name: "Read it" }).click();
  await expect(asked.getByText("A number above 0.")).toBeVisible();
  await asked.getByLabel("Samples a second").fill("20000");
  await asked.getByRole("button", { name: "Read it" }).click();
  await page.getByRole("button", { name: "Judge it" }).click();
  await expect(page.getByRole("region", { name: "What it shows" }).getByText("sig: its wheel turns at 800 rev/min.")).toBeVisible();
});

test("after a repair the check asks for the capture again, and lays both over one another", async ({ page }) => {
  const id = await newJob(page);
  await page.goto(`/jobs/${id}/traces`);
  await bring(page, "stall.csv", captureCsv({ from: 0.42, to: 0.5 }));
  await page.getByRole("button", { name: /^Store it/u }).click();
  await expect(page).toHaveURL(/\/traces\/[0-9a-f-]{36}$/u);
  await page.goto(`/jobs/${id}/repair`);
  await page.request.post(`/api/jobs/${id}/entries`, {
    data: { entries: [{ id: randomUUID(), at: new Date().toISOString(), by: "Wren Halloran", kind: "repair", body: { text: "Ground wire mended" } }] },
    headers: { origin: new URL(page.url()).origin },
  });
  await page.goto(`/jobs/${id}/check`);
  const step = page.getByRole("region", { name: "Capture it again" });
  await expect(step.getByText("Before: stall")).toBeVisible();
  await expect(step.getByText(/^gnd lifts to 13\.6/u)).toBeVisible();
  await step.getByRole("link", { name: "Capture it now" }).click();
  await bring(page, "mended.csv", captureCsv(null));
  await page.getByRole("button", { name: /^Store it/u }).click();
  await expect(page).toHaveURL(/\/traces\/[0-9a-f-]{36}$/u);
  await page.goto(`/jobs/${id}/check`);
  await expect(step.getByText("1 of 1 capture taken again")).toBeVisible();
  await step.getByRole("button", { name: /Capture it again/u }).click();
  await expect(step.getByText("✓ After: mended. Nothing stands out.")).toBeVisible();
  await step.getByRole("link", { name: "Both side by side" }).click();
  await expect(page.getByRole("region", { name: "Against the other capture" }).getByText("sig: dropouts 0, there 1")).toBeVisible();
});

test("before anything is captured the page says how a scope is set, and shows what a wrong set-up hides", async ({ page }) => {
  const id = await newJob(page);
  await page.goto(`/jobs/${id}/traces`);
  const block = page.getByRole("region", { name: "Before you capture" });
  await expect(block.getByText(/^Leads: back-probe sig at the sensor, ground lead on battery minus/u)).toBeVisible();
  await block.getByLabel("What a wrong set-up hides").selectOption({ label: "a time base too slow" });
  await expect(block.getByText(/^At [\d,.]+ samples a second \d+ edges have become \d+: a signal that is not there\.$/u)).toBeVisible();
  await expect(block.getByRole("region", { name: "Traces of as it is, as it is shown" })).toBeVisible();
  expect((await new AxeBuilder({ page }).analyze()).violations.map(({ id: rule, nodes }) => `${rule} ${nodes[0]?.html}`)).toEqual([]);
});

test("a clamp on the virtual car's valve shows that nothing moves in it", async ({ page }) => {
  const jobs = (await (await page.request.get("/api/jobs?q=Works")).json()) as { id: string; vehicle: { name: string } }[];
  await page.goto(`/jobs/${jobs.find(({ vehicle }) => vehicle.name === "Works van 9")?.id}/traces`);
  await expect(page.getByText(/^current rises to 0\.6\d+ A without a kink/u)).toBeVisible();
  const scope = page.getByRole("region", { name: "Take one from the virtual car" });
  await scope.getByRole("checkbox", { name: "current, by clamp" }).check();
  await scope.getByLabel("Samples a second").selectOption("50000");
  await scope.getByLabel("Bits").selectOption("12");
  await scope.getByRole("button", { name: "Capture", exact: true }).click();
  await expect(page.getByRole("region", { name: "Traces of feed, ctl, current" })).toBeVisible();
  await expect(
    page
      .getByRole("region", { name: "What it says as readings" })
      .getByText(/\d m?A$/u)
      .first(),
  ).toBeVisible();
});
