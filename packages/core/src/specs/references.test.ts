import fc from "fast-check";
import { REFERENCES, referenceFrom } from "./references";

describe("which reference it is", () => {
  it.each([5, 8, 9, 10])("%d V of a regulator stand well below the battery", (reference) => {
    fc.assert(
      fc.property(fc.double({ min: 0.975, max: 1.025, noNaN: true }), fc.double({ min: 12.2, max: 12.9, noNaN: true }), (share, battery) => {
        expect(referenceFrom({ volts: reference * share, battery })).toEqual({ found: "reference", volts: reference });
      }),
    );
  });
  it("what stands at the battery may be the battery: it has to move", () => {
    const key = { volts: 12.3, battery: 12.5 };
    expect(referenceFrom(key).found).toBe("ask-moved");
    expect(referenceFrom({ ...key, moved: { volts: 12.5, battery: 12.7 } }).found).toBe("moved-too-little");
    // Charging lifts the battery to 14.2 V: its own feed goes along, a regulator's stays.
    expect(referenceFrom({ ...key, moved: { volts: 14, battery: 14.2 } })).toEqual({ found: "battery", volts: 12 });
    expect(referenceFrom({ volts: 12, battery: 12.5, moved: { volts: 12.02, battery: 14.2 } })).toEqual({ found: "reference", volts: 12 });
    // Cranking pulls it down to 10.2 V.
    expect(referenceFrom({ ...key, moved: { volts: 10, battery: 10.2 } })).toEqual({ found: "battery", volts: 12 });
  });
  it("a weak battery and a regulator of 10 V stand close together, and are told apart by charging", () => {
    expect(referenceFrom({ volts: 10, battery: 10.6 }).found).toBe("ask-moved");
    expect(referenceFrom({ volts: 10, battery: 10.6, moved: { volts: 10, battery: 13.9 } })).toEqual({ found: "reference", volts: 10 });
  });
  it("says so where nothing is there, and where it is no reference: something drags it down, or feeds it", () => {
    expect(referenceFrom({ volts: 0.05, battery: 12.5 }).found).toBe("none");
    for (const volts of [1, 3.2, 6.3, 7]) expect(referenceFrom({ volts, battery: 12.5 }).found).toBe("no-reference");
    expect(referenceFrom({ volts: 14, battery: 12.5 }).found).toBe("no-reference");
    expect(REFERENCES).toContain(8);
  });
});
