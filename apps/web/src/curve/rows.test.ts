import { isTable, rowsOf, rowsPasted, textOf, withPasted } from "./rows";

describe("rows of a curve", () => {
  it.each([
    [
      "20, 2500\n40, 1200",
      [
        ["20", "2500"],
        ["40", "1200"],
      ],
    ],
    ["20\t2500", [["20", "2500"]]],
    ["20;2,5k", [["20", "2,5k"]]],
    ["20,2500", [["20", "2500"]]],
    ["20 2k5", [["20", "2k5"]]],
    ["20,5,2,7", [["20,5", "2,7"]]],
    ["\n\n", []],
  ])("are read from %j", (text, rows) => {
    expect(rowsOf(text)).toEqual(rows);
  });
  it("become text again without what is empty", () => {
    expect(
      textOf([
        ["20", "2500"],
        ["", " "],
        [" 40", "1200 "],
      ]),
    ).toBe("20, 2500\n40, 1200");
  });
  it("pasted from a spreadsheet write over what stands there, their names left out", () => {
    expect(isTable("20\t2500")).toBe(true);
    expect(isTable("2500 ")).toBe(false);
    const pasted = rowsPasted("degC\tohm\r\n0\t5900\r\n20\t2500\r\n");
    expect(pasted).toEqual([
      ["0", "5900"],
      ["20", "2500"],
    ]);
    expect(
      withPasted(
        [
          ["-20", "1"],
          ["0", "2"],
        ],
        1,
        pasted,
      ),
    ).toEqual([
      ["-20", "1"],
      ["0", "5900"],
      ["20", "2500"],
    ]);
  });
});
