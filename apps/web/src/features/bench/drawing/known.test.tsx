/** @jest-environment jsdom */
import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Known } from "./Known";

type Conditions = Parameters<Parameters<typeof Known>[0]["onSet"]>[0];

function shown(quantity: "temperature" | "pressure", absolute = false, conditions: Conditions = {}) {
  const set: Conditions[] = [];
  render(<Known quantity={quantity} absolute={absolute} conditions={conditions} onSet={(next) => set.push(next)} />);
  return set;
}
const type = (text: string) => userEvent.type(screen.getByRole("textbox"), `${text}{Enter}`);

describe("what is known of the sensed quantity", () => {
  it("is a temperature as it is typed, and is taken back when it is cleared", async () => {
    const set = shown("temperature", false, { temperature: 20 });
    await userEvent.clear(screen.getByRole("textbox"));
    await type("25");
    expect(set).toEqual([{ temperature: 25 }]);
    await userEvent.clear(screen.getByRole("textbox"));
    await userEvent.keyboard("{Enter}");
    expect(set.at(-1)).toEqual({});
  });
  it("is called absolute where it is, and a vacuum gauge's figure is not taken for it", async () => {
    const set = shown("pressure", true);
    expect(screen.getByRole("textbox", { name: /^Absolute pressure, kPa/u })).toBeDefined();
    await type("-50");
    expect(screen.getByRole("alert").textContent).toMatch(/against the air outside/u);
    expect(set).toEqual([]);
    await userEvent.clear(screen.getByRole("textbox"));
    await type("51");
    expect(set).toEqual([{ pressure: 51 }]);
  });
  it("is what a gauge shows where the part senses against the air", () => {
    shown("pressure");
    expect(screen.getByRole("textbox", { name: /^Gauge shows, kPa/u })).toBeDefined();
  });
  it("asks about what looks like an altitude, and about another unit", async () => {
    const set = shown("pressure", true);
    await type("300 m");
    expect(screen.getByRole("alert").textContent).toMatch(/altitude/u);
    await userEvent.clear(screen.getByRole("textbox"));
    await type("12 V");
    expect(screen.getByRole("alert").textContent).toMatch(/kPa/u);
    expect(set).toEqual([]);
  });
});
