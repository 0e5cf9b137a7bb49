import type { Circuit, Limits, Reading } from "@fox-lamp/language";
import { buildModel } from "../../circuit";
import { expectHealthy } from "../../procedures";
import { diagnoseJob } from "../index";
import { withBooks } from "./booked";

const throttle: Circuit = { id: "tps", family: "potentiometer-3w", title: "Throttle" };
const crank: Circuit = { id: "crank", family: "vr-2w", title: "Crank" };
const reference = (value: number, limits?: Limits): Reading => ({
  circuit: "tps",
  meter: "volts-dc",
  red: "ref@sensor",
  black: "bat-",
  setup: { key: "on" },
  value,
  ...(limits === undefined ? {} : { limits }),
});
const winding = (value: number, limits?: Limits): Reading => ({
  circuit: "crank",
  meter: "ohms",
  red: "sig+@part",
  black: "sig-@part",
  setup: { key: "off", open: ["sensor"] },
  value,
  ...(limits === undefined ? {} : { limits }),
});
/** Probability that one of the units that can lower a reference is to blame, after one reading of it. */
const blamed = (reading: Reading): number =>
  diagnoseJob({ circuits: [throttle], readings: [reading] })
    .units.filter(({ unit }) => /(?:wire|contact):ref|module:(?:ref|supply)/u.test(unit))
    .reduce((sum, { probability }) => sum + probability, 0);

describe("a published limit that reads a value of the sheet", () => {
  it("narrows what the circuit computes: 4.90 V is usual for 5 V, not by 4.95 to 5.05 V", () => {
    const [usual, narrow] = [blamed(reference(4.9)), blamed(reference(4.9, { low: 4.95, high: 5.05 }))];
    expect(narrow).toBeGreaterThan(1.5 * usual);
  });
  it("widens it: 4.70 V is low for 5 V, and sound by 4.5 to 5.5 V", () => {
    const [usual, wide] = [blamed(reference(4.7)), blamed(reference(4.7, { low: 4.5, high: 5.5 }))];
    expect(wide).toBeLessThan(0.5 * usual);
  });
  it("is told with its source, by the reading's name", () => {
    const { booked } = diagnoseJob({ circuits: [throttle], readings: [{ ...reference(5, { low: 4.95, high: 5.05, source: "Heron sheet" }), id: "a" }] });
    expect(booked).toEqual([{ reading: "a", circuit: "tps", parameter: "vref", title: "reference voltage, V", low: 4.95, high: 5.05, source: "Heron sheet" }]);
  });
  it("says what a winding has: 700 ohm is a usual one, and none of 850 to 1100 ohm", () => {
    const sensor = (reading: Reading): number =>
      diagnoseJob({ circuits: [crank], readings: [reading] }).units.find(({ unit }) => unit === "crank/sensor")?.probability ?? 0;
    expect(sensor(winding(700, { low: 850, high: 1100 }))).toBeGreaterThan(2 * sensor(winding(700)));
    expect(sensor(winding(900, { low: 850, high: 1100 }))).toBeLessThan(1.2 * sensor(winding(900)));
  });
});

