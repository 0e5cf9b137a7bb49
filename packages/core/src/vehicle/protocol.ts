import { type Code, measurementSchema, problemOf, type Value } from "@fox-lamp/language";
import { z } from "zod";
import type { Meter, ScanAdapter, Scope } from "./adapters";
import type { Trace } from "./trace";
import type { LiveValue } from "./vehicle";

const id = z.number().int().min(0);

/** What an adapter is asked: one JSON object a line. See docs/adapters.md. */
export const adapterRequestSchema = z.discriminatedUnion("do", [
  z.object({ id, do: z.literal("codes") }),
  z.object({ id, do: z.literal("live"), names: z.array(z.string()).default([]) }),
  z.object({ id, do: z.literal("clear") }),
  z.object({ id, do: z.literal("command"), circuit: z.string(), on: z.boolean() }),
  z.object({ id, do: z.literal("measure"), measurement: measurementSchema }),
  z.object({
    id,
    do: z.literal("capture"),
    circuit: z.string(),
    channels: z
      .array(z.object({ name: z.string(), red: z.string(), black: z.string() }))
      .min(1)
      .max(8),
    seconds: z.number().positive().max(120),
    rate: z.number().positive().max(5e6),
    coupling: z.enum(["dc", "ac"]).default("dc"),
  }),
]);
export type AdapterRequest = z.infer<typeof adapterRequestSchema>;

/** What an adapter answers, with the request's id. */
export type AdapterAnswer = { readonly id: number | null } & (
  | { readonly ok: true; readonly codes: readonly Code[] }
  | { readonly ok: true; readonly live: readonly LiveValue[] }
  | { readonly ok: true; readonly value: Value }
  | { readonly ok: true; readonly rate: number; readonly channels: readonly { readonly name: string; readonly volts: readonly number[] }[] }
  | { readonly ok: true }
  | { readonly ok: false; readonly message: string }
);

/** The devices behind one adapter. */
export interface Devices {
  readonly scan: ScanAdapter;
  readonly meter: Meter;
  readonly scope: Scope;
}

function samples({ rate, channels }: Trace): { rate: number; channels: { name: string; volts: number[] }[] } {
  return { rate, channels: channels.map(({ name, samples: taken }) => ({ name, volts: [...taken] })) };
}

async function perform(request: AdapterRequest, { scan, meter, scope }: Devices): Promise<AdapterAnswer> {
  const { id: number } = request;
  switch (request.do) {
    case "codes":
      return { id: number, ok: true, codes: await scan.codes() };
    case "live":
      return { id: number, ok: true, live: await scan.live(request.names) };
    case "clear":
      await scan.clear();
      return { id: number, ok: true };
    case "command":
      await scan.command(request.circuit, request.on);
      return { id: number, ok: true };
    case "measure":
      return { id: number, ok: true, value: await meter.read(request.measurement) };
    case "capture": {
      const { circuit, channels, seconds, rate, coupling } = request;
      return { id: number, ok: true, ...samples(await scope.capture(circuit, { channels, seconds, rate, coupling })) };
    }
  }
}

/** Answers one line of the protocol with one line; whatever goes wrong is an answer with `ok: false` and one sentence. */
export async function answerLine(line: string, devices: Devices): Promise<string> {
  let input: unknown;
  try {
    input = JSON.parse(line);
  } catch {
    return JSON.stringify({ id: null, ok: false, message: "the line is not JSON; expected one object a line" } satisfies AdapterAnswer);
  }
  const parsed = adapterRequestSchema.safeParse(input);
  if (!parsed.success) {
    const { where, message } = problemOf(parsed.error, input);
    const asked = typeof input === "object" && input !== null && "id" in input && typeof input.id === "number" ? input.id : null;
    return JSON.stringify({ id: asked, ok: false, message: where === "" ? message : `${where}: ${message}` } satisfies AdapterAnswer);
  }
  try {
    return JSON.stringify(await perform(parsed.data, devices));
  } catch (error) {
    return JSON.stringify({ id: parsed.data.id, ok: false, message: error instanceof Error ? error.message : String(error) } satisfies AdapterAnswer);
  }
}
