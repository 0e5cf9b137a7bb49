import type { NewEntry } from "@fox-lamp/language";
import { assertCircuitEntries } from "./circuits";

const edit = (body: object): NewEntry => ({ id: "x", at: "2026-03-02T09:14:00Z", by: "Wren", kind: "circuit", body }) as never;

describe("circuits that entries bring", () => {
  it("may be anything a bench opens, wires they share included", () => {
    const bus = { id: "tps", family: "potentiometer-3w", shares: { ref: "busA" } };
    expect(() => assertCircuitEntries([edit({ circuit: bus }), edit({ remove: "tps" })])).not.toThrow();
  });
  it("are refused by the entry that brings them", () => {
    const bad = { id: "tps", family: "potentiometer-3w", with: { vref: -3 } };
    expect(() => assertCircuitEntries([edit({ remove: "a" }), edit({ circuit: bad })])).toThrow(
      expect.objectContaining({ problem: expect.objectContaining({ where: expect.stringContaining("entries[1].body.circuit") }) }),
    );
  });
});
