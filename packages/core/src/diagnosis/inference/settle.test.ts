import type { Circuit, Reading } from "@fox-lamp/language";
import { diagnoseJob, Session } from "../index";
import { settledCircuit } from "./settle";

const session = new Session();
const ohms = (black: string, value: Reading["value"]): Reading => ({
  circuit: "ks",
  meter: "ohms",
  red: "sig@part",
  black,
  setup: { key: "off", open: ["sensor"] },
  value,
});

describe("a knock sensor whose sheet says nothing of its ohms", () => {
  for (const [family, black] of [
    ["knock-1w", "engine"],
    ["knock-2w", "gnd@part"],
  ] as const) {
    const circuit: Circuit = { id: "ks", family };
    const leading = (value: Reading["value"], given?: Circuit["with"]) => {
      const job = { circuits: [given === undefined ? circuit : { ...circuit, with: given }], readings: [ohms(black, value)] };
      const { units } = diagnoseJob(job, session);
      return units.find(({ unit }) => unit === "ks/sensor")?.probability ?? 0;
    };
    it(`${family}: is not accused by OL, which a bare crystal reads`, () => {
      expect(leading("OL")).toBeLessThan(leading(4.8e6) + 0.15);
      expect(leading("OL")).toBeLessThan(0.5);
    });
    it(`${family}: is accused by OL where the sheet states its ohms, and by a kilo-ohm in any case`, () => {
      expect(leading("OL", { resistance: [4.2e6, 5.6e6] })).toBeGreaterThan(0.6);
      expect(leading(900)).toBeGreaterThan(0.6);
    });
  }
  it("is of the kind whose ohms were read", () => {
    const circuit: Circuit = { id: "ks", family: "knock-2w" };
    const kind = (value: Reading["value"]): readonly number[] | undefined =>
      (settledCircuit(circuit, [circuit], [ohms("gnd@part", value)]).with?.resistance as { value: readonly number[] } | undefined)?.value;
    expect(kind("OL")?.[0]).toBeGreaterThan(4e7);
    expect(kind(160_000)?.[1]).toBeLessThan(3e5);
    expect(kind(4.9e6)).toBeUndefined();
  });
});
