import { type SpecFile, specFileSchema } from "@fox-lamp/language";
import { checkSpecs } from "./index";

const BOOK = { kind: "document", title: "Workshop book" } as const;
type Given = Record<string, unknown>;

function checked(file: { circuits?: unknown[]; limits?: Given[]; curves?: Given[] }) {
  const whole = (list: Given[] = []) => list.map((one) => ({ source: BOOK, ...one }));
  return checkSpecs(specFileSchema.parse({ ...file, limits: whole(file.limits), curves: whole(file.curves) }) as SpecFile);
}

const volts = (family: string, red: string, low: number | undefined, high: number | undefined, more: Given = {}): Given => ({
  family,
  meter: "volts-dc",
  red,
  black: "bat-",
  setup: { key: "on" },
  unit: "V",
  ...(low === undefined ? {} : { low }),
  ...(high === undefined ? {} : { high }),
  ...more,
});
const ohms = (family: string, red: string, black: string, low: number, high: number, more: Given = {}): Given => ({
  family,
  meter: "ohms",
  red,
  black,
  setup: { key: "off", open: ["sensor"] },
  low,
  high,
  unit: "ohm",
  ...more,
});
const NTC = [
  [0, 5900],
  [20, 2500],
  [40, 1200],
  [80, 320],
  [100, 190],
];
/** What a manifold sensor of 20 to 105 kPa shows over height, 0.79 to 4.75 V: worked out with the standard atmosphere by hand. */
const HEIGHTS = [
  [0, 4.58],
  [500, 4.31],
  [1000, 4.05],
  [2000, 3.56],
  [3000, 3.12],
];

const BAD: readonly (readonly [string, Given])[] = [
  ["above-feed", volts("potentiometer-3w", "ref@sensor", 5.4, 6.2)],
  ["above-feed", volts("pressure-3w", "sig@sensor", 1, 7)],
  ["above-feed", volts("hall-3w", "feed@sensor", 14, 18)],
  ["above-feed", volts("solenoid-2w", "feed@sensor", 18, 24)],
  ["below-ground", volts("thermistor-2w", "sig@sensor", -3, 2)],
  ["below-ground", volts("pressure-3w", "gnd@sensor", -1, 0.1)],
  ["negative-resistance", ohms("thermistor-2w", "sig@part", "gnd@part", -200, 3000)],
  ["negative-resistance", ohms("solenoid-2w", "feed@part", "ctl@part", -10, 12)],
  ["reversed", volts("potentiometer-3w", "ref@sensor", 5.2, 4.8)],
  ["reversed", ohms("solenoid-2w", "feed@part", "ctl@part", 14, 7)],
  ["nominal-outside", volts("potentiometer-3w", "ref@sensor", 4.8, 5.2, { nominal: 8 })],
  ["years-reversed", volts("potentiometer-3w", "ref@sensor", 4.8, 5.2, { vehicle: { years: [2018, 2012] } })],
  ["unit", volts("potentiometer-3w", "ref@sensor", 4.8, 5.2, { unit: "volt" })],
  ["unit-of-meter", ohms("thermistor-2w", "sig@part", "gnd@part", 1, 5, { unit: "V" })],
  ["no-such-reference", volts("potentiometer-3w", "ref@sensor", 3.2, 3.4)],
  ["no-such-reference", volts("pressure-3w", "ref@sensor", 2.4, 2.6)],
  ["no-bias", volts("potentiometer-3w", "sig@sensor", 4.8, 5.2, { circuit: "pedal", setup: { key: "on", open: ["sensor"] } })],
  ["unit-slip", ohms("solenoid-2w", "feed@part", "ctl@part", 7, 13, { unit: "kohm" })],
  ["unit-slip", volts("potentiometer-3w", "ref@sensor", 4.8, 5.2, { unit: "mV" })],
  ["against-circuit", volts("pressure-3w", "gnd@sensor", 2, 3)],
  ["against-circuit", volts("hall-3w", "feed@sensor", 4.8, 5.2, { circuit: "cam" })],
  ["too-wide", volts("hall-3w", "gnd@sensor", 0, 13)],
  ["too-wide", ohms("solenoid-2w", "feed@part", "ctl@part", 0, 1e9)],
  ["no-such-point", volts("thermistor-2w", "ref@sensor", 4.8, 5.2)],
];

