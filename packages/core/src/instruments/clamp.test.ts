import { buildModel } from "../circuit";
import { simulateReading } from "./simulate";

describe("a clamp", () => {
  const model = buildModel([{ id: "purge", family: "solenoid-2w" }]);
  const shown = (pin: string) => Number(simulateReading(model, { circuit: "purge", meter: "amps-dc", red: `${pin}@sensor`, setup: { key: "idle" } }, [], "m"));
  it("shows the same current on either wire of a winding, whichever way it flows", () => {
    expect(shown("ctl")).toBeGreaterThan(0.3);
    expect(shown("ctl")).toBeCloseTo(shown("feed"), 4);
  });
});
