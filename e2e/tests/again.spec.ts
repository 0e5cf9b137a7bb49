import { expect, test } from "@playwright/test";

const released = { key: "on", truth: { position: 0 } };
const VOLTS = { circuit: "tps", meter: "volts-dc" };

/** 625 ohm in a throttle sensor's ground wire, measured by hand; the last reading was taken with a probe that did not touch. */
const JOB = {
  format: "fox-lamp/job@1",
  vehicle: { name: "Unit 30", make: "Orrin", model: "Plover", year: 2016, engine: "1.6" },
  complaint: "Idle hunts; the throttle reads open at rest",
  circuits: [{ id: "tps", family: "potentiometer-3w", title: "Throttle position" }],
  readings: [
    { id: "r1", circuit: "tps", meter: "scan", red: "sig@module", setup: released, value: 1.43 },
    { id: "r2", circuit: "tps", meter: "scan", red: "sig@module", setup: { key: "on", truth: { position: 100 } }, value: 4.88 },
    { id: "r3", ...VOLTS, red: "gnd@sensor", black: "bat-", setup: released, value: 0.92 },
    { id: "r4", ...VOLTS, red: "ref@sensor", black: "gnd@sensor", setup: released, value: 4.03 },
    { id: "r5", ...VOLTS, red: "gnd@sensor", black: "gnd@module", setup: released, value: -0.001 },
  ],
};

for (const [name, viewport] of [
  ["at the bench", { width: 1280, height: 800 }],
  ["on a phone", { width: 390, height: 844 }],
] as const)
  test(`a reading a verdict hangs on is read once more beside it, ${name}`, async ({ page, request }) => {
    await page.setViewportSize(viewport);
    const { id } = await (await request.post("/api/jobs/import", { data: JOB })).json();
    await page.goto(`/jobs/${id}/bench`);
    await expect(page.getByRole("heading", { level: 2, name: "Ground contact at the module" })).toBeVisible();
    await expect(page.getByText("Without -1.0 mV at r5 this would not be proven. Read it once more before anything is replaced.")).toBeVisible();
    await page.getByRole("button", { name: "Read it once more" }).click();
    const field = page.getByLabel("r5, read once more");
    await field.fill("a lot");
    await page.keyboard.press("Enter");
    await expect(page.getByRole("alert")).toBeVisible();
    await field.fill("880m");
    await page.keyboard.press("Enter");
    // The drop is in the wire after all; what was read first stays in the record, in doubt.
    await expect(page.getByRole("heading", { level: 2, name: "Ground contact at the module" })).toHaveCount(0);
    await expect
      .poll(async () => {
        const { readings } = await (await request.get(`/api/jobs/${id}/file`)).json();
        return readings.map(({ id: reading, value }: { id: string; value: unknown }) => [reading, value]).slice(-2);
      })
      .toEqual([
        ["r5", -0.001],
        ["r6", 0.88],
      ]);
    await expect(page.getByText(/-1\.0 mV does not fit the other readings/u).first()).toBeAttached();
  });
