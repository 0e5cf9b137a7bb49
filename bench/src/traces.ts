import { closeSync, openSync, readFileSync, rmSync, writeSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { buildModel, type CircuitModel, type Family, type Model } from "@fox-lamp/core/circuit";
import { diagnoseJob, Session } from "@fox-lamp/core/diagnosis";
import { faultsOf, placeFault } from "@fox-lamp/core/faults";
import { seededRandom } from "@fox-lamp/core/numeric";
import { analyseCapture, type Capture, type CapturedReading, type ChannelLeads, engineDoes, readCaptureCsv, readingsOfCapture } from "@fox-lamp/core/signals";
import { traceOf } from "@fox-lamp/core/vehicle";
import type { Circuit, Setup } from "@fox-lamp/language";
import { type Browser, chromium } from "@playwright/test";

const CHANNELS = 8;
const CRANK: Circuit = { id: "crank", family: "hall-3w", with: { teeth: 60, missing: 2 } };

/** A capture file of eight channels, part by part: four squares of a wheel at different speeds, four slow ones, as an eight-bit scope writes them. */
function* largeCsvParts(samples: number): Generator<string> {
  const random = seededRandom(7);
  yield "time_s,crank [V],cam [V],c [V],d [V],e [V],f [V],g [V],h [V]\n";
  for (let from = 0; from < samples; from += 4096) {
    let text = "";
    for (let at = from; at < Math.min(samples, from + 4096); at += 1) {
      text += (at * 1e-5).toFixed(6);
      for (let channel = 0; channel < CHANNELS; channel += 1) {
        const noise = 0.02 * random.normal();
        const value = channel < 4 ? ((at % (40 * (channel + 1))) / (40 * (channel + 1)) < 0.5 ? 5 : 0.1) : 2.5 + 1.5 * Math.sin((at / samples) * 20 + channel);
        text += `,${(Math.round((value + noise) * 25.6) / 25.6).toFixed(4)}`;
      }
      text += "\n";
    }
    yield text;
  }
}

/** The whole of such a file. */
export function largeCsv(samples: number): Uint8Array {
  return new TextEncoder().encode([...largeCsvParts(samples)].join(""));
}

/** Writes such a file, longer than a text may be. @returns its bytes */
function writeLargeCsv(path: string, samples: number): number {
  const file = openSync(path, "w");
  let bytes = 0;
  try {
    for (const part of largeCsvParts(samples)) bytes += writeSync(file, part);
  } finally {
    closeSync(file);
  }
  return bytes;
}

/** A plain pass over the same bytes: every number is made, nothing is kept but their sum. Written without lists, which an engine may build anew for every byte. */
function plainPass(bytes: Uint8Array): number {
  let sum = 0;
  let value = 0;
  let scale = 1;
  let negative = false;
  let decimals = false;
  for (const byte of bytes) {
    if (byte >= 48 && byte <= 57) {
      value = value * 10 + (byte - 48);
      if (decimals) scale *= 10;
    } else if (byte === 46) decimals = true;
    else if (byte === 45) negative = true;
    else if (byte === 44 || byte === 10) {
      sum += (negative ? -value : value) / scale;
      value = 0;
      scale = 1;
      negative = false;
      decimals = false;
    }
  }
  return sum;
}

/** From the bytes of a file to its findings, beside a plain pass over the same bytes; the best of three runs each, milliseconds. */
export function captureSpeed(samples: number): { bytes: number; plainMs: number; readMs: number; wholeMs: number } {
  const bytes = largeCsv(samples);
  const circuit = buildModel([CRANK]).circuits[0] as CircuitModel;
  let [plainMs, readMs, wholeMs] = [Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY, Number.POSITIVE_INFINITY];
  for (let run = 0; run < 3; run += 1) {
    let began = performance.now();
    plainPass(bytes);
    plainMs = Math.min(plainMs, performance.now() - began);
    began = performance.now();
    const { capture } = readCaptureCsv(bytes);
    const read = performance.now() - began;
    readMs = Math.min(readMs, read);
    analyseCapture(capture, { circuitOf: () => circuit });
    wholeMs = Math.min(wholeMs, performance.now() - began);
  }
  return { bytes: bytes.length, plainMs, readMs, wholeMs };
}

const WHEELS = [
  [60, 2],
  [36, 1],
  [12, 0],
  [24, 2],
] as const;

function circuitOf({ id, traits }: Family, seed: number): Circuit {
  const [teeth, missing] = WHEELS[seed % WHEELS.length] as readonly [number, number];
  return { id: "c", family: id, with: traits.kind === "wheel" ? { teeth, missing } : {} };
}

/** States and moves a circuit is captured in. */
function setupsOf(random: { uniform(): number }): Setup[] {
  return [
    { key: "on" },
    { key: "crank", rpm: Math.round(150 + 100 * random.uniform()) },
    { key: "idle", rpm: Math.round(650 + 300 * random.uniform()) },
    { key: "rev", rpm: Math.round(1500 + 2000 * random.uniform()) },
    { key: "on", stimulus: { kind: "sweep" } },
    { key: "on", stimulus: { kind: "tap" } },
    { key: "idle", stimulus: { kind: "snap" } },
    { key: "on", stimulus: { kind: "command" } },
  ];
}

function leadsOn(circuit: CircuitModel, pin: string, place: string): ChannelLeads {
  const paired = pin === "sig+" && circuit.pins.some((other) => other.pin === "sig-");
  return { circuit: circuit.id, red: `${pin}@${place}`, black: paired ? `sig-@${place}` : "bat-" };
}

interface Taken {
  readonly capture: Capture;
  readonly leads: ReadonlyMap<string, ChannelLeads>;
}

function taken(model: Model, circuit: CircuitModel, setup: Setup, faults: Parameters<typeof traceOf>[3], seed: number, rate: number, seconds: number): Taken {
  const leads = new Map<string, ChannelLeads>();
  // With the plug pulled the sensor is looked at by itself, across its own two pins, and the plug beside it.
  if (setup.open !== undefined) {
    const [first, second] = circuit.pins.filter(({ role }) => role !== "shield").map(({ pin }) => pin);
    if (first !== undefined && second !== undefined) leads.set(`${first}@part`, { circuit: circuit.id, red: `${first}@part`, black: `${second}@part` });
  }
  for (const { pin, role } of circuit.pins) {
    if (role === "shield") continue;
    const places = circuit.paths.find((path) => path.pin === pin)?.places;
    for (const place of ["sensor", "module"]) if (places?.has(place)) leads.set(`${pin}@${place}`, leadsOn(circuit, pin, place));
  }
  const channels = [...leads].slice(0, CHANNELS).map(([name, { red, black }]) => ({ name, red, black }));
  const trace = traceOf(model, circuit, setup, faults, { channels, seconds, rate, seed, bits: seed % 2 === 0 ? 8 : 12 });
  return { leads, capture: { start: 0, rate, channels: trace.channels } };
}

/** Captures of sound circuits of a family in which anything is found that is not there. A rate too low to say is no false finding. */
export function falseFindings(family: Family, seeds: number): { captures: number; found: number } {
  let [captures, found] = [0, 0];
  for (let seed = 1; seed <= seeds; seed += 1) {
    const random = seededRandom(seed * 77);
    const model = buildModel([circuitOf(family, seed)]);
    const circuit = model.circuits[0] as CircuitModel;
    if (circuit.pins.length === 0) continue;
    const setups = setupsOf(random);
    const setup = setups[seed % setups.length] as Setup;
    const rate = family.traits.kind === "knock" ? 50_000 : 10 ** (4 + random.uniform());
    const { capture } = taken(model, circuit, setup, [], seed, rate, Math.min(3, 60_000 / rate));
    const { file } = analyseCapture(capture, { circuitOf: () => circuit, engine: engineDoes(setup) });
    captures += 1;
    if (file.findings.some(({ code }) => code !== "too-slow") || file.firstToFail !== null) found += 1;
  }
  return { captures, found };
}

/** An inductive sensor makes its wave with the plug pulled as well, as long as the starter turns. */
const PULLED: Setup = { key: "crank", rpm: 200, open: ["sensor"] };

/** Suspects that captures alone cannot part: neighbours along one wire. So many at most, and together this likely. */
const MOST_LEADING = 4;
const LEADING_SHARE = 0.95;

/** A fault that moves no captured level by so much, volts, is shown by no capture: a few ohms more before a megohm. */
const SHOWN_VOLTS = 0.05;

function leading(units: readonly { readonly unit: string; readonly probability: number }[]): string[] {
  const out: string[] = [];
  let sum = 0;
  for (const { unit, probability } of units.slice(0, MOST_LEADING)) {
    out.push(unit);
    sum += probability;
    if (sum >= LEADING_SHARE) return out;
  }
  return out;
}

/** What a circuit is captured in to find its fault. */
function searchSetups({ traits }: Family): Setup[] {
  if (traits.kind === "wheel")
    return [{ key: "on" }, { key: "idle", rpm: 800 }, { key: "on", open: ["sensor"] }, ...(traits.alternating === true ? [PULLED] : [])];
  if (traits.kind === "knock") return [{ key: "on" }, { key: "on", stimulus: { kind: "tap" } }, { key: "on", open: ["sensor"], stimulus: { kind: "tap" } }];
  return [
    { key: "on", truth: { position: 0 } },
    { key: "on", truth: { position: 100 } },
    { key: "on", open: ["sensor"] },
  ];
}

/** Whether two captures of one circuit say the same, level for level. */
function sameLevels(one: readonly CapturedReading[], other: readonly CapturedReading[]): boolean {
  const levels = (readings: readonly CapturedReading[]): number[] =>
    readings.flatMap(({ reading: { value } }) => (typeof value === "number" ? [value] : typeof value === "object" ? [value.min, value.max] : []));
  const [first, second] = [levels(one), levels(other)];
  return first.length === second.length && first.every((level, at) => Math.abs(level - (second[at] as number)) < SHOWN_VOLTS);
}

/** A circuit whose sheet says all there is to say of it, as those of the hidden-fault trial do. */
function statedCircuit(family: Family, seed: number): Circuit {
  const { id, family: name, with: given } = circuitOf(family, seed);
  return { id, family: name, with: { ...(family.parameters.parse(given) as Circuit["with"]) } };
}

/** A fault of the circuit's own, drawn with how bad it is. A deaf module is left out: no pin shows it. */
function hiddenFault(model: Model, random: { uniform(): number }) {
  const known = faultsOf(model).filter(
    ({ matters, during, unit }) => matters && during === null && !unit.startsWith("car/") && !unit.includes("outside") && !unit.endsWith("module:input"),
  );
  const fault = known[Math.floor(random.uniform() * known.length)];
  if (fault === undefined) return null;
  const scale = fault.severity;
  const severity =
    scale === null
      ? {}
      : scale.key === "ohms"
        ? { ohms: scale.low * (scale.high / scale.low) ** random.uniform() }
        : { severity: scale.low + (scale.high - scale.low) * random.uniform() };
  return { unit: fault.unit, placed: [placeFault(model, known, { id: fault.id, ...severity }, "fault")] };
}

/** Faults of a family hidden one after the other, and found or not among the few leading suspects from captures of its pins at both connectors alone; `unseen` are those that no captured level shows. */
export function foundFromCaptures(family: Family, seeds: number): { jobs: number; found: number; wrong: number; unseen: number } {
  const session = new Session();
  let [jobs, found, wrong, unseen] = [0, 0, 0, 0];
  for (let seed = 1; seed <= seeds; seed += 1) {
    const random = seededRandom(seed * 131);
    const sheet = statedCircuit(family, seed);
    const model = buildModel([sheet]);
    const circuit = model.circuits[0] as CircuitModel;
    const hidden = hiddenFault(model, random);
    if (hidden === null) continue;
    const rate = family.traits.kind === "knock" ? 50_000 : 20_000;
    const readingsWith = (faults: typeof hidden.placed): CapturedReading[] =>
      searchSetups(family).flatMap((setup, index) => {
        const { capture, leads } = taken(model, circuit, setup, faults, seed * 10 + index, rate, 0.6);
        const analysis = analyseCapture(capture, { circuitOf: () => circuit, engine: engineDoes(setup) });
        return readingsOfCapture(analysis, (name) => leads.get(name) ?? null, setup);
      });
    const readings = readingsWith(hidden.placed);
    if (sameLevels(readings, readingsWith([]))) {
      unseen += 1;
      continue;
    }
    const job = {
      circuits: [sheet],
      codes: [],
      readings: readings.map(({ reading }, index) => ({ ...reading, id: `r${index + 1}` })),
    };
    const { units, verdict } = diagnoseJob(job as unknown as Parameters<typeof diagnoseJob>[0], session);
    jobs += 1;
    if (leading(units).includes(hidden.unit) || verdict.group.includes(hidden.unit)) found += 1;
    else if (verdict.status === "proven") wrong += 1;
  }
  return { jobs, found, wrong, unseen };
}

/** What the traces page does with a large capture: how long it takes to bring in, frames while it is moved, longest task, memory. */
export interface TraceFigures {
  readonly samples: number;
  readonly fileMegabytes: number;
  readonly bringMs: number;
  readonly frameMs: { readonly p50: number; readonly p99: number };
  readonly longestTaskMs: number;
  readonly heapMegabytes: number;
  /** The whole process of page and worker: when all is there, and at its most while the file was read. */
  readonly processMegabytes: { readonly now: number; readonly most: number };
}

const FLAGS = [
  "--no-sandbox",
  "--disable-gpu",
  "--disable-background-networking",
  "--disable-component-update",
  "--disable-sync",
  "--enable-precise-memory-info",
];

/** Megabytes the largest page process of a browser takes now and took at its most, its workers with it, as the system counts. */
async function pageProcess(browser: Browser): Promise<{ now: number; most: number }> {
  const session = await browser.newBrowserCDPSession();
  const { processInfo } = await session.send("SystemInfo.getProcessInfo");
  const megabytes = (status: string, what: string): number => Number(new RegExp(`${what}:\\s+(\\d+) kB`, "u").exec(status)?.[1] ?? 0) / 1000;
  const found = processInfo
    .filter(({ type }) => type === "renderer")
    .map(({ id }) => readFileSync(`/proc/${id}/status`, "utf8"))
    .map((status) => ({ now: megabytes(status, "VmRSS"), most: megabytes(status, "VmHWM") }));
  return found.reduce((largest, one) => (one.most > largest.most ? one : largest), { now: 0, most: 0 });
}

/** A file of ten million rows takes its time to be written, read and judged. */
const PAGE_WAIT_MS = 600_000;

/** Brings a large capture into the demo's first job and drags it about at several zooms. @throws Error without the demo or a browser */
export async function tracesPage(address: string, samples: number): Promise<TraceFigures> {
  const path = join(tmpdir(), `fox-lamp-bench-${process.pid}.csv`);
  const fileMegabytes = writeLargeCsv(path, samples) / 1e6;
  const browser = await chromium.launch({ executablePath: process.env["CHROMIUM"] ?? "/usr/bin/chromium", args: FLAGS });
  try {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 }, serviceWorkers: "block" });
    await context.request.post(`${address}/api/auth/sign-in/username`, {
      data: { username: "wren", password: "lamp-on-the-bench" },
      headers: { origin: address },
    });
    const jobs = (await (await context.request.get(`${address}/api/jobs?q=Minibus%203`)).json()) as { id: string }[];
    const page = await context.newPage();
    await page.addInitScript(() => {
      const seen = { tasks: [] as number[], frames: [] as number[] };
      Object.assign(window, { seen });
      new PerformanceObserver((list) => {
        for (const entry of list.getEntries()) seen.tasks.push(entry.duration);
      }).observe({ type: "longtask", buffered: true });
      let last = performance.now();
      const frame = (now: number): void => {
        seen.frames.push(now - last);
        last = now;
        requestAnimationFrame(frame);
      };
      requestAnimationFrame(frame);
    });
    await page.goto(`${address}/jobs/${jobs[0]?.id ?? ""}/traces`);
    const began = performance.now();
    await page.locator("input[type=file]").setInputFiles(path);
    await page.getByRole("button", { name: "Judge it" }).click({ timeout: PAGE_WAIT_MS });
    const traces = page.getByRole("region", { name: /^Traces of/u });
    await traces.waitFor({ timeout: PAGE_WAIT_MS });
    const bringMs = performance.now() - began;
    await page.waitForTimeout(1500);
    const box = await traces.boundingBox();
    if (box === null) throw new Error("the traces have no place on the page");
    await page.evaluate(() => {
      const { seen } = window as unknown as { seen: { tasks: number[]; frames: number[] } };
      seen.tasks.length = 0;
      seen.frames.length = 0;
    });
    for (let zoom = 0; zoom < 6; zoom += 1) {
      await page.mouse.move(box.x + 0.8 * box.width, box.y + 0.5 * Math.min(box.height, 400));
      await page.mouse.down();
      for (let step = 0; step < 40; step += 1) {
        await page.mouse.move(box.x + (0.8 - 0.015 * step) * box.width, box.y + 0.5 * Math.min(box.height, 400));
        await page.waitForTimeout(8);
      }
      await page.mouse.up();
      await page.mouse.wheel(0, -900);
    }
    const { tasks, frames, heap } = await page.evaluate(() => {
      const { seen } = window as unknown as { seen: { tasks: number[]; frames: number[] } };
      const memory = (performance as unknown as { memory?: { usedJSHeapSize: number } }).memory;
      return { ...seen, heap: memory?.usedJSHeapSize ?? 0 };
    });
    const processMegabytes = await pageProcess(browser);
    frames.sort((a, b) => a - b);
    const at = (share: number): number => frames[Math.min(frames.length - 1, Math.floor(share * frames.length))] ?? 0;
    return {
      samples,
      fileMegabytes,
      bringMs,
      frameMs: { p50: at(0.5), p99: at(0.99) },
      longestTaskMs: Math.max(0, ...tasks),
      heapMegabytes: heap / 1e6,
      processMegabytes,
    };
  } finally {
    await browser.close();
    rmSync(path, { force: true });
  }
}
