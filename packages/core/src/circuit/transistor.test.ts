import fc from "fast-check";
import { conductingOhms } from "./transistor";

describe("a conducting output transistor", () => {
  it("leaves 20 to 400 mV under every pull-up that is met, 0.8 V under the smallest from a battery", () => {
    fc.assert(
      fc.property(fc.double({ min: 1000, max: 10_000, noNaN: true }), fc.constantFrom(5, 8, 12), (pull, volts) => {
        const on = conductingOhms(pull, volts);
        const low = (volts * on) / (on + pull);
        expect(low).toBeGreaterThan(0.09);
        expect(low).toBeLessThan(0.4);
      }),
    );
    const on = conductingOhms(330, 12);
    expect((12 * on) / (on + 330)).toBeLessThan(0.8);
  });
});