const GOOD: readonly Given[] = [
  // Where no sheet says that the line is held down it may be held up.
  volts("pressure-3w", "sig@sensor", 4.8, 5.2, { setup: { key: "on", open: ["sensor"] } }),
  volts("potentiometer-3w", "ref@sensor", 4.8, 5.2),
  volts("potentiometer-3w", "ref@sensor", 4.9, 5.1, { vehicle: { make: "Veldane", years: [2012, 2018] } }),
  volts("potentiometer-3w", "ref@sensor", undefined, undefined, { nominal: 5 }),
  volts("potentiometer-3w", "ref@sensor", 4800, 5200, { unit: "mV" }),
  volts("potentiometer-3w", "ref@sensor", 4.5, 5.5),
  volts("potentiometer-3w", "gnd@sensor", 0, 0.1),
  volts("potentiometer-3w", "gnd@sensor", undefined, 0.05),
  volts("pressure-3w", "ref@sensor", 4.75, 5.25),
  volts("pressure-3w", "gnd@sensor", 0, 0.1),
  volts("pressure-3w", "sig@sensor", 3.8, 4.8),
  volts("hall-3w", "feed@sensor", 11, 13, { circuit: "cam" }),
  volts("hall-3w", "gnd@sensor", 0, 0.1),
  volts("thermistor-2w", "sig@sensor", 4.8, 5.2, { setup: { key: "on", open: ["sensor"] } }),
  volts("thermistor-2w", "gnd@sensor", 0, 0.1),
  volts("solenoid-2w", "feed@sensor", 11.5, 12.8),
  volts("solenoid-2w", "feed@sensor", 11, 14.8, { setup: { key: "idle" } }),
  volts("oxygen-narrow", "htr-feed@sensor", 11.5, 12.8),
  volts("maf-voltage", "feed@sensor", 11.5, 12.8),
  ohms("solenoid-2w", "feed@part", "ctl@part", 7, 13),
  ohms("solenoid-2w", "feed@part", "ctl@part", 0.007, 0.013, { unit: "kohm" }),
  ohms("thermistor-2w", "sig@part", "gnd@part", 1500, 4000, { setup: { key: "off", open: ["sensor"], truth: { temperature: 20 } } }),
  ohms("vr-2w", "sig+@part", "sig-@part", 500, 1500),
  ohms("knock-2w", "sig@part", "gnd@part", 1e6, 2e7),
  { family: "hall-3w", meter: "hertz", red: "sig@sensor", black: "bat-", setup: { key: "idle" }, low: 100, high: 900, unit: "Hz" },
  volts("dual-track", "ref1@sensor", 4.8, 5.2),
];
const CIRCUITS = [
  { id: "cam", family: "hall-3w", with: { feedV: 12 } },
  { id: "pedal", family: "potentiometer-3w", with: { pulldown: 220_000 } },
];

describe("bad specifications", () => {
  it.each(BAD.map(([code, limit], index) => [index + 1, code, limit] as const))("%i: %s is flagged, with its reason", (_number, code, limit) => {
    const { impossible } = checked({ circuits: CIRCUITS, limits: [limit] });
    expect(impossible.map((one) => one.code)).toEqual([code]);
    expect(impossible[0]?.reason.length).toBeGreaterThan(15);
    expect(impossible[0]?.where).toBe("limits[0]");
  });
});

describe("good specifications", () => {
  it.each(GOOD.map((limit, index) => [index + 1, `${limit["family"]} ${limit["red"]}`, limit] as const))("%i: %s is not flagged", (_number, _name, limit) => {
    expect(checked({ circuits: CIRCUITS, limits: [limit] }).impossible).toEqual([]);
  });
  it("say which faults they let pass", () => {
    const { impossible, passes } = checked({ limits: [volts("potentiometer-3w", "ref@sensor", 2, 5.2, { id: "wide" })] });
    expect(impossible).toEqual([]);
    expect(passes[0]?.name).toBe("wide");
    expect(passes[0]?.faults.length).toBeGreaterThan(0);
  });
});

