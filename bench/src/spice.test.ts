import { compareWithSpice } from "./spice";

describe("decks of random faults and setups of every family", () => {
  it("agree with an independent simulator to 1e-4 of a volt", () => {
    const result = compareWithSpice(64, 5);
    if (result === null) throw new Error("ngspice is missing; npm test installs it, or: apt-get install ngspice");
    // The other simulator does not converge on a deck now and then.
    expect(result.failed).toBeLessThanOrEqual(1);
    expect(result.decks).toBe(64);
    expect(result.worst).toBeLessThan(1e-4);
  });
});
