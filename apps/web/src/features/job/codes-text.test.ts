import { codesIn } from "./codes-text";

describe("codes as typed", () => {
  it("reads several in a line, and one a line with status and freeze frame", () => {
    expect(codesIn("p0118 P0107").codes).toEqual([{ code: "P0118" }, { code: "P0107" }]);
    expect(codesIn("P0118 current coolant=-40 degC, engine speed=820 rpm\nU0100 pending").codes).toEqual([
      { code: "P0118", status: "current", freezeFrame: { coolant: "-40 degC", "engine speed": "820 rpm" } },
      { code: "U0100", status: "pending" },
    ]);
  });
  it("says what is no code, and keeps what came before it", () => {
    const { codes, problem } = codesIn("P0118\nsmoke from the hood");
    expect(codes).toHaveLength(1);
    expect(problem).toContain('"smoke"');
  });
  it("accepts a maker's own codes", () => {
    expect(codesIn("P1234-1F; EGR-LOW").codes.map(({ code }) => code)).toEqual(["P1234-1F", "EGR-LOW"]);
  });
});
