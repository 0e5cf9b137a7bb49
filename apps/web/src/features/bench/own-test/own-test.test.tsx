/** @jest-environment jsdom */
import type { NextTest } from "@fox-lamp/language";
import { render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { circuitView } from "../../../../test/views";
import type { OwnAnswer } from "../../../circuit/use-analysis";
import { Combo } from "../../../ui/Combo";
import { type DraftPart, draftFor, measurementOfDraft } from "./draft";
import { LeadBoard } from "./LeadBoard";
import { Prediction } from "./Prediction";
import { PutIn } from "./PutIn";

const CAM = circuitView("cam", "Cam");
const MAP = circuitView("map", "Manifold pressure");

/** Parts as they are put in, and what the measurement then says of them. */
function Parts() {
  const [parts, setParts] = useState<readonly DraftPart[]>([]);
  const made = measurementOfDraft({ ...draftFor(CAM), add: parts });
  return (
    <>
      <PutIn parts={parts} circuit={CAM} circuits={[CAM, MAP]} problem={made.ok ? null : made.problem} onChange={setParts} />
      <output>{JSON.stringify(made.ok ? made.measurement.setup?.add : made.problem.field)}</output>
    </>
  );
}

describe("a list that is searched", () => {
  const options = [
    { value: "sig@sensor", label: "Signal at the sensor", group: "Cam" },
    { value: "gnd@sensor", label: "Ground at the sensor", group: "Cam" },
    { value: "map:gnd@sensor", label: "Ground at the sensor", group: "Manifold pressure" },
  ];
  it("shows what is chosen, and finds another by its words and its heading", async () => {
    const chosen: string[] = [];
    render(<Combo label="Red lead on" value="sig@sensor" options={options} onChange={(value) => chosen.push(value)} />);
    const field = screen.getByRole("combobox", { name: /Red lead on/u });
    expect(field.textContent).toContain("Signal at the sensor");
    await userEvent.click(field);
    await userEvent.keyboard("ground manifold");
    const list = screen.getByRole("dialog", { name: "Red lead on" });
    expect(
      within(list)
        .getAllByRole("option")
        .map(({ textContent }) => textContent),
    ).toEqual(["Ground at the sensor"]);
    await userEvent.keyboard("{Enter}");
    expect(chosen).toEqual(["map:gnd@sensor"]);
  });
  it("says when nothing is like that, and is left with Escape", async () => {
    const chosen: string[] = [];
    render(<Combo label="To" value="" placeholder="nothing" options={options} onChange={(value) => chosen.push(value)} />);
    await userEvent.click(screen.getByRole("combobox", { name: /To nothing/u }));
    await userEvent.keyboard("windscreen");
    expect(screen.getByText("Nothing like that here.")).toBeTruthy();
    await userEvent.keyboard("{Escape}");
    expect(chosen).toEqual([]);
  });
});

describe("leads put on by touch", () => {
  it("go where they are touched, red first, then black, and can be chosen", async () => {
    const put: string[] = [];
    render(<LeadBoard circuit={CAM} red="sig@sensor" black="bat-" onPut={(lead, point) => put.push(`${lead} ${point}`)} />);
    await userEvent.click(screen.getByRole("button", { name: "Red lead on feed at C1" }));
    await userEvent.click(screen.getByRole("button", { name: "Black lead on ground at the sensor" }));
    await userEvent.click(screen.getByRole("radio", { name: "Black" }));
    await userEvent.click(screen.getByRole("button", { name: "Black lead on signal on the part" }));
    expect(put).toEqual(["red feed@C1", "black gnd@sensor", "black sig@part"]);
    expect(screen.getByRole("button", { name: /signal at the sensor/u }).getAttribute("aria-pressed")).toBe("true");
  });
  it("are one with an instrument of one lead", async () => {
    const put: string[] = [];
    render(<LeadBoard circuit={CAM} red="sig@sensor" black={null} onPut={(lead, point) => put.push(`${lead} ${point}`)} />);
    expect(screen.queryByRole("radio", { name: "Black" })).toBeNull();
    for (const place of ["feed at the module", "feed at C1"]) await userEvent.click(screen.getByRole("button", { name: `Red lead on ${place}` }));
    expect(put).toEqual(["red feed@module", "red feed@C1"]);
  });
});

describe("what is put in", () => {
  it("is a jumper until something else is said; a resistor needs its ohms; all of it can be taken out", async () => {
    render(<Parts />);
    await userEvent.click(screen.getByRole("button", { name: "Put something in" }));
    expect(screen.getByRole("status").textContent).toBe('[{"kind":"jumper","from":"sig@sensor","to":"gnd@sensor"}]');
    await userEvent.selectOptions(screen.getByLabelText("What"), "Resistor");
    expect(screen.getByRole("status").textContent).toBe('"ohms0"');
    await userEvent.type(screen.getByLabelText("Ohms"), "much");
    expect(screen.getByRole("alert").textContent).toContain('"much" is no resistance');
    await userEvent.clear(screen.getByLabelText("Ohms"));
    await userEvent.type(screen.getByLabelText("Ohms"), "4k7");
    expect(screen.getByRole("status").textContent).toContain('"ohms":4700');
    await userEvent.click(screen.getByRole("button", { name: "Take out: Resistor" }));
    expect(screen.queryByLabelText("Ohms")).toBeNull();
  });
});

describe("what a test would show", () => {
  const test = {
    title: "Signal at the sensor to battery negative",
    meter: "volts-dc",
    expect: { low: 0.3, high: 5, unit: "V" },
    outcomes: [{ key: "low", label: "under 0.30 V", probability: 0.9, units: [{ unit: "cam/wire:sig", title: "", probability: 0.7 }] }],
    minutes: 0.4,
    gainBits: 0.6,
    cautions: ["Fused lead only."],
  } as unknown as NextTest;
  const answer = (own: NextTest): OwnAnswer => ({ ok: true, test: own, engineering: null, volts: {} });
  it("is said before anybody measures: window, outcomes, price, cautions", () => {
    render(<Prediction problem={null} answer={answer(test)} circuits={[CAM, MAP]} />);
    expect(screen.getByText("0.30 to 5.00 V")).toBeTruthy();
    expect(screen.getByText(/Signal wire, Cam 70 %/u)).toBeTruthy();
    expect(screen.getByText("25 s; settles much")).toBeTruthy();
    expect(screen.getByText("Fused lead only.")).toBeTruthy();
  });
  it("says what of its time is the way, and that one is there already", () => {
    const { rerender } = render(<Prediction problem={null} answer={answer({ ...test, minutes: 2.4, wayMinutes: 2 })} circuits={[CAM]} />);
    expect(screen.getByText("2.4 min; settles much; 2 min of that to get there")).toBeTruthy();
    rerender(<Prediction problem={null} answer={answer({ ...test, wayMinutes: 0 })} circuits={[CAM]} />);
    expect(screen.getByText("25 s; settles much; you are there already")).toBeTruthy();
  });
  it("or that nothing can be said; or what keeps it from being a test", () => {
    const { rerender } = render(
      <Prediction problem={null} answer={answer({ ...test, outcomes: [], expect: { low: null, high: null, unit: "" } })} circuits={[CAM]} />,
    );
    expect(screen.getByText(/Nothing can be said beforehand/u)).toBeTruthy();
    rerender(<Prediction problem={{ field: "leads", message: "Both leads are on the same point" }} answer={null} circuits={[CAM]} />);
    expect(screen.getByText("Both leads are on the same point")).toBeTruthy();
    expect(screen.queryByText(/Computing/u)).toBeNull();
    rerender(<Prediction problem={null} answer={{ ok: false, problem: { code: "x", where: "", message: "no pin" } }} circuits={[CAM]} />);
    expect(screen.getByText("no pin")).toBeTruthy();
  });
});
