/** @jest-environment jsdom */
import type { CaptureLayout } from "@fox-lamp/core";
import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { TimeForm } from "./TimeForm";

const layout = {
  channels: [
    { index: 0, title: "cam", unit: "V", factor: 1 },
    { index: 1, title: "stamp", unit: "V", factor: 1 },
  ],
  sample: [
    ["0.12", "0.000"],
    ["5.01", "0.001"],
  ],
} as unknown as CaptureLayout;

function asked() {
  const said: unknown[] = [];
  render(<TimeForm timeless={{ file: new File([], "bare.csv"), layout }} onSaid={(answer) => said.push(answer)} />);
  return said;
}

it("shows the first rows, and takes the rate somebody says", async () => {
  const said = asked();
  expect(screen.getByRole("columnheader", { name: "cam, V" })).toBeTruthy();
  expect(screen.getAllByRole("cell").map(({ textContent }) => textContent)).toEqual(["0.12", "0.000", "5.01", "0.001"]);
  await userEvent.type(screen.getByLabelText("Samples a second"), "0{Enter}");
  expect(screen.getByRole("alert").textContent).toBe("A number above 0.");
  expect(said).toEqual([]);
  await userEvent.clear(screen.getByLabelText("Samples a second"));
  await userEvent.type(screen.getByLabelText("Samples a second"), "20000{Enter}");
  expect(said).toEqual([{ rate: 20_000 }]);
});

it("or the column that is time", async () => {
  const said = asked();
  await userEvent.selectOptions(screen.getByLabelText("Time in seconds is in"), "stamp");
  expect(screen.queryByLabelText("Samples a second")).toBeNull();
  await userEvent.click(screen.getByRole("button", { name: "Read it" }));
  expect(said).toEqual([{ time: 1 }]);
});
