import { type Capture, decodeBlock } from "@fox-lamp/core";
import "fake-indexeddb/auto";
import { HeldCapture, wholeCapture } from "./held";
import { KeptParts, META } from "./kept-parts";
import { packed, unpacked } from "./packed";
import { sendKept } from "./uploads";
import { around, moved, ticks, within, zoomed } from "./view";

const LENGTH = 300_000;
const capture: Capture = {
  start: 0,
  rate: 1000,
  channels: ["sig", "gnd"].map((name, channel) => ({
    name,
    unit: "V",
    samples: Float32Array.from({ length: LENGTH }, (_, at) => ((at * (channel + 3)) % 97) / 64),
  })),
};

describe("a held capture", () => {
  it("goes out in packed parts and comes back by the pieces that are asked for", async () => {
    const whole = wholeCapture(capture);
    const parts = new Map<string, Uint8Array<ArrayBuffer>>();
    for await (const { part, content } of whole.parts()) parts.set(part, content);
    expect([...parts.keys()]).toEqual(["0-p", "0-0", "0-1", "0-2", "1-p", "1-0", "1-1", "1-2"]);
    const asked: string[] = [];
    const stored = new HeldCapture(LENGTH, 2, null, async (part) => {
      asked.push(part);
      return parts.get(part) ?? null;
    });
    const piece = await stored.samples(1, 131_000, 131_200);
    expect(Array.from(piece)).toEqual(Array.from(capture.channels[1]?.samples.slice(131_000, 131_200) ?? []));
    expect(asked).toEqual(["1-0", "1-1"]);
    await stored.samples(1, 131_000, 131_200);
    expect(asked).toHaveLength(2);
    expect((await stored.lowest(0)).length).toBe((await whole.lowest(0)).length);
    expect(decodeBlock(await unpacked(parts.get("0-2") as Uint8Array<ArrayBuffer>))).toHaveLength(LENGTH - 2 * 131_072);
  });
  it("says which part is not there", async () => {
    const stored = new HeldCapture(LENGTH, 1, null, async () => null);
    await expect(stored.samples(0, 0, 10)).rejects.toThrow("part 0-0 of the capture is not there");
    await expect(stored.lowest(0)).rejects.toThrow(RangeError);
  });
  it("is packed without loss", async () => {
    const bytes = Uint8Array.from({ length: 5000 }, (_, at) => at % 7);
    const small = await packed(bytes);
    expect(small.length).toBeLessThan(500);
    expect(await unpacked(small)).toEqual(bytes);
  });
});

describe("what waits on the device", () => {
  const content = new Uint8Array([1, 2, 3]);
  async function kept(): Promise<KeptParts> {
    const parts = await KeptParts.open();
    for (const one of await parts.waiting()) await parts.remove(one);
    for (const part of ["0-p", "0-0", META]) await parts.put({ job: "j", capture: "c", part, content });
    return parts;
  }
  it("is sent with its description first, and forgotten when it is there", async () => {
    const parts = await kept();
    const sent: string[] = [];
    const send = (async (address: string) => {
      sent.push(address);
      return Response.json({ ok: true });
    }) as typeof fetch;
    expect(await sendKept(parts, send)).toEqual({ left: 0, refused: null });
    expect(sent[0]).toBe("/api/jobs/j/captures/c");
    expect(new Set(sent.slice(1))).toEqual(new Set(["/api/jobs/j/captures/c/parts/0-p", "/api/jobs/j/captures/c/parts/0-0"]));
    expect(await parts.waiting()).toEqual([]);
  });
  it("stays where no connection takes it, and goes on from there", async () => {
    const parts = await kept();
    let calls = 0;
    const breaks = (async () => {
      calls += 1;
      if (calls === 2) throw new TypeError("no connection");
      return Response.json({ ok: true });
    }) as typeof fetch;
    expect(await sendKept(parts, breaks)).toEqual({ left: 2, refused: null });
    expect(await sendKept(parts, (async () => new Response(null, { status: 503 })) as typeof fetch)).toEqual({ left: 2, refused: null });
    expect(await sendKept(parts, (async () => Response.json({ ok: true })) as typeof fetch)).toEqual({ left: 0, refused: null });
  });
  it("is given up with a reason where the server refuses it for good", async () => {
    const parts = await kept();
    const refuses = (async () => Response.json({ code: "capture:too-large", message: "is larger than 120 MB" }, { status: 400 })) as typeof fetch;
    expect(await sendKept(parts, refuses)).toEqual({ left: 0, refused: "is larger than 120 MB" });
    expect(await parts.get("j", "c", META)).toBeNull();
  });
});

describe("what is shown", () => {
  it("stays within the capture and no closer than samples can be told apart", () => {
    expect(within({ from: -50, to: 20 }, 100)).toEqual({ from: 0, to: 70 });
    expect(within({ from: 90, to: 200 }, 100)).toEqual({ from: 0, to: 100 });
    expect(within({ from: 50, to: 51 }, 100)).toEqual({ from: 50, to: 58 });
    expect(moved({ from: 10, to: 20 }, 500, 100)).toEqual({ from: 90, to: 100 });
  });
  it("comes closer around the place that is pointed at", () => {
    const view = zoomed({ from: 0, to: 1000 }, 250, 0.5, 1000);
    expect(view).toEqual({ from: 125, to: 625 });
    expect((250 - view.from) / (view.to - view.from)).toBeCloseTo(0.25, 9);
    const seen = around(400, 420, 1000);
    expect(seen.from).toBeLessThan(400);
    expect(seen.to).toBeGreaterThan(420);
  });
  it("has marks in round steps with as many decimals as tell them apart", () => {
    expect(ticks(0, 1, 5).map(({ text }) => text)).toEqual(["0.0", "0.2", "0.4", "0.6", "0.8", "1.0"]);
    expect(ticks(-5, 12, 4).map(({ text }) => text)).toEqual(["-5", "0", "5", "10"]);
    expect(ticks(3, 3, 4)).toEqual([]);
  });
});
