import { figureRows } from "./figures-csv";

const ROW = {
  number: 12,
  vehicle: "Unit 2 TB 502 VN",
  circuits: "Coolant temperature",
  complaint: "Runs cold",
  codes: "P0118",
  stage: "closed" as const,
  outcome: "repaired" as const,
  unit: "ect/wire:sig",
  minutes: 14.5,
  readings: 7,
  person: "Wren",
  opened: "2026-03-02",
  touched: "2026-03-03",
};

describe("the figures as a table", () => {
  it("says everything in words, under a name for each column", () => {
    const [head, row] = figureRows([ROW]);
    expect(row).toHaveLength(head?.length ?? 0);
    expect(row).toEqual([
      12,
      "2026-03-02",
      "2026-03-03",
      "Unit 2 TB 502 VN",
      "Runs cold",
      "P0118",
      "Coolant temperature",
      "Closed",
      "Repaired",
      "Signal wire",
      14.5,
      7,
      "Wren",
    ]);
  });
  it("leaves empty what is not known", () => {
    const [, row] = figureRows([{ ...ROW, outcome: null, unit: null, minutes: null, person: null, stage: "bench" as const }]);
    expect(row?.slice(7)).toEqual(["Bench", "", "", "", 7, ""]);
  });
});
