import { lowestLevel, pyramidOver } from "@fox-lamp/core";
import { drawPicture, type Lane, laneAt, needsSamples, type Picture, scaleOf } from "./draw";

const INKS = { ink: "#111", soft: "#222", line: "#333", lamp: "#444", ember: "#555", calm: "#666", well: "#777" };
const samples = Float32Array.from({ length: 6400 }, (_, at) => (at === 3000 ? 9 : at % 200 < 100 ? 5 : 0.1));
const pyramid = pyramidOver(lowestLevel(samples));
const lane = (over: Partial<Lane> = {}): Lane => ({
  name: "sig",
  unit: "V",
  pyramid,
  near: null,
  ...scaleOf(pyramid),
  bands: [],
  less: 0,
  chosen: false,
  ...over,
});

/** What was painted: rectangles with their colour, and words. */
function painted(picture: Partial<Picture>): {
  rects: { colour: string; x: number; y: number; width: number; height: number }[];
  words: string[];
  lines: number;
} {
  const rects: { colour: string; x: number; y: number; width: number; height: number }[] = [];
  const words: string[] = [];
  let lines = 0;
  const context = new Proxy({} as Record<string, unknown>, {
    get: (own, name: string) => {
      if (name === "fillRect")
        return (x: number, y: number, width: number, height: number) => rects.push({ colour: String(own["fillStyle"]), x, y, width, height });
      if (name === "fillText") return (text: string) => words.push(text);
      if (name === "measureText") return () => ({ width: 40 });
      if (name === "lineTo")
        return () => {
          lines += 1;
        };
      return name in own ? own[name] : () => undefined;
    },
    set: (own, name: string, value) => {
      own[name] = value;
      return true;
    },
  }) as unknown as CanvasRenderingContext2D;
  drawPicture(context, {
    width: 400,
    height: 222,
    view: { from: 0, to: 6400 },
    length: 6400,
    rate: 1000,
    start: 0,
    lanes: [lane()],
    marked: [],
    cursors: [null, null],
    inks: INKS,
    ...picture,
  });
  return { rects, words, lines };
}

describe("the traces", () => {
  it("are a bar in every column, and a spike of one sample is seen", () => {
    const bars = painted({}).rects.filter(({ colour, width }) => colour === INKS.ink && width === 1);
    expect(bars.length).toBe(400 - 54);
    const top = Math.min(...bars.map(({ y }) => y));
    const usual = bars.map(({ y }) => y).sort((a, b) => a - b)[Math.floor(bars.length / 2)] as number;
    expect(top).toBeLessThan(usual - 30);
  });
  it("are the samples themselves, joined by lines, where they are told apart", () => {
    const near = { from: 2990, samples: samples.slice(2990, 3030) };
    const { lines } = painted({ view: { from: 2995, to: 3015 }, lanes: [lane({ near })] });
    expect(lines).toBeGreaterThan(15);
  });
  it("carry name, unit, scale and time in words; trouble and a chosen lane in their colours", () => {
    const { words, rects } = painted({
      lanes: [lane({ chosen: true, bands: [{ low: 1, high: 2 }] })],
      marked: [{ lane: 0, from: 1000, to: 2000 }],
      cursors: [500, 5000],
    });
    expect(words).toContain("sig, V");
    expect(words.some((word) => word.endsWith(" s"))).toBe(true);
    expect(words).toEqual(expect.arrayContaining(["A", "B"]));
    expect(rects.some(({ colour }) => colour === INKS.ember)).toBe(true);
    expect(rects.filter(({ colour, width }) => colour === INKS.lamp && width === 1).length).toBeGreaterThan(300);
    expect(rects.some(({ colour }) => colour === INKS.calm)).toBe(true);
  });
  it("lie over another capture, where there is one", () => {
    const other = { pyramid, length: 6400, at: 100, each: 1 };
    expect(painted({ lanes: [lane({ other })] }).rects.filter(({ colour, width }) => colour === INKS.calm && width === 1).length).toBeGreaterThan(300);
  });
});

describe("a lane", () => {
  it("shows what moves in full, with zero where it is near; what stands is not blown up", () => {
    const moving = scaleOf(pyramid);
    expect(moving.low).toBeLessThan(0.1);
    expect(moving.high).toBeGreaterThan(9);
    const still = scaleOf(pyramidOver(lowestLevel(Float32Array.from({ length: 640 }, (_, at) => 0.03 + (at % 2) * 0.08))), "cam:gnd");
    expect(still.high - still.low).toBeGreaterThan(1);
    expect(scaleOf([]).high).toBeGreaterThan(scaleOf([]).low);
  });
  it("is found by the height that is touched, and fetched closer when the overview is too coarse", () => {
    const lanes = [lane(), lane(), lane()];
    expect([5, 90, 180, 400].map((y) => laneAt(y, { height: 222, lanes }))).toEqual([0, 1, 2, 2]);
    expect(needsSamples({ from: 0, to: 1e6 }, 1000)).toBe(false);
    expect(needsSamples({ from: 0, to: 1e4 }, 1000)).toBe(true);
  });
});
