import { expect, test } from "@playwright/test";
import { openBench, proposed, solveOnScreen } from "./helpers";

/** Whole jobs of other kinds of circuit, each solved through the screen by taking what it proposes. */
for (const { vehicle, hidden, unit, words } of [
  { vehicle: "Parks pickup 6", hidden: { id: "purge/coil/open" }, unit: "purge/coil", words: "Winding" },
  { vehicle: "Minibus 12", hidden: { id: "crank/sensor/open" }, unit: "crank/sensor", words: "Speed sensor" },
  { vehicle: "Unit 9", hidden: { id: "o2/heater/open" }, unit: "o2/heater", words: "Heater" },
  { vehicle: "Parks tipper 5", hidden: { id: "egr/sensor/short", ohms: 3 }, unit: "egr/sensor", words: "Position sensor" },
]) {
  test(`${vehicle}: ${unit} is proven through the screen`, async ({ page }) => {
    test.setTimeout(240_000);
    const id = await openBench(page, vehicle);
    await solveOnScreen(page, id, [hidden]);
    const verdict = page.getByRole("region", { name: "Verdict" });
    await expect(verdict.getByText("Proven", { exact: true })).toBeVisible();
    await expect(verdict).toContainText(words);
    const { diagnosis } = await proposed(page, id);
    expect(diagnosis.verdict.status).toBe("proven");
    expect([diagnosis.verdict.unit, ...diagnosis.verdict.group]).toContain(unit);
  });
}
