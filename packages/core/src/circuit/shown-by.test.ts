import type { Circuit, Measurement } from "@fox-lamp/language";
import { differing, shownParts, tellsApart } from "./shown-by";

const plain: Circuit = { id: "egr", family: "potentiometer-3w" };
const up: Circuit = { ...plain, with: { pullup: 100_000 } };
const percent: Circuit = { ...plain, with: { percentOf: "reference" } };
const reference: Measurement = { circuit: "egr", meter: "volts-dc", red: "ref@sensor", black: "bat-" };
const scan = (circuit: string): Measurement => ({ circuit, meter: "scan", red: "sig@module", setup: { truth: { position: 0 } } });

describe("kinds of a circuit", () => {
  it("are told apart by readings that see what they differ in, by no others", () => {
    expect(tellsApart([reference], plain, up, "")).toBe(false);
    expect(tellsApart([reference, scan("egr")], plain, up, "")).toBe(true);
    expect(tellsApart([scan("tps")], plain, up, "")).toBe(false);
    expect(tellsApart([scan("egr")], plain, percent, "")).toBe(false);
    expect(tellsApart([{ ...scan("egr"), unit: "%" }], plain, percent, "")).toBe(true);
    expect(tellsApart([{ ...reference, red: "egr:sig@sensor", circuit: "tps" }], plain, up, "")).toBe(true);
    expect(differing(up, percent).sort()).toEqual(["percentOf", "pullup"]);
  });
  it("are one kind to readings that show the same of them", () => {
    const parts = (circuit: Circuit, ...readings: Measurement[]): string => shownParts(readings, circuit, "");
    expect(parts(plain, reference)).toBe(parts(up, reference));
    expect(parts(plain, scan("egr"))).not.toBe(parts(up, scan("egr")));
    expect(parts(plain, scan("egr"))).toBe(parts(percent, scan("egr")));
  });
  it("of two tracks differ on the second line only, and what is not known to hide always shows", () => {
    const pedal = (opposed: boolean): Circuit => ({ id: "app", family: "dual-track", with: { opposed } });
    const at = (red: string): Measurement => ({ circuit: "app", meter: "volts-dc", red, black: "bat-" });
    expect(tellsApart([at("sig1@sensor"), at("ref1@sensor")], pedal(true), pedal(false), "")).toBe(false);
    expect(tellsApart([at("sig2@sensor")], pedal(true), pedal(false), "")).toBe(true);
    expect(tellsApart([], plain, { ...plain, with: { track: 900 } }, "")).toBe(true);
  });
});
