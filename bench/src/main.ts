import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import { FAMILIES } from "@fox-lamp/core/circuit";
import { compareWithOptimal, replaceFirst, runTrial, type TrialOptions, type TrialResult } from "@fox-lamp/core/practice";
import { APPEND_CASES, appendSpeed, bareCommit, emptyAnswer } from "./append";
import { LOOKED_AT_MS, pageSpeed } from "./page";
import { readingSpeed, shelfSpeed, yardSpeed } from "./server";
import { soak } from "./soak";
import { adviceSpeed, commandSpeed, openingSpeed, sharedSpeed, solveSpeed } from "./speed";
import { compareWithSpice } from "./spice";
import { captureSpeed, falseFindings, foundFromCaptures, tracesPage } from "./traces";

const quick = process.argv.includes("--quick");
const JOBS = quick ? 48 : 200;
const SEED = 2026;
const DECKS = quick ? 60 : 300;

let lines: string[] = [];
const say = (text: string): void => {
  lines.push(text);
  process.stdout.write(`${text}\n`);
};
const percent = (part: number, whole: number): string => `${((100 * part) / whole).toFixed(1)} %`;
const row = (...cells: (string | number)[]): void => say(`| ${cells.join(" | ")} |`);

/** Mean gap between what was said and what was, weighted by how often it was said. */
function calibrationGap({ calibration, jobs }: TrialResult): number {
  return calibration.reduce((sum, { said, was, n }) => sum + Math.abs(said - was) * n, 0) / jobs;
}

function trialRow(name: string, families: readonly string[], jobs: number, options: Partial<TrialOptions> = {}): TrialResult {
  const result = runTrial({ jobs, seed: SEED, families, blunders: 0, clock: () => performance.now(), ...options });
  row(
    name,
    result.jobs,
    percent(result.right, result.jobs),
    percent(result.wrong, result.jobs),
    percent(result.undecided, result.jobs),
    result.meanTests.toFixed(1),
    result.meanMinutes.toFixed(1),
    result.meanGroup.toFixed(2),
    calibrationGap(result).toFixed(3),
    `${result.msPerAdvice.p50.toFixed(0)} / ${result.msPerAdvice.p99.toFixed(0)}`,
  );
  return result;
}

function measureTrial(): void {
  say(
    "Truth drawn by the priors between the grid's points, tolerances 15 % worse than believed, batteries up to 0.35 V off (one in seven from 0.9 V under to 0.6 V over), a meter with a gain of its own, intermittent faults that stay quiet one time in five. The verdict is right when it names the hidden unit or the group it is in.",
  );
  say("");
  row("trial", "jobs", "right", "declared wrong", "undecided", "tests", "minutes", "units in verdict", "said against was", "ms per advice p50 / p99");
  row("---", "---", "---", "---", "---", "---", "---", "---", "---", "---");
  for (const { id } of FAMILIES) trialRow(id, [id], Math.round(JOBS / 10));
  const half = Math.round(JOBS / 2);
  trialRow("all, no slips (aim 97 / 1)", [], 2 * JOBS);
  trialRow("all, 3 % of readings slipped (aim 94 / 2)", [], half, { blunders: 0.03 });
  trialRow("all, fault missed by 30 % of readings (aim wrong 3)", [], half, { intermittents: 1 });
  const doubles = trialRow("all, two faults at once (aim neither named 2)", [], JOBS, { doubles: 1 });
  trialRow("all, bad contacts cured by unplugging", [], half, { cures: 1 });
  trialRow("all, temperatures and pressures unknown at the start", [], half, { unstated: 1 });
  say("");
  say(
    "Reaching a connector takes half to double what the circuit says, which the advice does not know. Times include building the predictions of circuits met for the first time.",
  );
  say("");
  say(
    `Of two faults a verdict whose unit or group is either of them counts as right: the other shows when the failed tests are repeated after the repair. Of the ${doubles.wrong} wrong verdicts ${doubles.namedSecond} name a fault that is there as the second one; ${percent(doubles.wrong - doubles.namedSecond, doubles.jobs)} of all name neither.`,
  );
}

function measureChoices(): void {
  row("way", "right", "declared wrong", "minutes", "against the advice");
  row("---", "---", "---", "---", "---");
  const compared = Math.round(JOBS / 6);
  const ways = (["advice", "uncosted", "textbook", "random"] as const).map((strategy) => ({
    strategy,
    result: runTrial({ jobs: compared, seed: SEED + 1, families: [], blunders: 0, strategy, clock: () => performance.now() }),
  }));
  const own = ways[0]?.result.meanMinutes ?? 1;
  const NAMES = {
    advice: "the advice",
    uncosted: "information alone, whatever it costs",
    textbook: "the textbook's fixed order, same stop rule",
    random: "by chance, same stop rule",
  };
  for (const { strategy, result } of ways)
    row(
      NAMES[strategy],
      percent(result.right, result.jobs),
      percent(result.wrong, result.jobs),
      result.meanMinutes.toFixed(1),
      `${(result.meanMinutes / own).toFixed(2)} x`,
    );
  const replaced = replaceFirst(compared, SEED + 1);
  row(
    "replacing the likeliest part first, 40 min a wrong part",
    "-",
    percent(replaced.wrongFirst, compared),
    replaced.meanMinutes.toFixed(1),
    `${(replaced.meanMinutes / own).toFixed(2)} x`,
  );
}

