import {
  analyseCapture,
  buildModel,
  type Capture,
  type CaptureAnalysis,
  type CapturedReading,
  type CaptureLayout,
  CaptureReader,
  type ChannelLeads,
  captureCsv,
  captureLayout,
  type Demonstration,
  engineDoes,
  lowestLevel,
  type MeterView,
  meterView,
  readingsOfCapture,
  smoothed,
  type TimeSaid,
  type TraceBand,
  traceBands,
  type WrongSetup,
  wrongSetup,
} from "@fox-lamp/core";
import {
  BadInput,
  type CaptureAnswer,
  type CaptureFile,
  type Circuit,
  type Problem,
  type Setup,
  type StoredCapture,
  type StoredChannel,
} from "@fox-lamp/language";
import { expose, transfer } from "comlink";
import { HeldCapture, storedOf, wholeCapture } from "./held";
import { KeptParts, META } from "./kept-parts";
import { type Sending, sendKept } from "./uploads";
import { channelWav, wavCapture } from "./wav";

/** An answer of the worker, or why there is none; refusals do not cross as exceptions. */
export type Told<T> = { readonly ok: true; readonly value: T } | { readonly ok: false; readonly problem: Problem };

/** A file as it was read, before anybody said what its channels are. */
export interface ReadFile {
  readonly id: string;
  readonly start: number;
  readonly rate: number;
  readonly length: number;
  readonly channels: readonly { readonly name: string; readonly unit: string }[];
  readonly notes: readonly string[];
}

/** What channels of a capture are, and in which state the car was. */
export interface Placed {
  readonly circuits: readonly Circuit[];
  readonly channels: readonly StoredChannel[];
  readonly setup: Setup;
  readonly known?: CaptureFile;
}

/** How far a file is read, 0 to 1; false stops the reading. */
export type OnRead = (share: number) => void;

const HEAD_BYTES = 65_536;
const MOST_WAV_BYTES = 200_000_000;
/** Gaps, spikes and rings that are kept one by one with a stored capture. */
const MOST_LISTED = 400;
const STOPPED: Problem = { code: "capture:stopped", where: "", message: "the reading was stopped" };

const held = new Map<string, HeldCapture>();
const read = new Map<string, Capture>();
const stopped = new Set<string>();
let kept: Promise<KeptParts> | null = null;

function keptParts(): Promise<KeptParts> {
  kept ??= KeptParts.open();
  return kept;
}

async function told<T>(make: () => T | Promise<T>): Promise<Told<T>> {
  try {
    return { ok: true, value: await make() };
  } catch (error) {
    if (error instanceof BadInput) return { ok: false, problem: error.problem };
    if (error instanceof RangeError) return { ok: false, problem: { code: "capture:part", where: "", message: error.message } };
    throw error;
  }
}

/** The analysis of a capture whose channels have been placed. @throws BadInput for circuits that cannot be */
function analysed(capture: Capture, { circuits, channels, setup, known }: Placed): CaptureAnalysis {
  const model = buildModel(circuits);
  const named = channels.map(({ name, unit }, index) => ({ name, unit, samples: (capture.channels[index] ?? { samples: new Float32Array(0) }).samples }));
  const circuitOf = (name: string) => {
    const id = channels.find((channel) => channel.name === name)?.circuit;
    return model.circuits.find((circuit) => circuit.id === id) ?? null;
  };
  return analyseCapture({ ...capture, channels: named }, { circuitOf, known, engine: engineDoes(setup) });
}

function shortened(file: CaptureFile): CaptureFile {
  const first = <T>(list: readonly T[]): T[] => list.slice(0, MOST_LISTED);
  const channels = file.channels.map((channel) => ({
    ...channel,
    missing: first(channel.missing),
    dropouts: first(channel.dropouts),
    glitches: first(channel.glitches),
    bursts: first(channel.bursts),
    peaks: first(channel.peaks),
  }));
  return { ...file, channels, findings: first(file.findings) };
}

const partFrom =
  (job: string, capture: string) =>
  async (part: string): Promise<Uint8Array<ArrayBuffer> | null> => {
    const here = await (await keptParts()).get(job, capture, part).catch(() => null);
    if (here !== null) return here;
    const answer = await fetch(`/api/jobs/${job}/captures/${capture}/parts/${part}`, { credentials: "same-origin" });
    return answer.ok ? new Uint8Array(await answer.arrayBuffer()) : null;
  };

