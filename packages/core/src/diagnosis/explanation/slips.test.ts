import type { Reading } from "@fox-lamp/language";
import { diagnoseJob, Session } from "../index";

describe("what a doubtful reading may be instead", () => {
  it("is told in the unit of what was measured, a gauge's included", () => {
    // An oil gallery's pressures on a sheet that states no line: the manifold's usual one cannot be it.
    const circuits = [{ id: "oil", family: "pressure-3w" }];
    const idle = { key: "idle" as const };
    const readings: Reading[] = [
      { id: "r1", circuit: "oil", meter: "scan", red: "sig@module", unit: "kPa", setup: idle, value: 352 },
      { id: "r2", circuit: "oil", meter: "gauge", red: "part", setup: idle, value: 345 },
      { id: "r3", circuit: "oil", meter: "volts-dc", red: "sig@sensor", black: "bat-", setup: idle, value: 2.5 },
      { id: "r4", circuit: "oil", meter: "volts-dc", red: "ref@sensor", black: "bat-", setup: {}, value: 5 },
    ];
    const whys = new Map(diagnoseJob({ circuits, readings }, new Session()).doubtful.map(({ reading, why }) => [reading, why]));
    expect(whys.get("r2")).toMatch(/kPa was expected/u);
    for (const why of whys.values()) expect(why).not.toMatch(/ V was expected/u);
  });
});