function measureOptimal(): void {
  row("circuit", "hypotheses", "tests", "optimal, minutes", "advice's rule", "shortest first", "advice / optimal (aim 1.10)");
  row("---", "---", "---", "---", "---", "---", "---");
  for (const family of ["thermistor-2w", "switch", "potentiometer-3w", "pressure-3w", "hall-3w"]) {
    const { hypotheses, tests, optimalMinutes, adviceMinutes, fixedMinutes } = compareWithOptimal({ id: "c", family }, 12);
    row(family, hypotheses, tests, optimalMinutes.toFixed(2), adviceMinutes.toFixed(2), fixedMinutes.toFixed(2), (adviceMinutes / optimalMinutes).toFixed(3));
  }
}

function measureSpeed(): void {
  const solves = solveSpeed();
  row("what", "figure", "to reach");
  row("---", "---", "---");
  row("DC solve, 16 nodes, factor and solve", `${Math.round(solves.factorAndSolve).toLocaleString("en")} a second`, "300,000");
  row("DC solve, 16 nodes, rank-one edit of a solved network", `${Math.round(solves.edited).toLocaleString("en")} a second`, "300,000");
  row("DC solve, 16 nodes, from values, regimes settled", `${Math.round(solves.full).toLocaleString("en")} a second`, "-");
  for (const { family, points, tests, ms, adviceMs } of openingSpeed())
    row(
      `opening ${family} to its first advice / every prediction of ${points} hypothesis points x ${tests} tests`,
      `${adviceMs.toFixed(0)} / ${ms.toFixed(0)} ms`,
      "500 ms",
    );
  const advice = adviceSpeed();
  const both = ({ p50, p99 }: { p50: number; p99: number }): string => `${p50.toFixed(0)} / ${p99.toFixed(0)} ms`;
  row("advice after a reading, one circuit, prepared while the reading was taken, p50 / p99", both(advice.prepared), "50 ms p99");
  row("the same, nothing prepared", both(advice.cold), "-");
  const shared = sharedSpeed();
  row("eight circuits on one reference: opening to the first advice", `${shared.opening.toFixed(0)} ms`, "3000 ms");
  row("eight circuits on one reference: advice after a reading, prepared, p50 / p99", both(shared.prepared), "250 ms p99");
  row("the same, nothing prepared", both(shared.cold), "-");
  const command = commandSpeed();
  row("command `families`, whole process", `${command.families.toFixed(0)} ms`, "well under 1 s");
  row("command `diagnose`, a hall sensor, whole process, by itself", `${command.alone.toFixed(0)} ms`, "-");
  row("the same, answered by the standby of the commands before (decision 56)", `${command.standby.toFixed(0)} ms`, "500 ms");
  row("command `measure`, answered by the standby", `${command.measure.toFixed(0)} ms`, "well under 1 s");
}

/** The server as it is built, on a PostgreSQL cluster of its own; both are started by `npm run bench`. */
async function measureServer(): Promise<void> {
  const [address, database] = [process.env["BENCH_ADDRESS"], process.env["BENCH_DATABASE"]];
  if (!address || !database) {
    say("No server was started; nothing was measured.");
    return;
  }
  const server = { address, database };
  row("what", "p50 / p99", "to reach");
  row("---", "---", "---");
  const { p50, p99, lost, readings } = await readingSpeed(server);
  row(`a reading taken, 100 clients at once (${readings} readings, ${lost} lost)`, `${p50.toFixed(0)} / ${p99.toFixed(0)} ms`, "40 ms p99, 0 lost");
  for (const { what, p50: half, p99: most, found } of await shelfSpeed(server))
    row(`shelf of 50,000 records, ${what}: ${found.toLocaleString("en")} found`, `${half.toFixed(0)} / ${most.toFixed(0)} ms`, "100 ms p99");
  for (const { what, p50: half, p99: most, found } of await yardSpeed(server))
    row(`yard of 100,000 jobs, ${what}: ${found.toLocaleString("en")} found`, `${half.toFixed(0)} / ${most.toFixed(0)} ms`, "quick");
}