/** Everything that is done to samples: they stay here, and never pass the page whole. */
const service = {
  /** What the head of a file says. */
  look: async (file: File): Promise<Told<CaptureLayout>> =>
    told(async () => captureLayout(new Uint8Array(await file.slice(0, HEAD_BYTES).arrayBuffer()), { ask: true })),

  /** Reads a WAV file, which holds one channel or a few. */
  readWav: async (id: string, file: File): Promise<Told<ReadFile>> =>
    told(async () => {
      if (file.size > MOST_WAV_BYTES)
        throw new BadInput({
          code: "capture:wav",
          where: file.name,
          message: `is ${Math.round(file.size / 1e6)} MB; expected at most ${MOST_WAV_BYTES / 1e6}`,
        });
      const { capture, notes } = wavCapture(new Uint8Array(await file.arrayBuffer()));
      return keep(id, capture, notes);
    }),

  /** Reads a file as it streams in. @param id under which it can be stopped, and is held afterwards */
  read: async (id: string, file: File, said: Omit<TimeSaid, "ask">, onRead: OnRead): Promise<Told<ReadFile>> =>
    told(async () => {
      const reader = new CaptureReader(said);
      const stream = file.stream().getReader();
      let taken = 0;
      for (;;) {
        const { done, value } = await stream.read();
        if (stopped.delete(id)) {
          await stream.cancel();
          throw new BadInput(STOPPED);
        }
        if (done) break;
        reader.push(value);
        taken += value.length;
        onRead(taken / Math.max(1, file.size));
      }
      const { capture, notes } = reader.finish();
      return keep(id, capture, notes);
    }),

  stop: (id: string): void => {
    stopped.add(id);
  },

  /** Holds samples that came from a scope, one array a channel. */
  take: async (
    id: string,
    samples: readonly Float32Array[],
    rate: number,
    of: readonly { readonly name: string; readonly unit: string }[],
  ): Promise<Told<ReadFile>> =>
    told(() => {
      const channels = samples.map((channel, index) => ({ name: of[index]?.name ?? `${index + 1}`, unit: of[index]?.unit ?? "V", samples: channel }));
      return keep(id, { start: 0, rate, channels }, []);
    }),

  /** What a held capture says, once its channels are placed. */
  analyse: async (id: string, placed: Placed): Promise<Told<{ file: CaptureFile; readings: CapturedReading[] }>> =>
    told(async () => {
      const analysis = analysed(await wholeOf(id), placed);
      const leadsOf = (name: string): ChannelLeads | null => {
        const channel = placed.channels.find((one) => one.name === name);
        if (channel === undefined || channel.circuit === null || channel.red === null) return null;
        return { circuit: channel.circuit, red: channel.red, black: channel.black };
      };
      return { file: shortened(analysis.file), readings: readingsOfCapture(analysis, leadsOf, placed.setup) };
    }),

  /** The same signal through a scope set as it should be, and through one that is not. */
  demonstrate: async (circuits: readonly Circuit[], circuit: string, setup: Setup, which: WrongSetup): Promise<Told<Demonstration>> =>
    told(() => wrongSetup(circuits, circuit, setup, which)),

  /** Where each channel would stay on a sound car. */
  bands: async ({ circuits, channels, setup }: Placed): Promise<Told<TraceBand[][]>> => told(() => traceBands(buildModel(circuits), channels, setup)),

  /** The overview of a channel: the lowest level of its pyramid. @param window samples it is smoothed over; 1 for none */
  overview: async (id: string, channel: number, window = 1): Promise<Told<Float32Array>> =>
    told(async () => {
      const level = window > 1 ? lowestLevel(await smoothOf(id, channel, window)) : await heldOf(id).lowest(channel);
      return transfer(level, [level.buffer]);
    }),

  samples: async (id: string, channel: number, from: number, to: number, window = 1): Promise<Told<Float32Array>> =>
    told(async () => {
      const out = window > 1 ? (await smoothOf(id, channel, window)).slice(from, to) : await heldOf(id).samples(channel, from, to);
      return transfer(out, [out.buffer]);
    }),

  /** What a meter would have shown between two samples. */
  meter: async (id: string, channel: number, from: number, to: number, rate: number): Promise<Told<MeterView>> =>
    told(async () => {
      const samples = await heldOf(id).samples(channel, from, to);
      return meterView(samples, rate, { from: 0, to: samples.length });
    }),

  /** A held capture as CSV. */
  csv: async (id: string, { start, rate, length, channels }: Pick<StoredCapture, "start" | "rate" | "length" | "channels">): Promise<Told<Blob>> =>
    told(async () => {
      const samples = await Promise.all(channels.map((_, index) => heldOf(id).samples(index, 0, length)));
      const capture = { start, rate, channels: channels.map(({ name, unit }, index) => ({ name, unit, samples: samples[index] as Float32Array })) };
      return new Blob([...captureCsv(capture)], { type: "text/csv" });
    }),

  /** One channel as WAV, in its own unit. */
  wav: async (id: string, channel: number, { rate, length }: Pick<StoredCapture, "rate" | "length">): Promise<Told<Blob>> =>
    told(async () => new Blob([channelWav(await heldOf(id).samples(channel, 0, length), rate)], { type: "audio/wav" })),

  /** Keeps a capture on this device, part by part, and sends what waits. */
  store: async (job: string, id: string, stored: StoredCapture): Promise<Told<Sending>> =>
    told(async () => {
      const parts = await keptParts();
      await parts.put({ job, capture: id, part: META, content: new TextEncoder().encode(JSON.stringify(stored)) });
      for await (const { part, content } of heldOf(id).parts()) await parts.put({ job, capture: id, part, content });
      return sendKept(parts, fetch);
    }),

  /** Sends what still waits on this device. */
  send: async (): Promise<Told<Sending>> => told(async () => sendKept(await keptParts(), fetch)),

  /** What is known of a stored capture, from this device or from the server; it is held by its parts from now on. */
  open: async (job: string, id: string): Promise<Told<StoredCapture>> =>
    told(async () => {
      const here = await (await keptParts()).get(job, id, META).catch(() => null);
      let stored: StoredCapture;
      if (here !== null) stored = JSON.parse(new TextDecoder().decode(here)) as StoredCapture;
      else {
        const answer = await fetch(`/api/jobs/${job}/captures/${id}`, { credentials: "same-origin" });
        if (!answer.ok) throw new RangeError("the capture is not there: it may still wait on the device it was brought in with");
        stored = storedOf((await answer.json()) as CaptureAnswer);
      }
      if (!held.has(id)) held.set(id, new HeldCapture(stored.length, stored.channels.length, null, partFrom(job, id)));
      return stored;
    }),
};
export type CaptureService = typeof service;

