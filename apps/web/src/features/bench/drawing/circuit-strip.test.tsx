/** @jest-environment jsdom */
import type { Diagnosis } from "@fox-lamp/language";
import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { circuitView } from "../../../../test/views";
import { CircuitStrip } from "./CircuitStrip";

let mockWide = true;
jest.mock("../../../ui/room", () => ({ useWide: () => mockWide }));

const CIRCUITS = [circuitView("map", "Manifold"), circuitView("tps", "Throttle")];
const diagnosis = {
  units: [
    { unit: "tps/wire:sig", probability: 0.6 },
    { unit: "tps/sensor", probability: 0.3 },
    { unit: "map/sensor", probability: 0.05 },
  ],
} as unknown as Diagnosis;
const shown: string[] = [];
const strip = (circuits = CIRCUITS) => render(<CircuitStrip circuits={circuits} diagnosis={diagnosis} shown="map" onShow={(circuit) => shown.push(circuit)} />);

beforeEach(() => {
  shown.length = 0;
});

describe("the circuits of a job", () => {
  it("stand side by side with what is suspected in each, where there is room", async () => {
    mockWide = true;
    strip();
    expect(screen.getByRole("button", { name: /Manifold/u }).getAttribute("aria-current")).toBe("true");
    await userEvent.click(screen.getByRole("button", { name: "Throttle 90 %" }));
    expect(shown).toEqual(["tps"]);
  });
  it("are a list to choose from where there is none: nothing is cut off, nothing scrolls sideways", async () => {
    mockWide = false;
    strip();
    const list = screen.getByRole("combobox", { name: "Circuits" });
    expect([...list.querySelectorAll("option")].map(({ textContent }) => textContent)).toEqual(["Manifold: 5 %", "Throttle: 90 %"]);
    await userEvent.selectOptions(list, "tps");
    expect(shown).toEqual(["tps"]);
  });
  it("are nothing to choose where there is one", () => {
    const { container } = strip(CIRCUITS.slice(0, 1));
    expect(container.textContent).toBe("");
  });
});
