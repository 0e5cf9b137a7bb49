/** @jest-environment jsdom */
import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { circuitView, pinView } from "../../../../test/views";
import { HandWatch } from "./HandWatch";
import { isOutside, linesOf, movedAt, movedPlaces, placeText } from "./lines";

jest.mock("../../../circuit/use-analysis", () => ({ useWindows: () => [{ low: 4.8, high: 5.2, unit: "V" }, null, { low: null, high: 0.1, unit: "V" }] }));

const CAM = circuitView("cam", "Cam");
/** What is entered from the lines of a circuit. */
function shown() {
  const entered: unknown[] = [];
  render(
    <HandWatch
      bench={{ diagnosed: null, test: null, enterReadings: (readings) => void entered.push(...readings.map(({ reading, minutes }) => [reading, minutes])) }}
      circuit={CAM}
      onOpen={() => undefined}
    />,
  );
  return entered;
}
const enter = () => userEvent.click(screen.getByRole("button", { name: "Enter these lines" }));

describe("three lines of one moment", () => {
  it("are entered together, with what was moved and whether it failed", async () => {
    const entered = shown();
    await userEvent.click(screen.getByRole("button", { name: "C1" }));
    await userEvent.type(screen.getByLabelText(/^feed at the sensor/u), "0.3 to 5.0");
    await userEvent.type(screen.getByLabelText(/^ground at the sensor/u), "12m");
    await enter();
    expect(entered).toEqual([
      [
        {
          circuit: "cam",
          meter: "volts-dc",
          red: "feed@sensor",
          black: "bat-",
          setup: { stimulus: { kind: "wiggle", at: "C1" } },
          record: "min-max",
          value: { min: 0.3, max: 5 },
          symptom: true,
        },
        1,
      ],
      [
        { circuit: "cam", meter: "volts-dc", red: "gnd@sensor", black: "bat-", setup: { stimulus: { kind: "wiggle", at: "C1" } }, value: 0.012, symptom: true },
        0.2,
      ],
    ]);
    expect(screen.getByText(/2 lines entered, moving: at C1/u)).toBeTruthy();
    expect((screen.getByLabelText(/^feed at the sensor/u) as HTMLInputElement).value).toBe("");
  });
  it("are none where nothing, or nothing readable, was typed; what was typed stays", async () => {
    const entered = shown();
    await enter();
    expect(screen.getByRole("alert").textContent).toContain("Nothing was typed");
    await userEvent.type(screen.getByLabelText(/^signal at the sensor/u), "much");
    await enter();
    expect(screen.getByText(/"much" is not a reading/u)).toBeTruthy();
    expect((screen.getByLabelText(/^signal at the sensor/u) as HTMLInputElement).value).toBe("much");
    expect(entered).toEqual([]);
  });
  it("may be of a moment in which it did not fail", async () => {
    const entered = shown();
    await userEvent.click(screen.getByRole("button", { name: "No" }));
    await userEvent.type(screen.getByLabelText(/^signal at the sensor/u), "4.9");
    await enter();
    expect(entered).toMatchObject([[{ value: 4.9, symptom: false, setup: {} }, 1]]);
  });
});

describe("the lines of a circuit", () => {
  it("are feed or reference, signal and ground, at the sensor where they reach it", () => {
    expect(linesOf(CAM, {}).map(({ measurement, isSignal }) => [measurement.red, isSignal])).toEqual([
      ["feed@sensor", false],
      ["sig@sensor", true],
      ["gnd@sensor", false],
    ]);
    const inner = circuitView("x", "Inner", { pins: [pinView("ctl", "control", { places: ["module"] })] });
    expect(linesOf(inner, {}).map(({ measurement }) => measurement.red)).toEqual(["ctl@module"]);
  });
  it("are moved at connectors and along the loom; a splice cannot be taken hold of", () => {
    const spliced = circuitView("x", "X", { pins: [pinView("ref", "reference", { places: ["module", "S1", "sensor"] })] });
    expect(movedPlaces(spliced)).toEqual(["module", "sensor", "loom"]);
    expect([null, "loom", "C1", "sensor"].map(placeText)).toEqual(["nothing", "the loom", "C1", "sensor"]);
    const line = linesOf(CAM, { key: "idle" })[0];
    expect(line && movedAt(line.measurement, "C1").setup).toEqual({ key: "idle", stimulus: { kind: "wiggle", at: "C1" } });
    expect(line && movedAt(line.measurement, null)).toBe(line?.measurement);
  });
  it("have left their window, or have none to leave", () => {
    const window = { low: 4.8, high: 5.2, unit: "V" };
    expect([4.7, 5, 5.3, null].map((value) => isOutside(value, window))).toEqual([true, false, true, false]);
    expect(isOutside(12, null)).toBe(false);
  });
});
