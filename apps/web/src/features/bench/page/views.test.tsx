/** @jest-environment jsdom */
import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { type View, Views } from "./Views";

function Bench() {
  const [view, setView] = useState<View>("test");
  return <Views view={view} onView={setView} leading={0.98} readings={3} />;
}

describe("the views of a narrow bench", () => {
  it("say what stands behind them, and one of them is shown", async () => {
    render(<Bench />);
    const chosen = (): string[] =>
      screen
        .getAllByRole("tab")
        .filter((tab) => tab.getAttribute("aria-selected") === "true")
        .map(({ textContent }) => textContent?.trim() ?? "");
    expect(screen.getByRole("tab", { name: /98 %/u })).toBeDefined();
    const before = chosen();
    expect(before).toHaveLength(1);
    await userEvent.click(screen.getByRole("tab", { name: /3/u }));
    expect(chosen()).toEqual([expect.stringMatching(/^Readings/u)]);
  });
});
