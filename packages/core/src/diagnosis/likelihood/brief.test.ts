import type { Circuit, Reading } from "@fox-lamp/language";
import { diagnoseJob, Session } from "../index";

/** What can be read of a manifold sensor whose reference passes C1; the session is shared, it only remembers. */
const session = new Session();
const CIRCUIT: Circuit = { id: "map", family: "pressure-3w", inline: ["C1"] };
const still: Reading = { meter: "volts-dc", red: "ref@sensor", black: "bat-", value: 5 };
const moved = (at: string, min: number, max = 5): Reading => ({
  ...still,
  record: "min-max",
  setup: { stimulus: { kind: "wiggle", at } },
  value: { min, max },
});
const judged = (readings: readonly Reading[], intermittent = true) => diagnoseJob({ circuits: [CIRCUIT], readings: [...readings], intermittent }, session);
const share = (readings: readonly Reading[], unit: string): number => judged(readings).units.find((one) => one.unit === unit)?.probability ?? 0;

describe("a line that is gone for a moment", () => {
  it("is read anywhere between there and gone: no slip, and its own place is suspected", () => {
    for (const lowest of [0.02, 0.6, 1.7, 3]) {
      const readings = [still, moved("sensor", 4.98), moved("C1", lowest), moved("module", 4.98)];
      const { doubtful } = judged(readings);
      expect(doubtful).toEqual([]);
      expect(share(readings, "map/contact:ref@C1")).toBeGreaterThan(3 * share(readings, "map/contact:ref@module"));
    }
  });
  it("is expected between the two, so that what is said of it holds", () => {
    const { suspects } = judged([still, moved("sensor", 4.98), moved("C1", 1.7), moved("module", 4.98)]);
    const own = suspects.filter(({ fault }) => fault.startsWith("map/contact:ref@C1/"));
    expect(own.length).toBeGreaterThan(0);
    for (const { why } of own) expect(why).not.toContain("lies outside");
  });
  it("need not be gone from beginning to end: the highest of the recording is the sound line's", () => {
    const dipped = [still, moved("C1", 0.02)];
    const gone = [still, moved("C1", 0.02, 0.03)];
    expect(judged(dipped).healthy).toBeLessThan(0.02);
    expect(judged(gone).healthy).toBeLessThan(0.02);
    expect(share(dipped, "map/contact:ref@C1")).toBeGreaterThan(0.15);
  });
  it("dips no line that stays broken: half of the way is then a slip, or another fault", () => {
    const broken = judged(
      [
        { ...still, value: 0.01 },
        { ...still, record: "min-max", value: { min: 0.01, max: 0.02 } },
      ],
      false,
    );
    expect(broken.doubtful).toEqual([]);
    const half = judged(
      [
        { ...still, value: 0.01 },
        { ...still, record: "min-max", value: { min: 0.01, max: 2.4 } },
      ],
      false,
    );
    expect(half.healthy).toBeLessThan(0.05);
    expect(half.doubtful.length + (half.verdict.status === "contradiction" ? 1 : 0)).toBeGreaterThan(0);
  });
});
