/** @jest-environment jsdom */
import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { type LaneSettings, plainLanes, shownLanes } from "../lanes";
import { LanePanel } from "./LanePanel";

const NAMES = ["feed", "sig", "gnd"];
let last: LaneSettings = plainLanes(3);

function Held() {
  const [settings, setSettings] = useState(plainLanes(3));
  const [chosen, setChosen] = useState(1);
  last = settings;
  const { scale } = settings.of[chosen] ?? { scale: null };
  return (
    <LanePanel
      settings={settings}
      onSettings={setSettings}
      chosen={chosen}
      onChoose={setChosen}
      names={NAMES}
      unit="V"
      scale={scale ?? { low: -0.3, high: 5.4 }}
    />
  );
}

beforeEach(() => render(<Held />));

it("a channel's scale is typed; an end above the other is told and changes nothing", async () => {
  const top = screen.getByLabelText("Top, V");
  expect((top as HTMLInputElement).value).toBe("5.4");
  await userEvent.clear(top);
  await userEvent.type(top, "2,5");
  expect(last.of[1]?.scale).toEqual({ low: -0.3, high: 2.5 });
  const foot = screen.getByLabelText("Foot, V");
  await userEvent.clear(foot);
  await userEvent.type(foot, "9");
  expect(screen.getByRole("alert").textContent).toBe("Two numbers, the top above the foot.");
  expect(last.of[1]?.scale).toEqual({ low: -0.3, high: 2.5 });
  await userEvent.click(screen.getByRole("button", { name: "Fit" }));
  expect(last.of[1]?.scale).toBeNull();
});

it("coupling and smoothing are of the chosen channel alone", async () => {
  await userEvent.selectOptions(screen.getByLabelText("Coupling"), "ac");
  await userEvent.selectOptions(screen.getByLabelText("Smoothed over"), "1 ms");
  expect(last.of.map(({ coupling, filterSeconds }) => [coupling, filterSeconds])).toEqual([
    ["dc", 0],
    ["ac", 0.001],
    ["dc", 0],
  ]);
  await userEvent.selectOptions(screen.getByLabelText("Channel"), "gnd");
  expect((screen.getByLabelText("Coupling") as HTMLSelectElement).value).toBe("dc");
});

it("channels are moved and hidden, and come back with a touch; one always stays", async () => {
  await userEvent.click(screen.getByRole("button", { name: "Move the channel up" }));
  expect(shownLanes(last)).toEqual([1, 0, 2]);
  expect(screen.getByRole("button", { name: "Move the channel up" }).hasAttribute("disabled")).toBe(true);
  await userEvent.click(screen.getByRole("button", { name: "Hide the channel" }));
  await userEvent.click(screen.getByRole("button", { name: "Hide the channel" }));
  expect(shownLanes(last)).toEqual([2]);
  expect(screen.getByRole("button", { name: "Hide the channel" }).hasAttribute("disabled")).toBe(true);
  await userEvent.click(screen.getByRole("checkbox", { name: "sig" }));
  expect(shownLanes(last)).toEqual([1, 2]);
});
