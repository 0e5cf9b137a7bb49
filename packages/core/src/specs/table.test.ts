import { SHELF_KINDS, type ShelfRecord } from "@fox-lamp/language";
import { COLUMNS, readTable, writeTable } from "./index";

const HEAD = ["family", "meter", "red", "black", "key", "low", "high", "unit", "source", "make", "years"];
const ROW = ["potentiometer-3w", "volts-dc", "ref@sensor", "bat-", "on", "4.8", "5.2", "V", "Workshop book", "Veldane", "2011-2016"];
const over = (changes: Readonly<Record<string, string>>): string[] => HEAD.map((name, index) => changes[name] ?? ROW[index] ?? "");
const problemsOf = (...rows: readonly string[][]) => readTable("limit", [HEAD, ...rows]).problems;

describe("a table of limits", () => {
  it("becomes records, row by row, in whatever order its columns stand", () => {
    const { records, problems } = readTable("limit", [HEAD, ROW, [], over({ low: "4,9", years: "2014", make: "" })]);
    expect(problems).toEqual([]);
    expect(records.map(({ rows }) => rows)).toEqual([[2], [4]]);
    expect(records[0]?.item).toMatchObject({ kind: "limit", record: { vehicle: { make: "Veldane", years: [2011, 2016] }, low: 4.8, setup: { key: "on" } } });
    expect(records[1]?.item).toMatchObject({ record: { vehicle: { years: [2014, 2014] }, low: 4.9, source: { kind: "document", title: "Workshop book" } } });
  });
  it.each([
    [{ low: "four" }, { row: 3, column: "low", message: '"four" is no number' }],
    [{ family: "thermistor" }, { row: 3, column: "family", message: '"thermistor" is no family' }],
    [{ family: "" }, { row: 3, column: "family", message: "is empty; expected a family" }],
    [{ years: "since 2011" }, { row: 3, column: "years", message: '"since 2011" are no years; expected 2012 or 2012-2018' }],
    [{ source: "" }, { row: 3, column: "source", message: "is empty" }],
    [
      { low: "", high: "" },
      { row: 3, column: null, message: "expected a low, a high or a nominal value" },
    ],
  ])("says what is wrong with a row: %o", (changes, problem) => {
    expect(problemsOf(ROW, over(changes as Record<string, string>))).toEqual([problem]);
  });
  it("says which meter is none, and keeps the rows that can be", () => {
    const { records, problems } = readTable("limit", [HEAD, over({ meter: "voltmeter" }), ROW, over({ key: "half" })]);
    expect(records).toHaveLength(1);
    expect(problems.map(({ row, column }) => [row, column])).toEqual([
      [2, "meter"],
      [4, "key"],
    ]);
  });
  it("with columns nobody knows, twice or missing is not read at all", () => {
    const { records, problems } = readTable("limit", [["family", "meter", "red", "red", "unit", "lowest"], ROW]);
    expect(records).toEqual([]);
    expect(problems).toEqual([
      { row: 1, column: "red", message: "stands here twice" },
      { row: 1, column: "lowest", message: "is no column of this table" },
      { row: 1, column: "source", message: "is missing" },
    ]);
  });
});

describe("a table of curves", () => {
  const head = ["name", "family", "kind", "x", "y", "tolerance", "source"];
  const row = (name: string, x: string, y: string): string[] => [name, "thermistor-2w", "temperature-ohms", x, y, "5", "Book"];
  it("makes one curve of the rows of one name", () => {
    const { records, problems } = readTable("curve", [
      head,
      row("Coolant", "0", "5.9k"),
      row("Coolant", "20", "2k5"),
      row("Oil", "0", "9000"),
      row("Oil", "20", "4000"),
    ]);
    expect(problems).toEqual([]);
    expect(records.map(({ rows, item }) => [rows, item.kind === "curve" && item.record.points])).toEqual([
      [
        [2, 3],
        [
          [0, 5900],
          [20, 2500],
        ],
      ],
      [
        [4, 5],
        [
          [0, 9000],
          [20, 4000],
        ],
      ],
    ]);
    expect(records[0]?.item).toMatchObject({ record: { id: "Coolant", tolerance: 0.05 } });
  });
  it("names the row of the point that cannot be", () => {
    const { records, problems } = readTable("curve", [head, row("Coolant", "0", "5900"), row("Coolant", "20", "?"), row("Oil", "0", "9000")]);
    expect(records).toEqual([]);
    expect(problems).toEqual([
      { row: 3, column: "y", message: '"?" is no number' },
      { row: 4, column: "y", message: "expected two points at least" },
    ]);
  });
});

describe("the conditions of a limit", () => {
  const head = [...HEAD, "rpm", "load", "altitude"];
  it("are its speed, load and altitude", () => {
    const { records, problems } = readTable("limit", [head, [...over({ key: "rev" }), "2500", "full", "-50 to 600"]]);
    expect(problems).toEqual([]);
    expect(records[0]?.item).toMatchObject({ record: { setup: { key: "rev", rpm: 2500 }, load: "full", altitude: [-50, 600] } });
  });
  it.each([
    [["fast", "", ""], { row: 2, column: "rpm", message: '"fast" is no number' }],
    [["", "heavy", ""], { row: 2, column: "load" }],
    [["", "", "high"], { row: 2, column: "altitude", message: '"high" is no altitude; expected metres such as 0-600' }],
    [["", "", "600-0"], { row: 2, column: "altitude", message: "the lower altitude lies above the higher one" }],
    [["", "", "0-20000"], { row: 2, column: "altitude" }],
  ])("say what is wrong with them: %j", (cells, problem) => {
    expect(readTable("limit", [head, [...ROW, ...cells]]).problems).toMatchObject([problem]);
  });
});

it("a look-alike's line is read point by point, and a point that is none is told", () => {
  const head = ["part", "family", "line", "source"];
  const { records } = readTable("variant", [head, ["VB-1", "pressure-3w", "20=0.5; 110 = 4,5;", "Book"]]);
  expect(records[0]?.item).toMatchObject({
    record: {
      line: [
        [20, 0.5],
        [110, 4.5],
      ],
    },
  });
  const problemOf = (line: string) => readTable("variant", [head, ["VB-1", "pressure-3w", line, "Book"]]).problems;
  expect(problemOf("20=0.5; 110")).toMatchObject([{ row: 2, column: "line", message: expect.stringContaining('"110" is no point') }]);
  expect(problemOf("20=0.5")).toMatchObject([{ row: 2, column: "line" }]);
});

it("a variant needs both ends of its ohms", () => {
  const head = ["part", "family", "ohms low", "ohms high", "source"];
  expect(readTable("variant", [head, ["VB-1", "thermistor-2w", "2300", "", "Book"]]).problems).toEqual([
    { row: 2, column: "ohms high", message: "is empty; expected both ends" },
  ]);
});

it.each([...SHELF_KINDS])("the guide's own example of a %s can be read, and what is written is read back the same", (kind) => {
  const example = COLUMNS[kind].map(({ name, example: cell }) => (name === "nominal" || name === "percent" || name === "kPa" ? "" : cell));
  const rows = [COLUMNS[kind].map(({ name }) => name), example];
  // A curve has two points at least.
  if (kind === "curve") rows.push(example.map((cell, index) => ({ x: "40", y: "1200" })[rows[0]?.[index] ?? ""] ?? cell));
  const { records, problems } = readTable(kind, rows);
  expect(problems).toEqual([]);
  const items: ShelfRecord[] = records.map(({ item }) => item);
  expect(readTable(kind, writeTable(kind, items)).records.map(({ item }) => item)).toEqual(items);
});
