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
  // From a reading back to its stretch of trace.
  await page.getByRole("region", { name: "Readings" }).getByRole("link", { name: "Show it on the trace" }).first().click();
  await expect(page).toHaveURL(/from=0\.42\d*&to=0\.5/u);
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
