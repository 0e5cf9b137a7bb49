import { BadInput } from "@fox-lamp/language";
import fc from "fast-check";
import { seededRandom } from "../../numeric";
import type { Capture } from "../capture";
import { CaptureReader, captureCsv, captureLayout, kindOfFile, readCaptureCsv } from "../index";

const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
const read = (text: string) => readCaptureCsv(bytes(text));
const values = ({ capture }: { capture: Capture }): number[][] =>
  capture.channels.map(({ samples }) => Array.from(samples, (value) => Number(value.toPrecision(6))));
const refusal = (text: string | Uint8Array): string => {
  try {
    readCaptureCsv(typeof text === "string" ? bytes(text) : text);
  } catch (error) {
    if (error instanceof BadInput) return error.message;
    throw error;
  }
  return "nothing was refused";
};

describe("a capture file", () => {
  it("in the language's own form", () => {
    const { capture } = read("# made by hand\ntime_s,sig [V],gnd [mV]\n0,4.98,12\n0.001,0.1,13\n0.002,5.01,12\n");
    expect(capture).toMatchObject({ start: 0, rate: 1000 });
    expect(capture.channels.map(({ name, unit }) => `${name} ${unit}`)).toEqual(["sig V", "gnd V"]);
    expect(values({ capture })).toEqual([
      [4.98, 0.1, 5.01],
      [0.012, 0.013, 0.012],
    ]);
  });
  it.each([
    ["semicolons and decimal commas", "time_s;sig [V]\r\n0,000;4,98\r\n0,001;0,1\r\n0,002;5,01\r\n"],
    ["tabs", "Time\tsig\n0\t4.98\n0.001\t0.1\n0.002\t5.01\n"],
    ["a row of units and milliseconds", "Time,sig\n(ms),(V)\n0,4.98\n1,0.1\n2,5.01\n"],
    ["microseconds", "time_us,sig [V]\n0,4.98\n1000,0.1\n2000,5.01\n"],
    ["a byte-order mark, quotes and blank columns", '\uFEFF"time_s","sig [V]",,\n"0","4.98",,\n"0.001","0.1",,\n"0.002","5.01",,\n,,,\n'],
    ["a rate in a comment", "# sample rate: 1 kHz\nsig [V]\n4.98\n0.1\n5.01\n"],
    ["an interval in a comment", "# sample interval 1 ms\nsig [V]\n4.98\n0.1\n5.01\n"],
    ["a preamble of its own", "Device,workshop scope\nSerial,17\n\nTime (s),sig (mV)\n-0.001,4980\n0,1e2\n1.0E-3,5010\n"],
    ["comments among the rows and a blank line", "time_s,sig\n0,4.98\n# pause\n\n0.001,.1\n0.002,+5.01"],
    ["returns alone", "time_s,sig\r0,4.98\r0.001,0.1\r0.002,5.01\r"],
    ["spaces", "time_s sig\n0 4.98\n0.001 0.1\n0.002 5.01\n"],
  ])("with %s", (_, text) => {
    const found = read(text);
    expect(values(found)).toEqual([[4.98, 0.1, 5.01]]);
    expect(found.capture.rate).toBeCloseTo(1000, 6);
    expect(found.capture.channels[0]).toMatchObject({ name: "sig", unit: "V" });
  });
  it.each([
    ["scope", "time_s,sig [V]\n0,1\n0.0001,2\n0.0002,1\n"],
    ["log", "time_s,coolant [degC],speed [rpm]\n0,80,800\n0.5,80,810\n1,81,800\n"],
    ["unsure", "time_s,sig [V]\n0,1\n0.01,2\n0.02,1\n"],
    ["scope", "# sample rate 50 kHz\nsig [V]\n1\n2\n1\n"],
  ])("is a %s by its rate and its units", (kind, text) => {
    expect(kindOfFile(captureLayout(bytes(text)))).toBe(kind);
  });
  it("without names leaves them to a person", () => {
    const text = "0,4.98,0.02\n0.001,0.1,0.03\n0.002,5.01,0.02\n0.003,0.1,0.02\n";
    const layout = captureLayout(bytes(text));
    expect(layout).toMatchObject({ named: false, time: { index: 0 } });
    expect(layout.channels.map(({ title }) => title)).toEqual(["column 2", "column 3"]);
    const columns = new Map([
      [1, { name: "sig" }],
      [2, null],
    ]);
    const { capture } = readCaptureCsv(bytes(text), { columns });
    expect(capture.channels.map(({ name }) => name)).toEqual(["sig"]);
  });
  it("whose times are rounded is even; where samples are missing the one before stands", () => {
    const rounded = Array.from({ length: 50 }, (_, at) => `${(at * 3e-6).toFixed(6)},${at % 2}`).join("\n");
    expect(read(`time_s,sig\n${rounded}`).capture.rate).toBeCloseTo(1 / 3e-6, -4);
    const gappy = read("time_s,sig\n0,1\n0.001,2\n0.002,3\n0.003,4\n0.007,5\n0.008,6\n0.009,7\n");
    expect(values(gappy)).toEqual([[1, 2, 3, 4, 4, 4, 4, 5, 6, 7]]);
    expect(gappy.notes).toEqual(["times are not even: every moment was given the sample before it"]);
  });
  it("cut off in its last line is read without it, and says so", () => {
    const cut = read("time_s,sig,gnd\n0,1,2\n0.001,3,4\n0.002,5");
    expect(values(cut)).toEqual([
      [1, 3],
      [2, 4],
    ]);
    expect(cut.notes).toEqual(["line 4 is cut off and was left out"]);
  });
  it.each([
    ["", "the file is empty; expected a row of names and rows of numbers"],
    ["hello\nworld\n", "line 1: there are no rows of numbers; expected a time and one value a channel in every row"],
    ["time_s,sig\n0,1\n0.001,x7\n0.002,1\n", 'line 3, column sig: "x7" is not a number'],
    ["time_s,sig\n0,1\n0.001,\n0.002,1\n", "line 3, column sig: is empty; expected a number"],
    ["time_s,sig,gnd\n0,1,2\n0.001,1\n0.002,1,2\n", "line 3: has 2 values; expected 3"],
    ["time_s,sig\n0,1\n0.002,1\n0.001,2\n", "line 4, column time: time runs back from 0.002 s to 0.001 s; expected rising times"],
    ["time_s,sig\n1,1\n1,2\n1,2\n", "column time: time stands still; expected rising times"],
    [
      "sig,gnd\n4,1\n2,2\n3,2\n",
      'line 1: there is no column of time and no sample rate; expected the first column to be "time_s" or a comment such as "# sample rate 10000 Hz"',
    ],
    ["time_s\n0\n1\n2\n", "line 2: there is only time in it; expected one column a channel beside it"],
    ["time_s,sig,sig\n0,1,1\n1,2,2\n", "column sig: stands over two columns; expected a name of its own for every channel"],
    ["time_s,sig\n0,1\n", "there are 1 rows of numbers; expected two at least"],
  ])("damaged is refused with one sentence: %j", (text, sentence) => {
    expect(refusal(text)).toBe(sentence);
  });
  it("in UTF-16, or no text at all, is refused", () => {
    expect(refusal(new Uint8Array([0xff, 0xfe, 0x74, 0, 0x69, 0]))).toContain("UTF-16");
    expect(refusal(new Uint8Array([0x50, 0x4b, 3, 4, 0x14, 7, 0, 8, 0]))).toContain("is no text");
  });
  it("comes out as it went in, whatever pieces it is read in", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 1e6 }), fc.integer({ min: 3, max: 400 }), fc.integer({ min: 1, max: 97 }), (seed, length, piece) => {
        const random = seededRandom(seed);
        const capture: Capture = {
          start: 0,
          rate: 10_000,
          channels: ["sig", "gnd"].map((name) => ({
            name,
            unit: "V",
            samples: Float32Array.from({ length }, () => Number((20 * random.normal()).toPrecision(6))),
          })),
        };
        const text = bytes([...captureCsv(capture)].join("").replaceAll("\n", seed % 2 === 0 ? "\n" : "\r\n"));
        const reader = new CaptureReader();
        for (let at = 0; at < text.length; at += piece) reader.push(text.slice(at, at + piece));
        expect(values(reader.finish())).toEqual(values({ capture }));
      }),
      { numRuns: 60 },
    );
  });
  it("broken at random never crashes: it is read, or refused with one sentence", () => {
    const good = [
      ...captureCsv({ start: 0, rate: 1000, channels: [{ name: "sig", unit: "V", samples: Float32Array.from({ length: 40 }, (_, at) => at % 3) }] }),
    ].join("");
    fc.assert(
      fc.property(
        fc.array(fc.record({ at: fc.nat(good.length), cut: fc.nat(12), put: fc.string({ maxLength: 6, unit: "binary" }) }), { minLength: 1, maxLength: 5 }),
        (harm) => {
          const text = harm.reduce((whole, { at, cut, put }) => whole.slice(0, at) + put + whole.slice(at + cut), good);
          try {
            const { capture } = read(text);
            for (const { samples } of capture.channels) expect(samples.every((value) => Number.isFinite(value))).toBe(true);
          } catch (error) {
            expect(error).toBeInstanceOf(BadInput);
            expect((error as BadInput).message).not.toContain("\n");
          }
        },
      ),
      { numRuns: 1500 },
    );
  });
});

describe("a file that does not say when its samples were taken", () => {
  const bytes = (text: string): Uint8Array => new TextEncoder().encode(text);
  const bare = "sig,gnd\n3,0\n1,0.01\n4,0\n2,0.02\n";
  it("is refused by itself, looked at when somebody is asked, and read at the rate he says", () => {
    expect(() => captureLayout(bytes(bare))).toThrow(/no column of time and no sample rate/u);
    const layout = captureLayout(bytes(bare), { ask: true });
    expect(layout).toMatchObject({ time: null, rate: null, named: true });
    expect(layout.channels.map(({ title }) => title)).toEqual(["sig", "gnd"]);
    const { capture } = readCaptureCsv(bytes(bare), { rate: 2000 });
    expect(capture.rate).toBe(2000);
    expect([...(capture.channels[0]?.samples ?? [])]).toEqual([3, 1, 4, 2]);
  });
  it("is read by the column somebody says is time", () => {
    const { capture } = readCaptureCsv(bytes("a,b\n5,0\n4,0.001\n3,0.002\n2,0.003\n"), { time: 1 });
    expect(capture.rate).toBeCloseTo(1000, 6);
    expect(capture.channels.map(({ name }) => name)).toEqual(["a"]);
  });
});
