import type { CaptureFile } from "@fox-lamp/language";
import { alignmentOf, compareCaptures } from "./compare";

const channel = (over: Partial<CaptureFile["channels"][number]> = {}): CaptureFile["channels"][number] => ({
  name: "sig",
  unit: "V",
  min: 0,
  max: 5,
  mean: 2.5,
  meterDc: 2.5,
  meterAc: 2.5,
  kind: "square",
  frequencyHz: 800,
  duty: 50,
  low: 0.1,
  high: 5,
  edges: 1600,
  missing: [],
  dropouts: [],
  glitches: [],
  bursts: [],
  peaks: [],
  switches: 1600,
  ...over,
});
const file = (over: Partial<CaptureFile["channels"][number]> = {}, more: Partial<CaptureFile> = {}): CaptureFile => ({
  seconds: 1,
  channels: [channel(over)],
  firstToFail: null,
  camCrank: { degrees: [], shiftDegrees: null, cams: [] },
  findings: [],
  ...more,
});

it("captures of one and the same car do not differ", () => {
  expect(compareCaptures(file({ low: 0.15, frequencyHz: 806, duty: 50.8 }), file())).toEqual([]);
});

it.each([
  [{ high: 4.2 }, { what: "high", was: 5, now: 4.2 }],
  [{ frequencyHz: 700 }, { what: "frequency", was: 800, now: 700 }],
  [{ duty: 41 }, { what: "duty", was: 50, now: 41 }],
  [{ dropouts: [{ from: 0.1, to: 0.2, level: "high" as const, volts: 5 }] }, { what: "dropouts", was: 0, now: 1 }],
  [{ missing: [{ t: 0.1, count: 1, designed: false }] }, { what: "missing", was: 0, now: 1 }],
  [{ missing: [{ t: 0.1, count: 2, designed: true }] }, null],
])("%j is told as what it is", (over, wanted) => {
  const found = compareCaptures(file(over), file());
  if (wanted === null) expect(found).toEqual([]);
  else expect(found).toMatchObject([wanted]);
});

it("a dead twin, a snap before cleaning and a cam that moved", () => {
  const ring = { frequencyHz: null, duty: null, kind: "ringing" as const, edges: 0, switches: null };
  const loud = file({ ...ring, bursts: [{ t: 0.1, peak: 0.5, hz: 6500 }] });
  expect(compareCaptures(file({ ...ring, bursts: [] }), loud)).toMatchObject([{ what: "ring", was: 0.5, now: 0 }]);
  const snap = {
    ...ring,
    kind: "sweep" as const,
    peaks: [
      { t: 0.6, volts: 3.1 },
      { t: 1.1, volts: 4.1 },
    ],
  };
  const dirty = {
    ...snap,
    peaks: [
      { t: 0.6, volts: 2.5 },
      { t: 1.1, volts: 3.3 },
    ],
  };
  expect(compareCaptures(file(snap), file(dirty)).map(({ what }) => what)).toEqual(["first-peak", "second-peak"]);
  const cam = (by: number): CaptureFile =>
    file({}, { camCrank: { degrees: [], shiftDegrees: null, cams: [{ name: "cam", degrees: [30, 210, 400, 600].map((at) => at + by), shiftDegrees: null }] } });
  expect(compareCaptures(cam(10), cam(0))).toMatchObject([{ what: "cam", now: expect.closeTo(10, 3) }]);
});

it("captures are laid over one another by the gap of the wheel, or by nothing they do not share", () => {
  const gapAt = (t: number) => file({ missing: [{ t, count: 2, designed: true }] });
  expect(alignmentOf(gapAt(0.05), gapAt(0.02))).toBeCloseTo(0.03, 9);
  expect(alignmentOf(gapAt(0.05), file())).toBe(0);
  expect(alignmentOf(file(), file())).toBe(0);
});
