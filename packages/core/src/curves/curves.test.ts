import { CURVE_KINDS, type SpecCurve } from "@fox-lamp/language";
import fc from "fast-check";
import { familyById } from "../circuit";
import { bestLaw, curveSlotOf, fitCurve, lawsOf, pointsFor, readingsOnCurve } from "./index";
import { monotoneSpline } from "./spline";

/** A published 10 kilo-ohm thermistor of Beta 3977 (25/85): degC and ohm. */
const PUBLISHED: SpecCurve["points"] = [
  [-20, 97_070],
  [0, 32_650],
  [10, 19_900],
  [25, 10_000],
  [40, 5327],
  [60, 2488],
  [80, 1256],
  [100, 680],
];

describe("a law through points", () => {
  it("finds a thermistor's Beta and its resistance at 25 degC from a published table", () => {
    const fit = fitCurve("temperature-ohms", "beta", PUBLISHED);
    expect(fit?.numbers["beta"]).toBeGreaterThan(3850);
    expect(fit?.numbers["beta"]).toBeLessThan(4000);
    expect(fit?.off).toEqual([]);
    const finer = fitCurve("temperature-ohms", "steinhart-hart", PUBLISHED);
    // What three numbers say is nearer than what two say.
    expect(finer?.rms).toBeLessThan(0.005);
    expect(finer?.rms).toBeLessThan(fit?.rms ?? 0);
    expect(finer?.at(25)).toBeCloseTo(10_000, -2);
    expect(finer?.from(10_000)).toBeCloseTo(25, 0);
  });
  it.each(lawsOf("temperature-ohms"))("%s: a row typed wrong is marked, and the curve laid without it", (law) => {
    const wrong = PUBLISHED.map((point, index): [number, number] => (index === 4 ? [40, 7532] : point));
    const fit = fitCurve("temperature-ohms", law, wrong);
    expect(fit?.off).toEqual([4]);
    expect(Math.abs((fit?.at(40) ?? 0) / 5327 - 1)).toBeLessThan(0.06);
  });
  it("a straight sensor's line is found, and the point beside it", () => {
    const points: SpecCurve["points"] = [
      [20, 0.5],
      [40, 1.39],
      [60, 2.78],
      [80, 3.17],
      [110, 4.5],
    ];
    const fit = fitCurve("pressure-volts", "linear", points);
    expect(fit?.off).toEqual([2]);
    expect(fit?.numbers["slope"]).toBeCloseTo(4 / 90, 3);
    expect(fit?.from(2.5)).toBeCloseTo(65, 0);
    expect(fit?.from(9)).toBeNull();
  });
  it("needs its points, each once, above nothing where a share of them is meant", () => {
    expect(fitCurve("temperature-ohms", "steinhart-hart", PUBLISHED.slice(0, 2))).toBeNull();
    expect(
      fitCurve("pressure-volts", "linear", [
        [20, 1],
        [20, 2],
      ]),
    ).toBeNull();
    expect(
      fitCurve("temperature-ohms", "beta", [
        [0, 0],
        [20, 100],
      ]),
    ).toBeNull();
  });
  it("the law offered is the simplest that says what the points say", () => {
    expect(bestLaw("temperature-ohms", PUBLISHED)).toBe("steinhart-hart");
    expect(bestLaw("temperature-ohms", PUBLISHED.slice(0, 3))).toBe("spline");
    const line: SpecCurve["points"] = [0, 25, 50, 75, 100].map((x) => [x, 0.6 + 0.037 * x]);
    expect(bestLaw("position-volts", line)).toBe("linear");
    expect(
      fitCurve(
        "position-volts",
        "linear",
        line.map(([x, y]) => [x, x === 50 ? 2.05 : y]),
      )?.off,
    ).toEqual([2]);
    // An air-flow sensor is no straight line.
    const flow: SpecCurve["points"] = [
      [0, 0.2],
      [4, 1.1],
      [15, 1.9],
      [40, 2.7],
      [100, 3.7],
      [250, 4.8],
    ];
    expect(bestLaw("flow-volts", flow)).toBe("spline");
  });
  it("reads in both directions what it shows", () => {
    fc.assert(
      fc.property(fc.constantFrom(...lawsOf("temperature-ohms")), fc.double({ min: -20, max: 100, noNaN: true }), (law, degC) => {
        const fit = fitCurve("temperature-ohms", law, PUBLISHED);
        const back = fit?.from(fit.at(degC)) ?? Number.NaN;
        expect(back).toBeCloseTo(degC, 6);
      }),
    );
  });
});

