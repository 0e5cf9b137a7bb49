/** @jest-environment jsdom */
import type { Circuit } from "@fox-lamp/language";
import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { PercentOf } from "./PercentOf";

const PEDAL: Circuit = { id: "app", family: "dual-track", with: { track: 1800 } };

describe("what a percentage is a share of", () => {
  it("is asked when a percentage is typed, and goes on the sheet beside what stands there", async () => {
    const said: Circuit[] = [];
    render(<PercentOf circuit={PEDAL} text="43 %" onSay={(circuit) => said.push(circuit)} />);
    await userEvent.click(screen.getByRole("button", { name: "the reference" }));
    await userEvent.click(screen.getByRole("button", { name: "the opening" }));
    expect(said).toEqual([
      { ...PEDAL, with: { track: 1800, percentOf: "reference" } },
      { ...PEDAL, with: { track: 1800, percentOf: "opening" } },
    ]);
  });
  it.each<[string, Circuit | undefined, string]>([
    ["volts", PEDAL, "2.1"],
    ["a sheet that says it", { ...PEDAL, with: { percentOf: "opening" } }, "43 %"],
    ["a circuit whose module reports no percentage", { id: "ect", family: "thermistor-2w" }, "43 %"],
    ["no circuit at all", undefined, "43 %"],
  ])("is not asked for %s", (_name, circuit, text) => {
    const { container } = render(<PercentOf circuit={circuit} text={text} onSay={() => undefined} />);
    expect(container.childElementCount).toBe(0);
  });
});
