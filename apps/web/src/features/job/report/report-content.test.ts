import { foldJob } from "@fox-lamp/core";
import type { JobDetail, Shop } from "@fox-lamp/language";
import type { Proven } from "../../../circuit/analysis.worker";
import { reportContent, sharedPage } from "./report-content";

type Stored = JobDetail["entries"][number];
let count = 0;
function entry(kind: string, body: unknown): Stored {
  count += 1;
  const id = `0192a000-0000-7000-8000-${String(count).padStart(12, "0")}`;
  return { id, at: `2026-03-02T09:${String(10 + count).padStart(2, "0")}:00Z`, by: "Wren", seq: count, kind, body } as Stored;
}

const READING = { id: "r1", circuit: "ect", meter: "volts-dc", red: "sig@sensor", black: "bat-", setup: {}, value: 4.98 };

function jobOf(entries: Stored[]): JobDetail {
  return {
    id: "0192a000-0000-7000-8000-0000000000ff",
    number: 12,
    title: "Coolant temperature",
    vehicleId: "0192a000-0000-7000-8000-0000000000fe",
    vehicle: { name: "Unit 2", make: "Veldane", model: "Curlew", plate: "TB 502 VN", mileageKm: 98_120 },
    found: [],
    assignedTo: null,
    bench: null,
    circuits: [{ id: "ect", family: "thermistor-2w", title: "Coolant temperature" }],
    startedWith: [{ id: "ect", family: "thermistor-2w", title: "Coolant temperature" }],
    simulated: false,
    entries,
  };
}

const SHOP = { name: "Tallow Bay Community Transport" } as Shop;

function reported(entries: Stored[], proven: Proven | null = null) {
  const job = jobOf(entries);
  return reportContent(job, foldJob(entries), SHOP, proven, []);
}

const lines = (sections: readonly { title: string; lines: readonly string[]; rows?: readonly (readonly string[])[] }[], title: string): string =>
  JSON.stringify(sections.find((section) => section.title === title) ?? null);

