import { codesIn } from "./codes-text";

const FRAME = { coolant: "-40 °C", "engine speed": "820 rpm", "O2 sensor 1": "0,12 V" };

describe("codes as typed", () => {
  it("reads several in a line, and one a line with status and freeze frame", () => {
    expect(codesIn("p0118 P0107").codes).toEqual([{ code: "P0118" }, { code: "P0107" }]);
    expect(codesIn("P0118 current coolant=-40 degC, engine speed=820 rpm\nU0100 pending").codes).toEqual([
      { code: "P0118", status: "current", freezeFrame: { coolant: "-40 degC", "engine speed": "820 rpm" } },
      { code: "U0100", status: "pending" },
    ]);
  });
  it.each([
    ["commas", "P0118, current, coolant = -40 °C, engine speed = 820 rpm, O2 sensor 1 = 0,12 V"],
    ["semicolons", "P0118 (confirmed); coolant: -40 °C; engine speed: 820 rpm; O2 sensor 1: 0,12 V"],
    ["lines", "P0118 current\ncoolant -40 °C\nengine speed 820 rpm\nO2 sensor 1 0,12 V\n"],
    ["tabs", "P0118\tcurrent\tcoolant\u00a0-40 °C\tengine speed 820 rpm\tO2 sensor 1=0,12 V"],
    ["room alone", "P0118 current\r\ncoolant -40 °C engine speed 820 rpm O2 sensor 1 0,12 V"],
  ])("reads a freeze frame with %s between its values", (_name, text) => {
    expect(codesIn(text)).toEqual({ codes: [{ code: "P0118", status: "current", freezeFrame: FRAME }], problem: null });
  });
  it("keeps a description behind a code, and gives each code its own frame", () => {
    expect(codesIn("P0141 - O2 sensor heater circuit, bank 1 sensor 2\nspeed 48 km/h\nP0118 coolant circuit high; coolant -40 °C")).toMatchObject({
      codes: [
        { code: "P0141", text: "O2 sensor heater circuit", freezeFrame: { "bank 1 sensor": "2", speed: "48 km/h" } },
        { code: "P0118", text: "coolant circuit high", freezeFrame: { coolant: "-40 °C" } },
      ],
      problem: null,
    });
    expect(codesIn("P0118; fuel system: closed loop").codes[0]?.freezeFrame).toEqual({ "fuel system": "closed loop" });
  });
  it.each([
    ["P0118\nsmoke from the hood", "smoke from the hood", 1],
    ["coolant -40 °C\nP0118", "coolant -40 °C", 0],
    ["P0118; P01", "P01", 1],
  ])("names what it cannot read in %j, and keeps what came before it", (text, named, kept) => {
    const { codes, problem } = codesIn(text);
    expect(codes).toHaveLength(kept);
    expect(problem).toContain(`"${named}"`);
  });
  it("accepts a maker's own codes", () => {
    expect(codesIn("P1234-1F; EGR-LOW").codes.map(({ code }) => code)).toEqual(["P1234-1F", "EGR-LOW"]);
  });
});