/** Readings stored through the server beside bare inserts on the same database, in the same run. */
async function measureAppend(): Promise<void> {
  const [address, database] = [process.env["BENCH_ADDRESS"], process.env["BENCH_DATABASE"]];
  if (!address || !database) {
    say("No server was started; nothing was measured.");
    return;
  }
  say("The database writes to its disk at every commit. Clients write without a pause; they, the server and the database share the machine.");
  say("");
  row(
    "clients",
    "readings in the job",
    "bare INSERT and COMMIT: p50 / p99, a second",
    "an empty answer: p50 / p99, a second",
    "a reading stored: p50 / p99, a second",
    "p99 against bare (aim 2)",
    "throughput against bare (aim 0.5)",
  );
  row("---", "---", "---", "---", "---", "---", "---");
  const speed = ({ p50, p99, perSecond }: { p50: number; p99: number; perSecond: number }): string =>
    `${p50.toFixed(1)} / ${p99.toFixed(1)} ms, ${perSecond.toFixed(0)}`;
  for (const one of APPEND_CASES) {
    const bare = await bareCommit(database, one.clients);
    const empty = await emptyAnswer({ address, database }, one.clients);
    const own = await appendSpeed({ address, database }, one);
    const length = one.hot ? `${one.readings}, all in one job` : one.readings;
    row(one.clients, length, speed(bare), speed(empty), speed(own), (own.p99 / bare.p99).toFixed(2), (own.perSecond / bare.perSecond).toFixed(2));
  }
}

/** Fifty clients for SOAK_MINUTES (60 unless said otherwise): what the server holds should not grow. */
async function measureSoak(): Promise<void> {
  const [address, database, pid] = [process.env["BENCH_ADDRESS"], process.env["BENCH_DATABASE"], Number(process.env["BENCH_PID"])];
  if (!address || !database || !pid) {
    say("No server was started; nothing was measured.");
    return;
  }
  const minutes = Number(process.env["SOAK_MINUTES"] ?? (quick ? 1 : 60));
  say(`Fifty clients for ${minutes} minutes: an event stream each, something every second, a new job every minute.`);
  say("");
  row("minutes", "memory", "handles", "database connections", "requests so far", "p99 since the row before", "failed");
  row("---", "---", "---", "---", "---", "---", "---");
  for (const held of await soak({ address, database }, pid, minutes))
    row(
      held.minutes.toFixed(1),
      `${held.megabytes.toFixed(0)} MB`,
      held.handles,
      held.connections,
      held.requests.toLocaleString("en"),
      `${held.p99.toFixed(0)} ms`,
      held.failed,
    );
}

async function measurePage(): Promise<void> {
  const address = process.env["BENCH_ADDRESS"];
  if (!address) {
    say("No server was started; nothing was measured.");
    return;
  }
  const figures = await pageSpeed(address);
  row("what", "figure", "to reach");
  row("---", "---", "---");
  row("script before the bench is usable, compressed", `${figures.scriptKilobytes.toFixed(0)} kB`, "250 kB");
  row("largest paint of a first visit, worst of six", `${figures.largestPaintMs.toFixed(0)} ms`, "1500 ms");
  row(
    "longest task of the page while readings are typed and taken",
    figures.longestTaskMs === 0 ? "under 50 ms" : `${figures.longestTaskMs.toFixed(0)} ms`,
    "50 ms",
  );
  row(
    `from Enter, ${LOOKED_AT_MS} ms after the last digit, to the next advice on screen, median / worst`,
    `${figures.adviceMs.p50} / ${figures.adviceMs.worst} ms`,
    "120 / 300 ms",
  );
  row("the same, Enter in the moment of the last digit", `${figures.atOnceMs.p50} / ${figures.atOnceMs.worst} ms`, "-");
}

