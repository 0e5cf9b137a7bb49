/** @jest-environment jsdom */
import { CALCULATORS, type Calculator } from "@fox-lamp/core";
import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { CalculatorForm } from "./CalculatorForm";

const byId = (id: string): Calculator => CALCULATORS.find((one) => one.id === id) as Calculator;
const answer = (): string => screen.getByRole("region", { name: "Answer" }).querySelector("p.readout")?.textContent ?? "";

it("computes the number that is left empty as the others are typed", async () => {
  render(<CalculatorForm calculator={byId("drop")} given={{}} />);
  expect(answer()).toBe("0.2 Ω");
  const drop = screen.getByLabelText("Drop");
  await userEvent.clear(drop);
  await userEvent.type(drop, "1");
  expect(answer()).toBe("0.5 Ω");
  // Two empty: which is missing is told.
  await userEvent.clear(drop);
  expect(screen.getByRole("region", { name: "Answer" }).textContent).toContain("Resistance is missing as well; only one number can be left empty.");
  await userEvent.type(screen.getByLabelText("Resistance"), "3");
  expect(answer()).toBe("6 V");
});

it("gives the limits of the parts' tolerance, and none where nothing has one", async () => {
  render(<CalculatorForm calculator={byId("divider")} given={{}} />);
  expect(screen.getByText("between 2.356 V and 2.406 V within the tolerance")).toBeTruthy();
  await userEvent.clear(screen.getByLabelText("Tolerance of the parts, %"));
  await userEvent.type(screen.getByLabelText("Tolerance of the parts, %"), "0");
  expect(screen.queryByText(/within the tolerance/u)).toBeNull();
});

it("opened with numbers asks for the rest, and notes the result with the numbers it came from", async () => {
  const noted: string[] = [];
  render(<CalculatorForm calculator={byId("divider")} given={{ supply: 5, pull: 1000, signal: 2.5 }} onNote={(text) => noted.push(text)} />);
  expect(answer()).toBe("1000 Ω");
  await userEvent.selectOptions(screen.getByLabelText("Unit of Sensor to ground"), "kohm");
  await userEvent.click(screen.getByRole("button", { name: "Note it in the job" }));
  expect(noted).toEqual(["Divider: supply 5 V, pull-up 1000 Ω, signal 2.5 V give sensor to ground 1 kΩ"]);
});

it("draws how the answer changes, and tells the formula and where it is from", () => {
  render(<CalculatorForm calculator={byId("atmosphere")} given={{}} />);
  expect(screen.getByRole("img", { name: "How Pressure there, kPa changes with Height, m" })).toBeTruthy();
  expect(screen.getByRole("region", { name: "Formula" }).textContent).toContain("ICAO standard atmosphere");
});