function keep(id: string, capture: Capture, notes: readonly string[]): ReadFile {
  held.set(id, wholeCapture(capture));
  read.set(id, capture);
  const { start, rate, channels } = capture;
  return { id, start, rate, length: channels[0]?.samples.length ?? 0, channels: channels.map(({ name, unit }) => ({ name, unit })), notes };
}

/** The last channels that were smoothed, newest last. */
const smooth = new Map<string, Promise<Float32Array>>();
const MOST_SMOOTH = 8;

/** All samples of a channel, smoothed. */
function smoothOf(id: string, channel: number, window: number): Promise<Float32Array> {
  const key = `${id} ${channel} ${window}`;
  const held = heldOf(id);
  const found = smooth.get(key) ?? held.samples(channel, 0, held.length).then((samples) => smoothed(samples, window));
  smooth.delete(key);
  smooth.set(key, found);
  for (const oldest of smooth.keys()) if (smooth.size > MOST_SMOOTH) smooth.delete(oldest);
  return found;
}

function heldOf(id: string): HeldCapture {
  const found = held.get(id);
  if (found === undefined) throw new RangeError("the capture is not open");
  return found;
}

/** A capture with all its samples. */
async function wholeOf(id: string): Promise<Capture> {
  const found = read.get(id);
  if (found !== undefined) return found;
  throw new RangeError("the capture is not open as a whole");
}

expose(service);
