import { WaveFile } from "wavefile";
import { channelWav, wavCapture } from "./wav";

describe("WAV", () => {
  it("carries a channel in volts, there and back, to the last digit", () => {
    const samples = Float32Array.from({ length: 500 }, (_, at) => 2.5 + 1.7 * Math.sin(at / 5));
    const { capture, notes } = wavCapture(channelWav(samples, 50_000));
    expect(capture.rate).toBe(50_000);
    expect(capture.channels[0]).toMatchObject({ unit: "V" });
    expect([...(capture.channels[0]?.samples ?? [])]).toEqual([...samples]);
    expect(notes).toEqual([]);
  });
  it("of whole numbers tells shares of full scale, and says so", () => {
    const file = new WaveFile();
    file.fromScratch(1, 44_100, "16", [0, 16_384, -16_384, 0]);
    const { capture, notes } = wavCapture(file.toBuffer());
    expect(capture.channels[0]?.unit).toBe("of full scale");
    expect([...(capture.channels[0]?.samples ?? [])].map((value) => Number(value.toFixed(3)))).toEqual([0, 0.5, -0.5, 0]);
    expect(notes[0]).toMatch(/shares of the recorder's full scale/u);
  });
  it("is refused for a rate of parts, and what is no WAV is not read", () => {
    expect(() => channelWav(new Float32Array(10), 1000.5)).toThrow(/whole samples a second/u);
    expect(() => wavCapture(new Uint8Array([1, 2, 3, 4]))).toThrow(/cannot be read as WAV/u);
  });
});
