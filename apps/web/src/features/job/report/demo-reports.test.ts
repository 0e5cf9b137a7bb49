import { readdirSync, readFileSync } from "node:fs";
import { join } from "node:path";
import { diagnosedPart, foldJob, movesOf, type Proof, proofOf, Session, takeApart } from "@fox-lamp/core";
import type { JobDetail, Shop } from "@fox-lamp/language";
import { jobSchema, parseOrThrow, shopSettingsSchema } from "@fox-lamp/language";
import { reportContent } from "./report-content";

const FOLDER = join(__dirname, "../../../../../server/demo");
const FILES = readdirSync(FOLDER).filter((name) => name.endsWith(".json"));
const SHOP = { name: "Tallow Bay Community Transport", settings: shopSettingsSchema.parse({}) } as Shop;

let made = 0;
const maker = {
  id: () => {
    made += 1;
    return `0195a000-0000-7000-8000-${String(made).padStart(12, "0")}`;
  },
  at: (minutes: number) => new Date(Date.UTC(2026, 2, 2, 8, 0) + minutes * 60_000).toISOString(),
  by: "Wren Halloran",
};

/** A demo job with its report, the proof computed as the page does. */
function reported(name: string) {
  const taken = takeApart(parseOrThrow(jobSchema, JSON.parse(readFileSync(join(FOLDER, name), "utf8")), name), maker);
  const entries = taken.entries.map((entry, index) => ({ ...entry, job: "j", seq: index + 1 })) as JobDetail["entries"];
  const state = foldJob(entries);
  const job = {
    number: 7,
    vehicle: taken.vehicle,
    circuits: taken.circuits,
    startedWith: taken.circuits,
    bench: null,
    simulated: false,
    entries,
  } as unknown as JobDetail;
  const session = new Session();
  const diagnosed = taken.circuits.length === 0 ? null : diagnosedPart({ circuits: taken.circuits, bench: null }, state, SHOP.settings);
  const proof: Proof | null = diagnosed === null ? null : proofOf(diagnosed, session);
  const content = reportContent(job, state, SHOP, proof === null || diagnosed === null ? null : { proof, moves: movesOf(diagnosed, session) }, []);
  const texts = [
    content.vehicle,
    content.vehicleDetails,
    ...[...content.customer, ...content.technical].flatMap(({ title, lines, columns = [], rows = [] }) => [title, ...lines, ...columns, ...rows.flat()]),
  ];
  return { content, state, texts, entries };
}

/** Names as files have them: none of them is for people. */
const RAW = [
  /\b[a-z][a-zA-Z0-9]*\/(?:wire|contact|sensor|module|heater|coil|connector|outside|battery|ground)\b/u,
  /\b(?:sig|gnd|ref|ctl|feed|ret|pgnd)@\w+/u,
  /\b(?:wire|contact|module|connector):\w+/u,
  /\b(?:degC|vref|pullupV|limitA|volts-dc|min-max|bat[+-]|undefined|NaN|null)\b/u,
  /\[object|\{"|0195a000-/u,
];

/** What the report says by itself of an ordinary record: everything else a customer reads was entered. */
const SAYS = [
  /^When it happens: /u,
  /^Done to it before: /u,
  /^Nothing is proven yet\.$/u,
  /^(?:The|A|One of these|No fault|Every test|The trouble|The repair|Everything we measured|What we measured)\b/u,
  /^We measured \d+ times?/u,
  /^[^:]+: .+, (?:where a sound circuit shows .+|as it should be)\.$/u,
  /^Fault codes: /u,
  /^Not everything is as it should be yet: /u,
];

describe.each(FILES)("the report of %s", (name) => {
  const { content, state, texts, entries } = reported(name);
  it("has no raw name in any line", () => {
    for (const text of texts) for (const raw of RAW) expect([text, raw.test(text)]).toEqual([text, false]);
  });
  it("says to the customer nothing that was not entered, but its own sentences", () => {
    const entered = JSON.stringify(entries.map(({ body }) => body));
    for (const { lines } of content.customer)
      for (const line of lines) {
        const own = SAYS.some((sentence) => sentence.test(line)) || entered.includes(JSON.stringify(line).slice(1, -1));
        // Units are printed as people write them; what was entered may say ohm.
        expect([line, own || entered.includes(JSON.stringify(line.replaceAll("Ω", "ohm")).slice(1, -1))]).toEqual([line, true]);
      }
  });
  it("lists every reading once, and every thing that was done, noted and checked", () => {
    const readings = content.technical.find(({ title }) => title === "Readings");
    expect((readings?.rows ?? []).map(([id]) => id)).toEqual(state.readings.map(({ reading }) => reading.id));
    const all = texts.join("\n");
    for (const { text } of [...state.repairs, ...state.notes]) expect(all).toContain(text);
    for (const { code } of state.codes) expect(all).toContain(code);
    expect(all).toContain(state.complaint);
  });
  it("says that something is proven only where that was recorded", () => {
    const proven = state.decisions.some(({ decision }) => decision === "proven");
    const said = content.technical.find(({ title }) => title === "Verdict")?.lines.some((line) => line.startsWith("Proven: ")) ?? false;
    expect(said && state.decisions.length > 0).toBe(proven);
    const before = content.customer.flatMap(({ lines }) => lines).filter((line) => /before anything was replaced/u.test(line));
    if (!state.repairs.some(({ part }) => part !== undefined)) expect(before).toEqual([]);
  });
});
