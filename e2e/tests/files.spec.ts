import { expect, test } from "@playwright/test";

/** What of a stored job must come back: everything but its own number, ids and where it stands in the list. */
function contentOf(file: Record<string, unknown>): unknown {
  const names = new Map<string, string>();
  const text = JSON.stringify(file).replaceAll(/[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}/gu, (id) => {
    const known = names.get(id) ?? `id${names.size}`;
    names.set(id, known);
    return known;
  });
  return JSON.parse(text);
}

test("every job of the demo goes out as a file and comes back the same", async ({ request }) => {
  const jobs = await (await request.get("/api/jobs")).json();
  expect(jobs.length).toBeGreaterThanOrEqual(20);
  for (const { id } of jobs) {
    const file = await (await request.get(`/api/jobs/${id}/file`)).json();
    const made = await request.post("/api/jobs/import", { data: file });
    expect(made.ok(), await made.text()).toBe(true);
    const again = await (await request.get(`/api/jobs/${(await made.json()).id}/file`)).json();
    expect(contentOf(again)).toEqual(contentOf(file));
  }
});

test("a photo and a recording travel with the job's file", async ({ page, request }) => {
  const [job] = await (await request.get("/api/jobs?q=Petrel")).json();
  await page.goto(`/jobs/${job.id}`);
  const photos = page.getByRole("region", { name: "Photos" });
  await photos.locator("input[type=file]").setInputFiles({ name: "notes.jpg", mimeType: "image/jpeg", buffer: Buffer.from("no picture at all") });
  await expect(photos.getByRole("alert")).toHaveText("notes.jpg cannot be read as a picture. Expected JPEG, PNG or WebP.");
  // A picture far larger than needed is made small on the device.
  const large = await page.evaluate(async () => {
    const canvas = document.createElement("canvas");
    canvas.width = 5000;
    canvas.height = 3000;
    canvas.getContext("2d")?.fillRect(0, 0, 4000, 2000);
    return canvas.toDataURL("image/png").split(",")[1] ?? "";
  });
  await photos.locator("input[type=file]").setInputFiles({ name: "the old sensor.png", mimeType: "image/png", buffer: Buffer.from(large, "base64") });
  await expect(photos.getByRole("img", { name: "the old sensor" })).toBeVisible();

  await page.goto(`/jobs/${job.id}/codes`);
  const data = page.locator("input[type=file]");
  await data.setInputFiles({ name: "log.csv", mimeType: "text/csv", buffer: Buffer.from("time|coolant\n0|88\n") });
  await expect(page.getByRole("alert")).toContainText("log.csv has one column only");
  const rows = Array.from({ length: 60 }, (_, index) => `${index / 2};${index === 30 ? 0 : 45 + (index % 3)}`);
  await data.setInputFiles({ name: "drive.csv", mimeType: "text/csv", buffer: Buffer.from(["time_s;manifold pressure [kPa]", ...rows].join("\n")) });
  await expect(page.getByText(/^manifold pressure drops from 47 kPa to 0 kPa at 15\.0 s/u)).toBeVisible();

  await expect.poll(async () => Object.keys((await (await request.get(`/api/jobs/${job.id}/file`)).json()).recordings ?? {}).length).toBe(1);
  const file = await (await request.get(`/api/jobs/${job.id}/file`)).json();
  expect(Object.keys(file.photos)).toHaveLength(1);
  const [photo] = Object.values(file.photos as Record<string, { base64: string }>);
  expect(Buffer.from(photo?.base64 ?? "", "base64").length).toBeLessThan(400_000);
  const { id } = await (await request.post("/api/jobs/import", { data: file })).json();
  const again = await (await request.get(`/api/jobs/${id}/file`)).json();
  expect(contentOf(again)).toEqual(contentOf(file));
  await page.goto(`/jobs/${id}`);
  await expect(page.getByRole("img", { name: "the old sensor" })).toBeVisible();
});

test("files that cannot be read get one clear sentence, and nothing typed is lost", async ({ page, request }) => {
  const half = (await (await request.get(`/api/jobs/${(await (await request.get("/api/jobs")).json())[0].id}/file`)).text()).slice(0, 700);
  await page.goto("/");
  const open = page.locator("input[type=file]");
  await open.setInputFiles({ name: "half.json", mimeType: "application/json", buffer: Buffer.from(half) });
  await expect(page.getByText(/^half\.json is not a job file: it is not JSON/u)).toBeVisible();
  await open.setInputFiles({ name: "later.json", mimeType: "application/json", buffer: Buffer.from('{"format":"fox-lamp/job@9","circuits":[]}') });
  await expect(page.getByText(/later\.json: format: "fox-lamp\/job@9" cannot be read; expected "fox-lamp\/job@1"/u)).toBeVisible();
  const wrong = await request.post("/api/jobs/import", { data: { circuits: [], entries: [{ id: "1", kind: "note" }] } });
  expect(wrong.status()).toBe(400);
  expect((await wrong.json()).where).toContain("entries[0]");

  await page.goto("/jobs/new");
  await page.getByLabel("Complaint, in the customer's words").fill("Half a complaint");
  await page.getByLabel("Year").fill("nineteen");
  await page.getByRole("button", { name: "Open the job" }).click();
  await expect(page.getByText('"nineteen" is not a number.')).toBeVisible();
  await page.reload();
  await expect(page.getByLabel("Complaint, in the customer's words")).toHaveValue("Half a complaint");
});
