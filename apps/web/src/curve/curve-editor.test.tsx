/** @jest-environment jsdom */
import { fireEvent, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { CurveEditor } from "./CurveEditor";

jest.mock("./CurveChart", () => ({ __esModule: true, default: () => <div data-testid="chart" /> }));

let text = "";
function Editor({ start = "", usual = "" }: { start?: string; usual?: string }) {
  const [now, setNow] = useState(start);
  text = now;
  return <CurveEditor label="Its line" kind="position-volts" text={now} onText={setNow} usual={usual} />;
}
const LINE = "0, 0.5\n25, 1.5\n50, 2.5\n75, 3.5\n100, 4.5";
const cell = (name: string): HTMLInputElement => screen.getByLabelText(name);

it("points are typed one below the other, a new row waits, and one is taken out", async () => {
  render(<Editor />);
  await userEvent.type(cell("Point 1, %"), "0");
  await userEvent.type(cell("Point 1, V"), "0.5");
  await userEvent.type(cell("Point 2, %"), "100");
  await userEvent.type(cell("Point 2, V"), "4.5");
  expect(text).toBe("0, 0.5\n100, 4.5");
  expect(cell("Point 3, V").value).toBe("");
  await userEvent.click(screen.getByRole("button", { name: "Take point 1 out" }));
  expect(text).toBe("100, 4.5");
});

it("a piece of a spreadsheet is pasted into the row it is put on", () => {
  render(<Editor start="0, 0.5" />);
  fireEvent.paste(cell("Point 2, %"), { clipboardData: { getData: () => "%\tV\n50\t2.5\n100\t4.5\n" } });
  expect(text).toBe("0, 0.5\n50, 2.5\n100, 4.5");
  // One number goes into its cell as always.
  const one = fireEvent.paste(cell("Point 2, V"), { clipboardData: { getData: () => "2.6" } });
  expect(one).toBe(true);
});

it("a straight line is found, read in both directions, and a point beside it named and moved onto it", async () => {
  render(<Editor start={LINE.replace("50, 2.5", "50, 2.9")} />);
  expect(screen.getByText("Point 3 (50, 2.9) does not fit the others: it lies 10 % off. Was it typed wrong?")).toBeTruthy();
  await userEvent.type(screen.getByLabelText("Read it at, %"), "60");
  expect(screen.getByText("is 2.9 V")).toBeTruthy();
  await userEvent.type(screen.getByLabelText("Read it at, V"), "9");
  expect(screen.getByText("outside the curve")).toBeTruthy();
  await userEvent.click(screen.getByRole("button", { name: "Move the points onto it" }));
  expect(text).toBe(LINE);
});

it("while nothing is typed the usual curve is drawn and said to be that; a number that is none is marked", async () => {
  render(<Editor usual={"0, 0.6\n100, 4.3"} />);
  expect(screen.getByText(/^The usual curve of its kind is drawn/u)).toBeTruthy();
  expect(await screen.findByTestId("chart")).toBeTruthy();
  await userEvent.type(cell("Point 1, V"), "abc");
  expect(cell("Point 1, V").getAttribute("aria-invalid")).toBe("true");
});
