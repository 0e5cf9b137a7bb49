import { readdirSync, readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import { promisify } from "node:util";
import { gzip } from "node:zlib";
import {
  analyseCapture,
  BLOCK_SAMPLES,
  buildModel,
  type Capture,
  CURRENT,
  encodeBlock,
  engineDoes,
  leadsOf,
  lowestLevel,
  readingsOfCapture,
  takeApart,
  traceFile,
} from "@fox-lamp/core";
import { jobSchema, type NewEntry, parseOrThrow, type StoredCapture, type StoredChannel, setupSchema } from "@fox-lamp/language";
import { v7 as uuidv7 } from "uuid";
import { z } from "zod";
import type { House } from "../http/common";

const packed = promisify(gzip);

/** A capture of a demo job, made by its virtual car when the demo is loaded. */
const traceSchema = z.object({
  title: z.string(),
  circuit: z.string(),
  channels: z.array(z.string()).min(1).max(8),
  setup: setupSchema,
  seconds: z.number(),
  rate: z.number(),
  bits: z.number(),
  range: z.number(),
  /** Whether its readings are entered; whether the car is sound in it; whether it is kept as known good. */
  readings: z.boolean().default(false),
  sound: z.boolean().default(false),
  known: z.boolean().default(false),
});
type DemoTrace = z.output<typeof traceSchema>;
const traceJobSchema = jobSchema.extend({ traces: z.array(traceSchema).min(1) });
type TraceJob = z.output<typeof traceJobSchema>;

/** What a capture is stored as, with the readings it stands for. */
function storedOf(file: TraceJob, trace: DemoTrace, seed: number): { capture: Capture; stored: StoredCapture; readings: NewEntry[]; id: string } {
  const { circuits, simulated } = file;
  const model = buildModel(circuits);
  const { title, circuit, setup, seconds, rate, bits, range } = trace;
  const leads = trace.channels.map((name) => leadsOf(model, name, "channels"));
  const sound = trace.sound || simulated === undefined;
  const taken = traceFile({
    circuits,
    circuit,
    faults: sound ? [] : simulated.faults,
    setup,
    channels: trace.channels,
    seconds,
    rate,
    seed,
    bits,
    range,
    ...(sound ? {} : simulated.scope),
  });
  const channels = leads.map(({ red, black }): StoredChannel => {
    const [owner, point] = red.includes(":") ? (red.split(":") as [string, string]) : [null, red];
    if (owner === null) return { name: point, unit: "V", circuit: null, red: null, black: null };
    // A clamp has no black lead, and its channel a name of its own.
    if (black === null) return { name: `${owner}:${CURRENT}`, unit: "A", circuit: owner, red: point, black };
    return { name: `${owner}:${point.split("@")[0]}`, unit: "V", circuit: owner, red: point, black: black.split(":").at(-1) ?? black };
  });
  const capture: Capture = {
    ...taken,
    channels: taken.channels.map(({ samples }, index) => ({
      name: channels[index]?.name ?? "",
      unit: channels[index]?.unit ?? "V",
      samples: Float32Array.from(samples),
    })),
  };
  const circuitOf = (name: string) => model.circuits.find(({ id }) => id === name.split(":")[0]) ?? null;
  const analysis = analyseCapture(capture, { circuitOf, engine: engineDoes(setup) });
  const leadsFor = (name: string) => {
    const found = channels.find((channel) => channel.name === name);
    return found?.circuit && found.red ? { circuit: found.circuit, red: found.red, black: found.black } : null;
  };
  const id = uuidv7();
  const readings = trace.readings
    ? readingsOfCapture(analysis, leadsFor, setup).map(
        ({ channel, from, to, reading }, index): NewEntry => ({
          id: uuidv7(),
          at: new Date(0).toISOString(),
          by: "",
          kind: "reading",
          body: { reading: { ...reading, id: `r${index + 1}`, capture: { id, channel, from, to } }, minutes: index === 0 ? 3 : 0 },
        }),
      )
    : [];
  const stored: StoredCapture = { title, source: "simulated", start: 0, rate, length: Math.round(seconds * rate), channels, setup, analysis: analysis.file };
  return { capture, stored, readings, id };
}

/** Loads the demo's jobs that carry captures. @param before moment the oldest other job began @returns how many there are */
export async function loadTraceJobs(
  folder: URL,
  { jobs, vehicles, captures }: Pick<House, "jobs" | "vehicles" | "captures">,
  { shopId, person }: { shopId: string; person: { id: string; name: string } },
  before: number,
): Promise<number> {
  const names = readdirSync(fileURLToPath(new URL("traces/", folder)))
    .filter((name) => name.endsWith(".json"))
    .sort();
  for (const [index, name] of names.entries()) {
    const file = parseOrThrow(traceJobSchema, JSON.parse(readFileSync(new URL(`traces/${name}`, folder), "utf8")), name);
    const start = before - (names.length - index) * 3 * 3_600_000;
    const at = (minutes: number): string => new Date(start + minutes * 60_000).toISOString();
    const taken = takeApart(file, { id: uuidv7, at, by: person.name });
    const made = file.traces.map((trace, number) => ({ trace, ...storedOf(file, trace, 100 * (index + 1) + number) }));
    const entries = made.flatMap(({ trace, stored, readings, id }, number): NewEntry[] => [
      {
        id: uuidv7(),
        at: at(10 + 5 * number),
        by: person.name,
        kind: "capture",
        body: {
          capture: id,
          title: trace.title,
          seconds: trace.seconds,
          channels: stored.channels.map((channel) => channel.name),
          setup: trace.setup,
          findings: stored.analysis.findings.map(({ sentence }) => sentence),
          ...(trace.known ? { known: true } : {}),
        },
      },
      ...readings.map((reading) => ({ ...reading, at: at(11 + 5 * number), by: person.name }) as NewEntry),
    ]);
    const vehicleId = await vehicles.create(shopId, taken.vehicle, file.circuits);
    const jobId = await jobs.create(shopId, vehicleId, { ...taken, entries: [...taken.entries, ...entries] }, { assigned: person, author: person.id });
    for (const { id, stored, capture } of made) {
      await captures.put({ shopId, jobId }, id, stored);
      for (const [channel, { samples }] of capture.channels.entries()) {
        const own = samples as Float32Array;
        await captures.putPart({ shopId, jobId }, id, `${channel}-p`, await packed(new Uint8Array(lowestLevel(own).buffer)));
        for (let block = 0; block * BLOCK_SAMPLES < own.length; block += 1)
          await captures.putPart(
            { shopId, jobId },
            id,
            `${channel}-${block}`,
            await packed(encodeBlock(own.slice(block * BLOCK_SAMPLES, (block + 1) * BLOCK_SAMPLES))),
          );
      }
    }
  }
  return names.length;
}
