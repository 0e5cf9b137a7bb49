/** @jest-environment jsdom */
import type { SpecLimit, StoredSpec } from "@fox-lamp/language";
import { conflictsWith } from "./Conflicts";

const LIMIT: SpecLimit = {
  vehicle: {},
  family: "potentiometer-3w",
  meter: "volts-dc",
  red: "ref@sensor",
  low: 4.5,
  high: 5.5,
  unit: "V",
  source: { kind: "document", title: "Workshop book" },
};
const stored = (id: string, over: Partial<SpecLimit> = {}, problems: StoredSpec["problems"] = []): StoredSpec => ({
  id,
  item: { kind: "limit", record: { ...LIMIT, ...over } },
  problems,
  passes: [],
  importId: null,
  by: "Wren",
  at: "2026-03-02T09:00:00Z",
});

it("a limit is told which others say something else, what that means, and which is used", () => {
  const narrow = stored("b", { vehicle: { model: "Heron" }, low: 4.95, high: 5.05, source: { kind: "document", title: "Model sheet" } });
  const bad = stored("c", { low: 5.6, high: 6 }, [{ code: "above-feed", reason: "above" }]);
  expect(conflictsWith(stored("a"), [stored("a"), narrow, bad, stored("d", { red: "gnd@sensor" })])).toEqual([
    expect.stringMatching(/^Model sheet says something else: a reading of .+ V passes by Workshop book and fails by Model sheet\. Model sheet is used/u),
  ]);
  expect(conflictsWith(bad, [narrow])).toEqual([]);
  expect(conflictsWith(narrow, [stored("e", { vehicle: { model: "Tern" }, low: 1 })])).toEqual([]);
});
