import { execFileSync } from "node:child_process";
import { fileURLToPath } from "node:url";
import { expect, type Page } from "@playwright/test";

const COMMAND = fileURLToPath(new URL("../../bin/fox-lamp", import.meta.url));

/** Runs the command line with JSON on standard input. */
export function foxLamp(command: string, input: unknown): unknown {
  return JSON.parse(execFileSync(COMMAND, [command, "-"], { input: JSON.stringify(input), encoding: "utf8" }));
}

interface NextTest {
  readonly meter: string;
  readonly red: string;
  readonly black: string | null;
  readonly setup: Record<string, unknown>;
}

/** What a technician would read for a test on a car with a fault, as typed shorthand or a word. */
export function wouldRead(circuit: Record<string, unknown>, faults: readonly unknown[], test: NextTest): string {
  if (test.meter === "look") return "Looks fine";
  const { measurements } = foxLamp("measure", {
    circuits: [circuit],
    faults,
    measurements: [{ meter: test.meter, red: test.red, ...(test.black === null ? {} : { black: test.black }), setup: test.setup }],
  }) as { measurements: { value: number | string }[] };
  const value = measurements[0]?.value ?? 0;
  if (typeof value === "string") return value;
  if (test.meter === "ohms" && value >= 1000) return `${(value / 1000).toPrecision(3)}k`;
  return Math.abs(value) < 0.1 ? `${(value * 1000).toFixed(1)}m` : value.toFixed(2);
}

/** The job as the server has it. */
export async function storedJob(
  page: Page,
  id: string,
): Promise<{ circuits: Record<string, unknown>[]; entries: { kind: string; body: Record<string, never> }[] }> {
  const response = await page.request.get(`/api/jobs/${id}`);
  expect(response.ok()).toBe(true);
  return response.json();
}

/** Opens a demo job's bench from the yard and waits until the diagnosis is there. @returns the job's id */
export async function openBench(page: Page, vehicle: string): Promise<string> {
  await page.goto("/");
  await page.getByText(vehicle, { exact: true }).click();
  await page.waitForURL(/\/jobs\//u);
  const id = /jobs\/([^/]+)/u.exec(page.url())?.[1] ?? "";
  if (!page.url().endsWith("/bench")) await page.getByRole("link", { name: "Open the bench" }).click();
  await expect(page.getByRole("heading", { name: "Where it can still be" })).toBeVisible();
  return id;
}

/** Enters a reading for the test on screen: a word by its button, a number in the field. */
export async function enterReading(page: Page, text: string): Promise<void> {
  const word = page.getByRole("button", { name: text, exact: true });
  if ((await word.count()) > 0) await word.first().click();
  else {
    await page.locator("input[aria-describedby=entry-problem]").fill(text);
    await page.getByRole("button", { name: "Take", exact: true }).click();
  }
}
