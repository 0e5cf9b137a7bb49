import type { Circuit, Reading } from "@fox-lamp/language";
import { completeSheets } from "../src/circuit";
import { diagnoseJob } from "../src/diagnosis";

const SILENT: Circuit = { id: "ect", family: "thermistor-2w" };
const reading = (value: number, temperature: number): Reading => ({
  id: "r1",
  circuit: "ect",
  meter: "volts-dc",
  red: "sig@sensor",
  black: "bat-",
  setup: { truth: { temperature } },
  value,
});

describe("what is worth looking up", () => {
  it("is what the sheet leaves out and would settle more, the most telling first", () => {
    const { ask = [] } = diagnoseJob({ circuits: [SILENT], readings: [reading(3.9, 20)] });
    expect(ask.map(({ circuit }) => circuit)).toEqual(ask.map(() => "ect"));
    expect(ask[0]?.parameter).toBe("pullup");
    expect(ask.map(({ gainBits }) => gainBits)).toEqual(ask.map(({ gainBits }) => gainBits).sort((one, other) => other - one));
    for (const { title, minutes } of ask) expect([title.length > 3, minutes > 0]).toEqual([true, true]);
  });
  it("is nothing where the sheet says it, or where it would change nothing", () => {
    const stated = completeSheets([SILENT]);
    expect(diagnoseJob({ circuits: stated, readings: [reading(3.9, 20)] }).ask).toBeUndefined();
    const open: Reading = { id: "r1", circuit: "ect", meter: "ohms", red: "sig@part", black: "gnd@part", setup: { key: "off", open: ["sensor"] }, value: "OL" };
    expect(diagnoseJob({ circuits: [SILENT], readings: [open] }).ask).toBeUndefined();
  });
});
