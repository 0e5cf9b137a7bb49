import { expect, test } from "@playwright/test";
import { openBench, proposed, solveByKeyboard } from "./helpers";

/** One job of each kind of circuit, from the demo to a proven verdict, by keyboard alone on its virtual car. */
for (const { kind, vehicle, unit, words } of [
  { kind: "divider", vehicle: "Unit 2", unit: "fuelt/sensor", words: "Temperature sensor" },
  { kind: "three wires", vehicle: "Mobile library", unit: "tps/contact:ref@sensor", words: "Reference contact" },
  { kind: "hall sensor, cranking", vehicle: "Minibus 3", unit: "cam/wire:feed", words: "Feed wire" },
  { kind: "inductive", vehicle: "Minibus 12", unit: "crank/wire:sig+", words: "Signal + wire" },
  { kind: "piezo with a twin", vehicle: "Harbour launch Dunlin", unit: "knock1/sensor", words: "Knock sensor" },
  { kind: "oxygen with a heater", vehicle: "Unit 9", unit: "o2/heater", words: "Heater" },
  { kind: "solenoid", vehicle: "Parks pickup 6", unit: "purge/wire:ctl", words: "Control wire" },
  { kind: "shared reference with a chafed branch", vehicle: "Parks tipper 5", unit: "egr/wire:ref", words: "Reference wire, EGR lift" },
]) {
  test(`${kind}: ${unit} is proven by keyboard alone`, async ({ page }) => {
    test.setTimeout(240_000);
    const id = await openBench(page, vehicle);
    await solveByKeyboard(page);
    const verdict = page.getByRole("region", { name: "Verdict" });
    await expect(verdict.getByText("Proven", { exact: true })).toBeVisible();
    await expect(verdict).toContainText(words);
    const { diagnosis } = await proposed(page, id);
    expect(diagnosis.verdict.status).toBe("proven");
    expect([diagnosis.verdict.unit, ...diagnosis.verdict.group]).toContain(unit);
  });
}
