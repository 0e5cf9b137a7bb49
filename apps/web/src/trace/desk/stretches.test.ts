import type { CaptureFile } from "@fox-lamp/language";
import { inNames } from "./Findings";
import { stretchesOf, worthSeeing } from "./stretches";

const channel = {
  name: "crank:sig",
  min: 0,
  max: 5,
  mean: 2,
  meterDc: 2,
  meterAc: 2,
  kind: "square" as const,
  frequencyHz: 100,
  duty: 50,
  low: 0,
  high: 5,
  edges: 100,
  missing: [
    { t: 0.2, count: 2, designed: true },
    { t: 0.3, count: 1, designed: false },
  ],
  dropouts: [],
  glitches: [{ t: 0.7, volts: 9 }],
  bursts: [],
  peaks: [],
  switches: null,
};
const file: CaptureFile = {
  channels: [channel],
  firstToFail: null,
  camCrank: { degrees: [], shiftDegrees: null },
  findings: [
    { code: "missing-teeth", channel: "crank:sig", from: 0.3, to: 0.9, sentence: "crank:sig: 1 tooth missing" },
    { code: "dropout", channel: "crank:sig", from: 0.5, to: 0.6, sentence: "crank:sig stands high" },
  ],
};

it("each broken tooth and each spike is marked by itself, the gap of the wheel is not", () => {
  expect(stretchesOf(file)).toEqual([
    { channel: "crank:sig", from: 0.5, to: 0.6 },
    { channel: "crank:sig", from: expect.closeTo(0.29, 9), to: expect.closeTo(0.31, 9) },
    { channel: "crank:sig", from: 0.7, to: 0.7 },
  ]);
});

it("a picture looks at the first trouble, or at all of it where there is none", () => {
  const look = worthSeeing(file, 1);
  expect(look.from).toBeLessThan(0.29);
  expect(look.to).toBeGreaterThan(0.31);
  expect(look.to).toBeLessThan(0.5);
  expect(worthSeeing({ ...file, channels: [], findings: [] }, 1)).toEqual({ from: 0, to: 1 });
});

it("sentences name channels as people do", () => {
  expect(inNames("crank:sig stands high", "crank:sig", () => "Crank signal")).toBe("Crank signal stands high");
  expect(inNames("Something else", "crank:sig", () => "Crank signal")).toBe("Something else");
});
