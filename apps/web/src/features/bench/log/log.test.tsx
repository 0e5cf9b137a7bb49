/** @jest-environment jsdom */
import type { JobReading } from "@fox-lamp/core";
import { render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { MemoryRouter } from "react-router";
import { circuitView } from "../../../../test/views";
import { Log } from "./Log";

const CIRCUITS = [circuitView("cam", "Cam"), circuitView("map", "Manifold pressure")];
const taken = (id: string, circuit: string, value: number, more: object = {}): JobReading =>
  ({
    entry: `e-${id}`,
    at: "",
    by: "",
    minutes: 0.4,
    was: [],
    reading: { id, circuit, meter: "volts-dc", red: "sig@sensor", black: "bat-", value, ...more },
  }) as JobReading;
const READINGS = [taken("r1", "cam", 4.98), taken("r2", "map", 3.1, { limits: { low: 4.95, high: 5.05, source: "page 12" } })];

function shown(more: Partial<Parameters<typeof Log>[0]> = {}) {
  const done: unknown[] = [];
  render(
    <MemoryRouter>
      <Log
        calculators={{ r1: { calculator: "divider", given: { signal: 3.1 } } }}
        keep={() => null}
        split={({ value }) => (value === 3.1 ? "It passes by one book and fails by another." : null)}
        limitNotes={{ r1: [{ code: "conflict", sentence: "It passes by the book and fails by the circuit." }] }}
        job="j"
        readings={READINGS}
        windows={{ r1: { low: 4.83, high: 5.17, unit: "V" }, r2: { low: 4.83, high: 5.17, unit: "V" } }}
        doubtful={[]}
        circuits={CIRCUITS}
        onUndo={null}
        onTrace={(stretch) => done.push(["shown", stretch])}
        onCorrect={({ entry }, value, unit) => done.push(["corrected", entry, value, unit])}
        onTakeBack={(entry) => done.push(["taken back", entry])}
        policy={undefined}
        {...more}
      />
    </MemoryRouter>,
  );
  return done;
}

describe("the readings of a bench", () => {
  it("stand with the latest first, each with its circuit, its window and a book's limits", () => {
    shown();
    const [latest, first] = screen.getAllByRole("listitem");
    expect(latest?.textContent).toContain("Manifold pressure: signal at the sensor");
    expect(latest?.textContent).toContain("should be 4.83 to 5.17 V");
    expect(latest?.textContent).toContain("book: 4.95 to 5.05 V (page 12)");
    expect(latest?.textContent).toContain("outside the window");
    expect(first?.textContent).toContain("Cam: signal at the sensor");
    expect(first?.textContent).toContain("as it should be");
    // What is behind a reading is worked out elsewhere; what its limits come to stands beside it.
    expect(
      within(first as HTMLElement)
        .getByRole("link", { name: "Work it out" })
        .getAttribute("href"),
    ).toBe("/calculators/divider?signal=3.1&job=j");
    expect(first?.textContent).toContain("It passes by the book and fails by the circuit.");
    expect(within(latest as HTMLElement).queryByRole("link")).toBeNull();
  });
  it("are corrected as they would be typed on the bench, and taken back", async () => {
    const done = shown();
    await userEvent.click(screen.getByRole("button", { name: "Correct r1" }));
    const field = screen.getByRole("textbox", { name: /Corrected value of r1/u });
    await userEvent.type(field, "4.98 Hz{Enter}");
    expect(screen.getByRole("alert").textContent).toMatch(/in V, not in Hz/u);
    await userEvent.clear(field);
    await userEvent.type(field, "0.7 to 4.1{Enter}");
    await userEvent.click(screen.getByRole("button", { name: "Take r2 back" }));
    expect(done).toEqual([
      ["corrected", "e-r1", { min: 0.7, max: 4.1 }, undefined],
      ["taken back", "e-r2"],
    ]);
  });
  it("lead to the stretch of trace they were taken from, without leaving the bench", async () => {
    const stretch = { id: "c", channel: "cam:sig", from: 0.42, to: 0.5 };
    const done = shown({ readings: [taken("r1", "cam", 4.98, { capture: stretch }), taken("r2", "map", 3.1)] });
    await userEvent.click(screen.getByRole("button", { name: "Show it on the trace" }));
    expect(done).toEqual([["shown", stretch]]);
  });
  it("can be shown for one circuit alone, and say when there are none", async () => {
    shown();
    await userEvent.selectOptions(screen.getByLabelText("Only readings of"), "Cam");
    expect(screen.getAllByRole("listitem")).toHaveLength(1);
    screen.getByText(/^Cam: signal/u);
  });
  it("in doubt say why", () => {
    shown({ doubtful: [{ reading: "r1", probability: 0.8, why: "looks like the leads were swapped", slip: "swapped", suggested: -4.98 }] as never });
    const [, first] = screen.getAllByRole("listitem");
    expect(within(first as HTMLElement).getByText(/In doubt: looks like the leads were swapped/u)).toBeTruthy();
  });
});