it("a monotone spline meets its points and turns round nowhere", () => {
  const rising = fc.uniqueArray(fc.integer({ min: -50, max: 200 }), { minLength: 2, maxLength: 9 }).map((xs) => xs.sort((a, b) => a - b));
  fc.assert(
    fc.property(rising, fc.array(fc.double({ min: 0, max: 10, noNaN: true }), { minLength: 9, maxLength: 9 }), (xs, steps) => {
      let y = 0;
      const points = xs.map((x, index) => {
        y += steps[index] ?? 0;
        return [x, y] as const;
      });
      const spline = monotoneSpline(points);
      for (const [x, value] of points) expect(spline(x)).toBeCloseTo(value, 8);
      const [least, most] = [xs[0] ?? 0, xs.at(-1) ?? 0];
      const along = Array.from({ length: 101 }, (_, step) => spline(least + ((most - least) * step) / 100));
      for (const [index, value] of along.entries()) if (index > 0) expect(value).toBeGreaterThanOrEqual((along[index - 1] ?? 0) - 1e-9);
    }),
  );
});

describe("curves of circuits", () => {
  const families = ["thermistor-2w", "potentiometer-3w", "dual-track", "pressure-3w", "pressure-freq", "maf-voltage", "maf-freq"];
  it.each(families)("%s keeps its curve in a parameter it has", (id) => {
    const slot = curveSlotOf(id);
    const usual = familyById(id)?.parameters.parse({}) as Record<string, unknown>;
    expect(Array.isArray(usual[slot?.parameter ?? ""])).toBe(true);
    expect(CURVE_KINDS).toContain(slot?.kind);
    expect(slot?.takes).toContain(slot?.kind);
  });
  it("a chart over height becomes one over the air's pressure", () => {
    const slot = curveSlotOf("pressure-3w");
    if (slot === null) throw new Error("no slot");
    const points = pointsFor(slot, {
      kind: "altitude-volts",
      points: [
        [0, 4.5],
        [1000, 4],
      ],
    });
    // Standard atmosphere: 89.87 kPa at 1000 m, 101.325 at the sea.
    expect(points?.map(([kPa]) => Number(kPa.toFixed(1)))).toEqual([89.9, 101.3]);
    expect(points?.map(([, volts]) => volts)).toEqual([4, 4.5]);
    expect(
      pointsFor(slot, {
        kind: "flow-volts",
        points: [
          [0, 1],
          [1, 2],
        ],
      }),
    ).toBeNull();
    expect(curveSlotOf("hall-3w")).toBeNull();
  });
});

describe("today's readings on a curve", () => {
  const ect = { id: "ect", family: "thermistor-2w", with: { pullup: 2200, pullupV: 5 } };
  const base = { id: "r1", circuit: "ect", meter: "volts-dc" as const, red: "sig@sensor", black: "bat-", setup: { key: "on" as const } };
  it("volts of a thermistor are its ohms behind the pull-up, where the divider says anything", () => {
    const [one] = readingsOnCurve(ect, [{ ...base, value: 2.5, setup: { key: "on", truth: { temperature: { value: 20, within: 1 } } } }]);
    expect(one).toMatchObject({ reading: "r1", sensed: 20 });
    // The key is on where nobody says otherwise.
    expect(readingsOnCurve(ect, [{ ...base, value: 2.5, setup: { truth: { temperature: { value: 20, within: 1 } } } }])).toEqual([one]);
    // Half the supply: the sensor has what the pull-up has.
    expect(one?.shown).toBeCloseTo(2200, 6);
    expect(readingsOnCurve(ect, [{ ...base, value: 5 }])).toEqual([]);
  });
  it("ohms are those of the unplugged part; other pins, circuits and added resistors say nothing", () => {
    const ohms = { ...base, meter: "ohms" as const, red: "sig@part", black: "gnd@part", value: 2480 };
    expect(readingsOnCurve(ect, [{ ...ohms, setup: { key: "off", open: ["sensor"] } }])).toEqual([{ reading: "r1", shown: 2480, sensed: null }]);
    expect(readingsOnCurve(ect, [{ ...ohms, setup: { key: "off" } }])).toEqual([]);
    expect(
      readingsOnCurve(ect, [
        { ...base, value: 2, circuit: "iat" },
        { ...base, value: 0.02, red: "gnd@sensor" },
      ]),
    ).toEqual([]);
    const map = { id: "map", family: "pressure-3w" };
    expect(readingsOnCurve(map, [{ ...base, circuit: "map", value: 4.1, setup: { key: "on", truth: { pressure: 99 } } }])).toEqual([
      { reading: "r1", shown: 4.1, sensed: 99 },
    ]);
    expect(readingsOnCurve({ id: "cam", family: "hall-3w" }, [{ ...base, circuit: "cam", value: 4.1 }])).toEqual([]);
  });
});
