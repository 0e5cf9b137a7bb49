import { repairedIn, titleIn } from "./reasons";

const posterior = { inference: { circuitOf: () => ({ family: { part: "Lift sensor" } }) } } as never;

describe("what is repaired", () => {
  it("is one thing, or both of two", () => {
    expect(repairedIn(posterior, "lift/wire:sig")).toBe(titleIn(posterior, "lift/wire:sig"));
    expect(repairedIn(posterior, "lift/contact:gnd@sensor&lift/contact:sig@sensor")).toBe("Both ground contact at the sensor and signal contact at the sensor");
    expect(repairedIn(posterior, "lift/wire:sig&lift/sensor")).toMatch(/^Both .* and lift sensor$/u);
  });
  it("is nothing that lies outside the circuit", () => {
    expect(repairedIn(posterior, "lift/outside&lift/contact:sig@sensor")).toBe("Signal contact at the sensor");
    expect(repairedIn(posterior, "lift/outside")).toBeNull();
  });
});