describe("curves", () => {
  const curve = (family: string, kind: string, points: number[][]) => checked({ curves: [{ family, kind, points }] }).impossible.map(({ code }) => code);
  it.each([
    [
      "outside-supply",
      "pressure-3w",
      "pressure-volts",
      [
        [20, 0.8],
        [105, 6.5],
      ],
    ],
    [
      "outside-supply",
      "potentiometer-3w",
      "position-volts",
      [
        [0, -0.6],
        [100, 4.5],
      ],
    ],
    [
      "not-one-way",
      "thermistor-2w",
      "temperature-ohms",
      [
        [0, 5900],
        [20, 2500],
        [40, 2700],
      ],
    ],
    [
      "twice",
      "thermistor-2w",
      "temperature-ohms",
      [
        [0, 5900],
        [20, 2500],
        [20, 2400],
      ],
    ],
    [
      "negative",
      "thermistor-2w",
      "temperature-ohms",
      [
        [0, 5900],
        [80, -20],
      ],
    ],
    [
      "range",
      "pressure-3w",
      "altitude-volts",
      [
        [0, 4.5],
        [30_000, 1],
      ],
    ],
    [
      "unit-slip",
      "thermistor-2w",
      "temperature-ohms",
      [
        [0, 5.9],
        [20, 2.5],
        [80, 0.32],
      ],
    ],
    [
      "against-atmosphere",
      "pressure-3w",
      "altitude-volts",
      [
        [0, 4.58],
        [1000, 3.4],
        [3000, 3.12],
      ],
    ],
  ] as const)("%s: %s %s is flagged", (code, family, kind, points) => {
    expect(
      curve(
        family,
        kind,
        points.map((point) => [...point]),
      ),
    ).toEqual([code]);
  });
  it.each([
    ["thermistor-2w", "temperature-ohms", NTC],
    [
      "pressure-3w",
      "pressure-volts",
      [
        [20, 0.79],
        [105, 4.75],
      ],
    ],
    ["pressure-3w", "altitude-volts", HEIGHTS],
    [
      "maf-voltage",
      "flow-volts",
      [
        [0, 0.2],
        [10, 1.4],
        [100, 3.4],
        [300, 4.8],
      ],
    ],
    [
      "pressure-freq",
      "pressure-hertz",
      [
        [20, 80],
        [105, 160],
      ],
    ],
    [
      "potentiometer-3w",
      "position-volts",
      [
        [0, 0.6],
        [100, 4.4],
      ],
    ],
  ])("%s %s is not", (family, kind, points) => {
    expect(curve(family, kind, points)).toEqual([]);
  });
});

describe("limits that do not agree", () => {
  it("are told with what follows, and which of them is used", () => {
    const narrow = volts("potentiometer-3w", "ref@sensor", 4.9, 5.1, { id: "book", vehicle: { make: "Veldane", model: "Curlew" } });
    const wide = volts("potentiometer-3w", "ref@sensor", 4.75, 5.25, { id: "maker", vehicle: { make: "Veldane" } });
    const [conflict, ...more] = checked({ limits: [narrow, wide] }).conflicts;
    expect(more).toEqual([]);
    expect(conflict).toMatchObject({ limits: ["book", "maker"], used: "book", apart: false });
    expect(conflict?.consequence).toMatch(/^a reading of [\d.]+ V passes by maker and fails by book$/u);
  });
  it("with nothing in common say so; an own measurement goes before a book", () => {
    const book = volts("pressure-3w", "sig@sensor", 3.9, 4.2, { id: "book" });
    const own = volts("pressure-3w", "sig@sensor", 4.4, 4.6, { id: "own", source: { kind: "own", title: "Unit 7" } });
    expect(checked({ limits: [book, own] }).conflicts[0]).toMatchObject({ apart: true, used: "own" });
  });
  it("are none on other vehicles, in other states, or the same twice", () => {
    const base = volts("potentiometer-3w", "ref@sensor", 4.9, 5.1, { vehicle: { make: "Veldane", years: [2010, 2012] } });
    for (const other of [
      { ...base, low: 4.7, vehicle: { make: "Orrin" } },
      { ...base, low: 4.7, vehicle: { make: "Veldane", years: [2013, 2016] } },
      { ...base, low: 4.7, setup: { key: "idle" } },
      { ...base },
    ])
      expect(checked({ limits: [base, other] }).conflicts).toEqual([]);
  });
});

it("a family or circuit that is not there is refused with its place", () => {
  expect(() => checked({ limits: [volts("lamp-5w", "sig@sensor", 1, 2)] })).toThrow('limits[0].family: "lamp-5w" is no family');
  expect(() => checked({ limits: [volts("hall-3w", "sig@sensor", 1, 2, { circuit: "crank" })] })).toThrow(/limits\[0\]\.circuit: "crank"/u);
});