describe("withBooks", () => {
  it("leaves the sheet alone where no reading has limits, and where it says something the book does not hold", () => {
    const circuits = [throttle];
    expect(withBooks(circuits, [reference(5)]).circuits).toBe(circuits);
    const eight = [
      {
        ...throttle,
        with: {
          vref: 8,
          transfer: [
            [0, 0.8],
            [100, 7.2],
          ],
        },
      },
    ];
    expect(withBooks(eight, [reference(5, { low: 4.95, high: 5.05 })])).toEqual({ circuits: eight, booked: [] });
  });
  it("keeps the sheet's own value and takes the book's limits as its spread", () => {
    const { circuits } = withBooks([{ ...throttle, with: { vref: 5 } }], [reference(5, { low: 4.9, high: 5.1 })]);
    expect(circuits[0]?.with?.["vref"]).toMatchObject({ value: 5, from: "specified", spread: expect.closeTo(0.1, 6) });
    const [usual, booked] = [[throttle], circuits].map((sheet) => expectHealthy(buildModel(sheet), reference(5), "reading"));
    expect((booked?.high ?? 9) - (booked?.low ?? 0)).toBeLessThan((usual?.high ?? 0) - (usual?.low ?? 0));
  });
  it("puts the limits of a shared reference on the circuit that feeds it", () => {
    const bus: Circuit = { id: "bus", family: "reference-bus", title: "Sensor reference" };
    const { circuits, booked } = withBooks([bus, { ...throttle, shares: { ref: "bus" } }], [reference(5, { low: 4.9, high: 5.1 })]);
    expect(booked).toMatchObject([{ circuit: "bus", parameter: "vref" }]);
    expect(circuits[0]?.with?.["vref"]).toMatchObject({ value: 5 });
    expect(circuits[1]?.with?.["vref"]).toBeUndefined();
  });
  it("takes no limit that means no value of a sheet: a signal, a thermistor's ohms, one open end, a ground", () => {
    const signal = { ...reference(1, { low: 0.4, high: 0.6 }), red: "sig@sensor" };
    const oneEnd = reference(5, { high: 5.1 });
    const ground = { ...reference(0.02, { low: 0, high: 0.1 }), red: "gnd@sensor" };
    expect(withBooks([throttle], [signal, oneEnd, ground]).booked).toEqual([]);
    const warm: Reading = {
      circuit: "ect",
      meter: "ohms",
      red: "sig@part",
      black: "gnd@part",
      setup: { open: ["sensor"] },
      value: 2400,
      limits: { low: 2000, high: 2800 },
    };
    expect(withBooks([{ id: "ect", family: "thermistor-2w" }], [warm]).booked).toEqual([]);
  });
});

describe("a spread on the sheet", () => {
  const shut: Reading = { ...reference(0.6), red: "sig@sensor", setup: { key: "on", truth: { position: 0 } } };
  const width = (circuit: Circuit, reading: Reading): number => {
    const window = expectHealthy(buildModel([circuit]), reading, "reading");
    return (window?.high ?? 0) - (window?.low ?? 0);
  };
  const line = [
    [0, 0.6],
    [100, 4.3],
  ];
  it("of a line widens what its signal may show, in proportion", () => {
    const widths = [undefined, 0.2, 0.4].map((spread) =>
      width({ ...throttle, with: { transfer: spread === undefined ? line : { value: line, from: "specified", spread } } }, shut),
    );
    expect(widths[1]).toBeGreaterThan(1.1 * (widths[0] ?? 0));
    expect(widths[2]).toBeGreaterThan(1.3 * (widths[1] ?? 0));
  });
  it("of a thermistor's curve is that of its ohms, narrower or wider than usual", () => {
    const curve = [
      [0, 6700],
      [20, 2700],
      [40, 1210],
      [100, 177],
    ];
    const ohms: Reading = {
      circuit: "ect",
      meter: "ohms",
      red: "sig@part",
      black: "gnd@part",
      setup: { key: "off", open: ["sensor"], truth: { temperature: { value: 20, within: 0.2 } } },
      value: 2700,
    };
    const [narrow = 0, usual = 0, wide = 0] = [0.02, undefined, 0.2].map((spread) =>
      width({ id: "ect", family: "thermistor-2w", with: { curve: spread === undefined ? curve : { value: curve, from: "specified", spread } } }, ohms),
    );
    expect(narrow).toBeLessThan(usual);
    expect(wide).toBeGreaterThan(usual);
    // 20 % to either side at 95 of 100 is 26 % at 99: 0.52 of 2700 ohm.
    expect(wide).toBeGreaterThan(0.45 * 2700);
    expect(wide).toBeLessThan(0.75 * 2700);
  });
});
