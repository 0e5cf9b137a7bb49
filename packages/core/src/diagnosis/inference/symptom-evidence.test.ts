import type { Reading } from "@fox-lamp/language";
import { diagnoseJob } from "../index";

const COOLANT = { id: "x", family: "thermistor-2w" };
const scan = (celsius: number, symptom: boolean, at?: string): Reading => ({
  circuit: "x",
  meter: "scan",
  red: "sig@module",
  unit: "degC",
  setup: { key: "on", ...(at === undefined ? {} : { stimulus: { kind: "wiggle", at } }) },
  value: celsius,
  symptom,
});
/** How much likelier a plug's contacts become over the other plug's by what was moved. */
function leaning(readings: readonly Reading[]): number {
  const { units } = diagnoseJob({ circuits: [COOLANT], intermittent: true, readings: [...readings] });
  const of = (place: string): number =>
    units.filter(({ unit }) => unit.startsWith("x/contact:") && unit.endsWith(place)).reduce((sum, { probability }) => sum + probability, 0);
  return of("@sensor") / of("@module");
}

describe("a place that is moved", () => {
  it("is accused where the complaint comes with it", () => {
    const came = [scan(22, false), scan(-40, true, "module")];
    expect(leaning(came)).toBeLessThan(0.5 * leaning([scan(22, false), scan(-40, true)]));
  });
  it("is accused where the complaint goes with it, just as much", () => {
    const went = [scan(-40, true), scan(22, false, "module")];
    expect(leaning(went)).toBeLessThan(0.5 * leaning([scan(-40, true), scan(22, false)]));
  });
  it("is cleared a little where the complaint stays as it was, there or away", () => {
    for (const [celsius, shown] of [
      [-40, true],
      [22, false],
    ] as const) {
      const unmoved = [scan(-40, true), scan(22, false), scan(celsius, shown)];
      expect(leaning([...unmoved, scan(celsius, shown, "module")])).toBeGreaterThan(leaning(unmoved));
    }
  });
  it("is judged by what stood when nothing was moved, not by the move before", () => {
    const first = [scan(22, false), scan(-40, true, "sensor")];
    expect(leaning([...first, scan(22, false, "module")])).toBeGreaterThan(leaning(first));
  });
});
