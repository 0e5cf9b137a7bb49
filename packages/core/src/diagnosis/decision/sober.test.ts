import type { FoundBefore } from "@fox-lamp/language";
import { diagnoseJob, Session } from "../index";

const circuits = [{ id: "ect", family: "thermistor-2w", title: "Coolant" }];
const READ = { circuit: "ect", meter: "volts-dc" as const, black: "bat-", setup: { key: "on" as const } };
/** Unplugged the signal stands at the pull-up's 5 V; plugged it stays there: the sensor, its contacts or its ground are open. */
const readings = [
  { ...READ, id: "r1", red: "sig@sensor", value: 4.99 },
  { ...READ, id: "r2", red: "gnd@sensor", value: 0.01 },
];
const found = (unit: string, count: number): FoundBefore[] => [{ family: "thermistor-2w", unit, model: count, shop: count }];
const diagnose = (learnt?: FoundBefore[]) => diagnoseJob({ circuits, readings, ...(learnt === undefined ? {} : { learnt }) }, new Session());
const probabilityOf = (diagnosis: ReturnType<typeof diagnose>, unit: string): number => diagnosis.units.find((one) => one.unit === unit)?.probability ?? 0;

describe("what was found before", () => {
  it("moves the ranking of units the readings leave open, and says so where it does", () => {
    const [plain, learnt] = [diagnose(), diagnose(found("contact:sig@sensor", 30))];
    expect(probabilityOf(learnt, "ect/contact:sig@sensor")).toBeGreaterThan(1.3 * probabilityOf(plain, "ect/contact:sig@sensor"));
    expect(plain.suspects.some(({ why }) => /before/u.test(why))).toBe(false);
    expect(
      learnt.suspects.find(
        ({ fault }) =>
          fault.startsWith("ect/contact:sig@sensor/") && /30 times on this model before/u.test(learnt.suspects.find((one) => one.fault === fault)?.why ?? ""),
      ),
    ).toBeDefined();
  });
  it("proves nothing that is not proven without it", () => {
    const plain = diagnose();
    for (const unit of ["sensor", "contact:sig@sensor", "contact:gnd@sensor", "wire:sig"]) {
      const learnt = diagnose(found(unit, 200));
      if (plain.verdict.status !== "proven") expect(learnt.verdict.status).not.toBe("proven");
    }
    expect(plain.verdict.status).toBe("narrowing");
  });
  it("holds back nothing that is proven without it, in one of two circuits that share nothing neither", () => {
    const ends = { red: "sig@part", black: "gnd@part", setup: { key: "off" as const, open: ["sensor"], truth: { temperature: 21 } } };
    const line = { red: "sig@sensor", black: "bat-", setup: { key: "on" as const, open: ["sensor"] } };
    const both = ["ect", "iat"].flatMap((circuit) => [
      { circuit, meter: "ohms" as const, ...ends, value: "OL" as const },
      { circuit, meter: "volts-dc" as const, ...line, value: 5.01 },
    ]);
    const pair = [
      { id: "ect", family: "thermistor-2w", title: "Coolant temperature" },
      { id: "iat", family: "thermistor-2w", title: "Intake air temperature" },
    ];
    const proven = (learnt: FoundBefore[]) => {
      const codes = [{ code: "P0118" }, { code: "P0113" }];
      const { verdicts = [] } = diagnoseJob({ circuits: pair, readings: both, codes, learnt }, new Session());
      return verdicts.map(({ unit }) => unit).sort();
    };
    for (const learnt of [[], ...["sensor", "contact:sig@sensor", "wire:gnd"].flatMap((unit) => [found(unit, 1), found(unit, 40)])])
      expect(proven(learnt)).toEqual(["ect/sensor", "iat/sensor"]);
  });
  it("of other families changes nothing", () => {
    const other = diagnose([{ family: "hall-3w", unit: "sensor", model: 9, shop: 9 }]);
    expect(other.units).toEqual(diagnose().units);
  });
});
