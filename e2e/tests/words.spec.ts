import { expect, type Page, test } from "@playwright/test";
import { ODETTE } from "../sign-in";

/** Names of files and of the code that no technician should meet on a screen. */
const RAW: readonly RegExp[] = [
  /\b(?:degC|degF|vref|limitA|pullupV|pulldown|biasV|perRev|percentOf|feedV)\b/u,
  /\b(?:kohm|Mohm|ohm)\b/u,
  /\b[a-z][a-z0-9]*\/(?:sensor|outside|coil|heater|battery|wire:|contact:|module:|ground:|contacts:|connector:)/u,
  /\b(?:bat\+|bat-)(?![a-z])/u,
  /\b(?:sig|ref|gnd|feed|ctl|ret)[+\-12]?@\w+/u,
  /\b[a-z][a-z0-9]*:(?:sensor|module|C\d)\b/u,
  /\b(?:volts-dc|volts-ac|amps-dc|min-max|compare-part|nothing-found|unknown-fault|does-not-start|cleared-before|hand-turn)\b/u,
  /\[\[|\bundefined\b|\bNaN\b|\[object/u,
  /\bcomes and goes\b|Module's own value|Module sees it/iu,
];

/** Names of people invited by other tests are what those typed. */
const INVITED = /, (technician|foreman|trainee)\b/u;

/** The lines of a page in which a raw name stands. */
async function rawLines(page: Page): Promise<string[]> {
  // biome-ignore lint/performance/useDomNodeTextContent: what is searched is what is seen, line by line
  const text = await page.locator("body").innerText();
  const titles = await page
    .locator("[title], [aria-label], [placeholder]")
    .evaluateAll((elements) => elements.flatMap((element) => ["title", "aria-label", "placeholder"].flatMap((name) => element.getAttribute(name) ?? [])));
  const lines = [...text.split("\n"), ...titles].filter((line) => !INVITED.test(line));
  return [...new Set(lines.filter((line) => RAW.some((raw) => raw.test(line))))];
}

test("no raw name reaches a screen, on any page of the demo", async ({ browser }) => {
  test.setTimeout(600_000);
  const context = await browser.newContext({ storageState: ODETTE, viewport: { width: 1280, height: 800 } });
  const page = await context.newPage();
  // Jobs of the demo: what other tests type into theirs is theirs.
  const all = (await (await page.request.get("/api/jobs?q=Unit")).json()) as { id: string; vehicle: { name?: string } }[];
  const jobs = all.filter(({ vehicle }) => /^Unit \d+$/u.test(vehicle.name ?? ""));
  expect(jobs.length).toBeGreaterThan(8);
  const found: Record<string, string[]> = {};
  const look = async (on: Page, path: string): Promise<void> => {
    await on.goto(path);
    await expect(on.locator("main#content:visible, main:visible").first()).toBeVisible();
    await on.waitForLoadState("networkidle");
    await expect(on.locator("main[aria-busy=true]")).toHaveCount(0, { timeout: 60_000 });
    const lines = await rawLines(on);
    if (lines.length > 0) found[path.replace(/[0-9a-f-]{36}/u, "…")] = lines;
  };
  const [first] = jobs;
  const { circuits } = (await (await page.request.get(`/api/jobs/${first?.id}`)).json()) as { circuits: { id: string }[] };
  const paths = [
    ...["/", "/settings", "/people", "/account", "/figures", "/shops", "/jobs/new", "/callout"],
    ...[`/jobs/${first?.id}/paper`, `/jobs/${first?.id}/proof`, `/jobs/${first?.id}/sheet/${circuits[0]?.id}`],
    ...jobs.slice(0, 12).flatMap(({ id }) => ["", "/codes", "/triage", "/bench", "/repair", "/check", "/report"].map((part) => `/jobs/${id}${part}`)),
  ];
  const tabs = [page, await context.newPage(), await context.newPage()];
  await Promise.all(
    tabs.map(async (tab, index) => {
      for (const path of paths.filter((_, at) => at % tabs.length === index)) await look(tab, path);
    }),
  );
  await context.close();
  expect(found).toEqual({});
});