describe("a report", () => {
  it("has the shop, the job and the vehicle at its head", () => {
    const content = reported([entry("complaint", { text: "Runs cold" })]);
    expect(content.shop).toBe(SHOP.name);
    expect(content.page).toMatch(/^Job 12, 2 March 2026$/u);
    expect(content.vehicle).toBe("Unit 2");
    expect(content.vehicleDetails).toContain("TB 502 VN");
    expect(content.vehicleDetails).toContain("98,120 km");
  });

  it("says to the customer that nothing is proven until it is, and never shows an empty heading", () => {
    const { customer, technical } = reported([entry("complaint", { text: "Runs cold" })]);
    expect(lines(customer, "You told us")).toContain("Runs cold");
    expect(lines(customer, "What was wrong")).toContain("Nothing is proven yet.");
    for (const { lines: own, rows } of [...customer, ...technical]) expect(own.length + (rows?.length ?? 0)).toBeGreaterThan(0);
  });

  it("lists every reading with its value, what was done, and the codes before and after", () => {
    const { technical } = reported([
      entry("code", { code: "P0118", status: "current", freezeFrame: { engine: "800 rpm" } }),
      entry("reading", { reading: READING, minutes: 1.5 }),
      entry("repair", { text: "Signal wire renewed", unit: "ect/wire:sig", part: { number: "W-7" } }),
      entry("cleared", { codes: ["P0118"] }),
      entry("rescan", { codes: [] }),
      entry("battery", { restVolts: 12.6, crankingVolts: 10.4 }),
    ]);
    const readings = technical.find(({ title }) => title === "Readings");
    // Whoever reads it learns when it was measured; minutes that were only reckoned are not told.
    expect(readings?.lines).toEqual([expect.stringMatching(/^Measured 2 Mar 2026, \d\d:\d\d, Wren$/u)]);
    expect(readings?.rows?.[0]?.[0]).toBe("r1");
    expect(readings?.rows?.[0]?.[2]).toBe("4.98 V");
    expect(lines(technical, "Record")).toContain("Signal wire renewed (W-7)");
    expect(lines(technical, "Codes before and after")).toContain("P0118");
    expect(lines(technical, "Codes before and after")).toContain("engine 800 rpm");
    expect(lines(technical, "Battery")).toContain("12.6 V at rest, 10.4 V while cranking");
    expect(lines(technical, "Codes before and after")).toContain("Asked again afterwards: no codes");
  });

  it("keeps a decision before proof in sight, with its odds, and does not say that anything was fitted", () => {
    const { technical } = reported([entry("decision", { decision: "override", unit: "ect/sensor", probability: 0.45 })]);
    expect(lines(technical, "Record")).toContain("Decided to replace");
    expect(lines(technical, "Record")).toContain("at odds of 45 %");
    expect(lines(technical, "Record")).not.toContain("fitted");
  });

  it("says of a reading from a trace where in which trace it is", () => {
    const stretch = { id: "c1", channel: "ect:sig", from: 0.42, to: 0.5 };
    const { technical } = reported([
      entry("capture", { capture: "c1", title: "Stall", seconds: 2, channels: ["ect:sig"], setup: {}, findings: [] }),
      entry("reading", { reading: { ...READING, capture: stretch }, minutes: 1.5 }),
    ]);
    const [row] = technical.find(({ title }) => title === "Readings")?.rows ?? [];
    expect(row?.[1]).toMatch(/, trace "Stall" from 420 ms to 500 ms$/u);
  });

  it("says what was recorded as proven, when and by whom, whatever the readings would say now", () => {
    const { technical } = reported([
      entry("reading", { reading: READING, minutes: 1 }),
      entry("decision", { decision: "proven", unit: "ect/wire:sig", probability: 0.97, because: ["r1"] }),
    ]);
    expect(technical.find(({ title }) => title === "Verdict")?.lines).toEqual([expect.stringMatching(/^Proven: .*97 %.*, 2 Mar 2026, .*, Wren$/u)]);
  });

  it("says of a new part all that it was compared with, at the temperatures it had, and how wires were mended", () => {
    const part = {
      number: "77-1",
      variant: "B",
      source: "other" as const,
      shape: false,
      oldOhms: "OL" as const,
      newOhms: 24,
      newTemperature: 20,
      twinOhms: 23.6,
      torque: "20 Nm",
      torqueSource: "book, page 4",
    };
    const { technical } = reported([
      entry("repair", { text: "Coil fitted", unit: "ect/sensor", act: "fitted", part, test: "Coil resistance" }),
      entry("repair", {
        text: "Wire mended",
        unit: "ect/wire:sig",
        act: "repaired",
        wiring: { stretch: "C2 to sensor", wires: 2, how: "spliced", sleeve: "braid" },
      }),
    ]);
    const record = lines(technical, "Record");
    for (const words of [
      "77-1",
      "variant B",
      "another make",
      "old OL",
      "new 24.0 Ω at 20 °C",
      "twin 23.6 Ω",
      "shape or connector differ",
      "torque 20 Nm, book, page 4",
      "to be shown by: Coil resistance",
    ])
      expect(record).toContain(words);
    expect(record).toContain("Wire mended (C2 to sensor, 2 wires, spliced, braid)");
  });

  it("says what became of each code, and which stayed as foreseen", () => {
    const { technical, customer } = reported([
      entry("code", { code: "P0118" }),
      entry("code", { code: "P0340" }),
      entry("decision", { decision: "proven", unit: "ect/sensor", unexplained: ["P0340"] }),
      entry("cleared", { codes: ["P0118", "P0340"] }),
      entry("rescan", { codes: [{ code: "P0340" }] }),
    ]);
    expect(lines(technical, "Codes before and after")).toContain("Gone: P0118.");
    expect(lines(technical, "Codes before and after")).toContain("Stayed: P0340, as foreseen: another cause.");
    expect(lines(customer, "Checked afterwards")).toContain("P0118 did not come back");
    expect(lines(customer, "Checked afterwards")).toContain("P0340 stayed, as we expected: another cause.");
  });

  it("of a job that was left undecided names the causes with their odds and the test that settles it, and proves nothing", () => {
    const left = {
      units: [
        { unit: "ect/sensor", probability: 0.55 },
        { unit: "ect/wire:sig", probability: 0.4 },
      ],
      test: { title: "Resistance of the sensor, hot", measurement: { circuit: "ect", meter: "ohms", red: "sig@part", black: "gnd@part" } },
    };
    const { technical, customer } = reported([
      entry("complaint", { text: "Runs cold", when: "in the mornings" }),
      entry("closing", { outcome: "undecided", left }),
      entry("stage", { stage: "closed" }),
    ]);
    expect(lines(customer, "You told us")).toContain("When it happens: in the mornings");
    expect(lines(customer, "What was wrong")).toContain(
      "does not settle the cause yet. It can be the coolant temperature sensor itself (55 %) or a wire to the coolant temperature sensor (40 %)",
    );
    expect(lines(customer, "If it comes back")).toContain("Resistance of the sensor, hot");
    expect(lines(technical, "Verdict")).toContain("Left undecided between Temperature sensor 55 %, Signal wire 40 %");
    expect(lines(technical, "Verdict")).not.toContain("Proven");
  });

  it("says why it was closed although something was still outside", () => {
    const { customer, technical } = reported([
      entry("closing", { outcome: "repaired", despite: "The other code belongs to the lamp." }),
      entry("stage", { stage: "closed" }),
    ]);
    expect(lines(customer, "Checked afterwards")).toContain("The other code belongs to the lamp.");
    expect(lines(technical, "Record")).toContain("Closed although something is still outside");
  });

  it("writes dates in the shop's language, on the shop's paper, under its letterhead", () => {
    const report = { letterhead: "Quay Street 4\n\nTel. 555 0102", logo: null, paper: "Letter", dates: "de" };
    const job = jobOf([entry("complaint", { text: "Runs cold" })]);
    const content = reportContent(job, foldJob(job.entries), { ...SHOP, settings: { report } } as Shop, null, []);
    expect(content.page).toContain("2. März 2026");
    expect([content.paper, content.letterhead]).toEqual(["Letter", ["Quay Street 4", "Tel. 555 0102"]]);
  });

  it("is shared as the customer's page and nothing else", () => {
    const content = reported([
      entry("complaint", { text: "Runs cold" }),
      entry("reading", { reading: READING, minutes: 1 }),
      entry("note", { text: "between us" }),
    ]);
    const page = JSON.stringify(sharedPage(content));
    expect(page).toContain("Runs cold");
    for (const kept of ["between us", "sig@sensor", "Readings", "technical"]) expect(page).not.toContain(kept);
  });

  it("leaves out what was taken back", () => {
    const taken = entry("reading", { reading: READING, minutes: 1 });
    const { technical } = reported([taken, entry("retraction", { entry: taken.id })]);
    expect(technical.some(({ title }) => title === "Readings")).toBe(false);
  });

  it("takes the mileage of the complaint before the register's", () => {
    expect(reported([entry("complaint", { text: "x", mileageKm: 99_000 })]).vehicleDetails).toContain("99,000 km");
  });
});
