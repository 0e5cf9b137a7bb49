import { readTable } from "@fox-lamp/core";
import { cellAt, cellsOf, kindOf, problemCells, withCell, withoutBad } from "./import-table";

const CSV = "\uFEFFfamily;meter;red;low;high;unit;source\nhall-3w;volts-dc;gnd@sensor;0;0,1;V;Book\n\nhall-3w;volts-dc;feed@sensor;x;13;V;Book\n";

it("a table keeps its rows where a spreadsheet counts them, whatever stands between its cells", () => {
  const cells = cellsOf(CSV);
  expect(cells).toHaveLength(4);
  expect(kindOf(cells)).toBe("limit");
  expect(cellAt(cells, 4, "Low")).toBe("x");
  expect(cellAt(cells, 4, "nominal")).toBeNull();
});

it("a bad cell is mended in place, or its row left out", () => {
  const cells = cellsOf(CSV);
  const [problem] = problemCells(readTable("limit", cells));
  expect(problem).toEqual({ row: 4, column: "low", message: '"x" is no number' });
  const mended = readTable("limit", withCell(cells, 4, "low", "11"));
  expect(mended.problems).toEqual([]);
  expect(mended.records.map(({ rows }) => rows)).toEqual([[2], [4]]);
  expect(withCell(cells, 4, "nominal", "1")).toBe(cells);
  expect(readTable("limit", withoutBad("limit", cells))).toMatchObject({ problems: [], records: [{ rows: [2] }] });
});

it("kinds are told by their columns", () => {
  expect(kindOf([["name", "family", "kind", "x", "y", "source"]])).toBe("curve");
  expect(kindOf([["part", "family", "ohms low", "ohms high", "source"]])).toBe("variant");
});
