import type { Reading } from "@fox-lamp/language";
import { Session } from "../inference/session";
import { proofOf } from "./explain";

const volts = (red: string, black: string, value: number, setup: Reading["setup"] = {}): Reading => ({
  circuit: "iat",
  meter: "volts-dc",
  red,
  black,
  setup,
  value,
});
/** A broken ground, with the leads swapped at the second reading. */
const taken: readonly Reading[] = [
  { circuit: "iat", meter: "scan", red: "sig@module", setup: { truth: { temperature: 12 } }, value: 5.01 },
  volts("sig@sensor", "bat-", -4.97, { truth: { temperature: 12 } }),
  volts("gnd@sensor", "bat-", 4.91),
  volts("bat+", "gnd@sensor", 0.33, { open: ["sensor"] }),
  volts("gnd@module", "bat-", 0.013),
  volts("gnd@sensor", "gnd@module", 4.91),
];
const readings = taken.map((reading, index): Reading => ({ ...reading, id: `r${index + 1}` }));

describe("the sentence under what is cleared", () => {
  const session = new Session();
  it.each([2, 3, 4, 6])("tells of one of the readings that clear it, after %d readings", (count) => {
    const { cleared } = proofOf({ circuits: [{ id: "iat", family: "thermistor-2w", title: "Intake air" }], readings: readings.slice(0, count) }, session);
    expect(cleared.length).toBeGreaterThan(2);
    for (const { by, sentence } of cleared) {
      const told = sentence.match(/\br\d+\b/gu) ?? [];
      expect(told.length).toBeGreaterThan(0);
      for (const id of told) expect(by).toContain(id);
    }
  });
});
