/** @jest-environment jsdom */
import type { Reading } from "@fox-lamp/language";
import { render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Identify } from "./Identify";

function begun() {
  const filled: { cavities: Record<string, string>; readings: readonly Reading[] }[] = [];
  render(
    <Identify
      circuit={{ id: "tps", family: "potentiometer-3w" }}
      open
      onOpen={() => undefined}
      onFill={(cavities, readings) => filled.push({ cavities, readings })}
    />,
  );
  return filled;
}
const measure = async (cavity: string, question: string, value: string): Promise<void> => {
  await userEvent.selectOptions(screen.getByLabelText("Cavity"), cavity);
  await userEvent.selectOptions(screen.getByLabelText("What is measured"), question);
  await userEvent.clear(screen.getByLabelText("Reading"));
  await userEvent.type(screen.getByLabelText("Reading"), `${value}{Enter}`);
};
const known = (): (string | null)[] =>
  within(screen.getByRole("list", { name: "What is known so far" }))
    .getAllByRole("listitem")
    .map(({ textContent }) => textContent);

describe("finding the cavities", () => {
  it("takes measurements in one's own order, fills in what is known, and hands over what was measured", async () => {
    const filled = begun();
    await userEvent.type(screen.getByLabelText("Names of the cavities, with spaces"), "1, 2; 3{Enter}");
    await measure("2", "moves", "0.7 to 4.1");
    expect(known()[1]).toMatch(/^2 is the signal/u);
    expect(screen.getByRole("button", { name: "Fill in what is known: 1 of 3" })).toBeDefined();
    await measure("3", "ohms-to-ground", "300m");
    expect(screen.getByText(/Every cavity is settled/u)).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: "Fill the sheet" }));
    expect(filled).toHaveLength(1);
    expect(filled[0]?.cavities).toEqual({ ref: "1", sig: "2", gnd: "3" });
    expect(filled[0]?.readings.map(({ red, value }) => [red, value])).toEqual([
      ["sig@sensor", { min: 0.7, max: 4.1 }],
      ["gnd@sensor", 0.3],
    ]);
  });
  it("refuses what is no reading, keeps it in the field, and takes back what was slipped", async () => {
    begun();
    await userEvent.type(screen.getByLabelText("Names of the cavities, with spaces"), "1 2 3{Enter}");
    await measure("2", "moves", "4.1");
    expect(screen.getByRole("alert").textContent).toMatch(/4\.1/u);
    expect((screen.getByLabelText("Reading") as HTMLInputElement).value).toBe("4.1");
    await measure("2", "moves", "0.7 to 4.1");
    await userEvent.click(screen.getByRole("button", { name: "Take back what was measured at 2" }));
    expect(known()).toEqual(["1 can be any of them", "2 can be any of them", "3 can be any of them"]);
  });
  it("says when the connector has another number of cavities than such a sensor has pins", async () => {
    begun();
    await userEvent.type(screen.getByLabelText("Names of the cavities, with spaces"), "1 2{Enter}");
    expect(screen.getByRole("alert").textContent).toMatch(/3 pins/u);
  });
});