async function measureTraces(): Promise<void> {
  const { bytes, plainMs, readMs, wholeMs } = captureSpeed(quick ? 100_000 : 1_000_000);
  row("what", "figure", "to reach");
  row("---", "---", "---");
  row("8 channels, bytes of CSV", `${(bytes / 1e6).toFixed(0)} MB`, "-");
  row("a plain pass that makes every number", `${plainMs.toFixed(0)} ms`, "-");
  row("read into channels", `${readMs.toFixed(0)} ms, ${(readMs / plainMs).toFixed(2)} x`, "-");
  row("from CSV to findings", `${wholeMs.toFixed(0)} ms, ${(wholeMs / plainMs).toFixed(2)} x`, "3 x");
  const seeds = quick ? 16 : 200;
  let [captures, found] = [0, 0];
  for (const family of FAMILIES) {
    const one = falseFindings(family, seeds);
    captures += one.captures;
    found += one.found;
    if (one.found > 0) row(`${family.id}, captures of sound circuits with a finding`, `${one.found} of ${one.captures}`, "0");
  }
  row("captures of sound circuits of all families with a finding", `${found} of ${captures}`, "0");
  for (const id of ["hall-3w", "vr-2w", "knock-1w", "knock-2w", "potentiometer-3w"]) {
    const family = FAMILIES.find((one) => one.id === id);
    if (family === undefined) continue;
    const { jobs, found: right, wrong, unseen } = foundFromCaptures(family, quick ? 20 : 100);
    row(
      `${id}, hidden faults among the leading suspects (four at most, 95 % together) from captures alone`,
      `${percent(right, jobs)}, proven wrong ${percent(wrong, jobs)} (${unseen} move no level by 50 mV, left out)`,
      "95 %",
    );
  }
  const address = process.env["BENCH_ADDRESS"];
  if (!address) return;
  for (const samples of quick ? [100_000] : [1_000_000, 10_000_000]) {
    const page = await tracesPage(address, samples);
    const what = `8 x ${page.samples.toLocaleString("en")} samples`;
    row(`traces page, ${what} (${page.fileMegabytes.toFixed(0)} MB) brought in and judged`, `${(page.bringMs / 1000).toFixed(1)} s`, "-");
    row(`${what}: frames while dragged at six zooms, median / p99`, `${page.frameMs.p50.toFixed(1)} / ${page.frameMs.p99.toFixed(1)} ms`, "16.7 ms");
    row(`${what}: longest task meanwhile`, page.longestTaskMs === 0 ? "under 50 ms" : `${page.longestTaskMs.toFixed(0)} ms`, "50 ms");
    row(`${what}: page memory, worker apart`, `${page.heapMegabytes.toFixed(0)} MB`, "-");
    const { now, most } = page.processMegabytes;
    row(`${what}: the whole process of page and worker, now / at its most`, `${now.toFixed(0)} / ${most.toFixed(0)} MB`, "-");
  }
}

function measureSimulator(): void {
  const spice = compareWithSpice(DECKS, SEED);
  if (spice === null) say("ngspice is not installed; nothing was compared.");
  else {
    say(
      `${spice.decks} decks of random faults, severities and setups of all families: largest difference ${spice.worst.toExponential(1)} of a volt (to reach: 1e-4), ${spice.failed} decks not solved.`,
    );
    say("");
    say(`The largest was ${spice.worstCase}.`);
  }
}

const SECTIONS: Readonly<Record<string, { readonly title: string; readonly measure: () => void | Promise<void> }>> = {
  trial: { title: "Hidden-fault trial", measure: measureTrial },
  choices: { title: "Minutes against other ways of choosing the next test", measure: measureChoices },
  optimal: { title: "Against the optimal decision tree on small circuits", measure: measureOptimal },
  speed: { title: "Speed", measure: measureSpeed },
  page: { title: "The bench in a browser", measure: measurePage },
  append: { title: "A reading stored", measure: measureAppend },
  server: { title: "Server", measure: measureServer },
  soak: { title: "A long day", measure: measureSoak },
  traces: { title: "Traces", measure: measureTraces },
  simulator: { title: "Against an independent circuit simulator", measure: measureSimulator },
};

const FILE = fileURLToPath(new URL("../../docs/measurements.md", import.meta.url));
const INTRO = `# Measurements

Written by \`npm run bench\` (or a part of it: \`npm run bench -- ${Object.keys(SECTIONS).join("|")}\`). Seed ${SEED}. Figures depend on the machine; ratios and shares do not.`;

/** Sections of the file as it is, by title. */
function sectionsOf(text: string): Map<string, string> {
  return new Map(
    text
      .split(/^(?=## )/m)
      .slice(1)
      .map((section) => [section.slice(3, section.indexOf("\n")), section.trim()]),
  );
}

const asked = process.argv.slice(2).filter((argument) => argument !== "--quick");
const unknown = asked.find((name) => !(name in SECTIONS));
if (unknown !== undefined) {
  process.stderr.write(`there is no part "${unknown}"; expected ${Object.keys(SECTIONS).join(", ")}\n`);
  process.exit(2);
}
const written = sectionsOf(existsSync(FILE) ? readFileSync(FILE, "utf8") : "");
for (const [name, { title, measure }] of Object.entries(SECTIONS)) {
  // An hour is taken only when it is asked for.
  if (asked.length > 0 ? !asked.includes(name) : name === "soak") continue;
  lines = [];
  say(`## ${title}`);
  say("");
  await measure();
  say("");
  written.set(title, lines.join("\n").trim());
  if (quick) continue;
  const all = Object.values(SECTIONS).flatMap((section) => written.get(section.title) ?? []);
  writeFileSync(FILE, `${[INTRO, ...all].join("\n\n")}\n`);
}
