import { expect, type Page, test } from "@playwright/test";
import { ODETTE } from "../sign-in";

/** Names of files and of the code that no technician should meet on a screen. */
const RAW: readonly RegExp[] = [
  /\b(?:degC|degF|vref|limitA|pullupV|pulldown|biasV|perRev|percentOf|feedV)\b/u,
  /\b(?:kohm|Mohm|ohm)\b/u,
  /\b[a-z][a-z0-9]*\/(?:sensor|outside|coil|heater|battery|wire:|contact:|module:|ground:|contacts:|connector:)/u,
  /\b(?:bat\+|bat-)(?![a-z])/u,
  /\b(?:sig|ref|gnd|feed|ctl|ret)[+\-12]?@\w+/u,
  /\b(?:volts-dc|volts-ac|amps-dc|min-max|compare-part|nothing-found|unknown-fault|does-not-start|cleared-before|hand-turn)\b/u,
  /\[\[|\bundefined\b|\bNaN\b|\[object/u,
  /\bcomes and goes\b|Module's own value|Module sees it/iu,
];

/** The lines of a page in which a raw name stands. */
async function rawLines(page: Page): Promise<string[]> {
  // biome-ignore lint/performance/useDomNodeTextContent: what is searched is what is seen, line by line
  const text = await page.locator("body").innerText();
  const titles = await page
    .locator("[title], [aria-label], [placeholder]")
    .evaluateAll((elements) => elements.flatMap((element) => ["title", "aria-label", "placeholder"].flatMap((name) => element.getAttribute(name) ?? [])));
  return [...new Set([...text.split("\n"), ...titles].filter((line) => RAW.some((raw) => raw.test(line))))];
}

test("no raw name reaches a screen, on any page of the demo", async ({ browser }) => {
  test.setTimeout(600_000);
  const context = await browser.newContext({ storageState: ODETTE, viewport: { width: 1280, height: 800 } });
  const page = await context.newPage();
  const jobs = (await (await page.request.get("/api/jobs")).json()) as { id: string; title: string }[];
  const found: Record<string, string[]> = {};
  const look = async (path: string): Promise<void> => {
    await page.goto(path);
    await expect(page.locator("main#content:visible, main:visible").first()).toBeVisible();
    await page.waitForLoadState("networkidle");
    await expect(page.locator("main[aria-busy=true]")).toHaveCount(0, { timeout: 60_000 });
    const lines = await rawLines(page);
    if (lines.length > 0) found[path.replace(/[0-9a-f-]{36}/u, "…")] = lines;
  };
  for (const path of ["/", "/settings", "/people", "/account", "/figures", "/shops", "/jobs/new", "/callout"]) await look(path);
  for (const { id } of jobs.slice(0, 14))
    for (const part of ["", "/codes", "/triage", "/bench", "/repair", "/check", "/report"]) await look(`/jobs/${id}${part}`);
  const [first] = jobs;
  for (const part of ["/paper", "/proof"]) await look(`/jobs/${first?.id}${part}`);
  const circuits = (await (await page.request.get(`/api/jobs/${first?.id}`)).json()) as { circuits: { id: string }[] };
  await look(`/jobs/${first?.id}/sheet/${circuits.circuits[0]?.id}`);
  await context.close();
  expect(found).toEqual({});
});
