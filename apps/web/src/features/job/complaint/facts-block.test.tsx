/** @jest-environment jsdom */
import { foldJob } from "@fox-lamp/core";
import type { Facts } from "@fox-lamp/language";
import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { FactsBlock } from "./FactsBlock";

/** A job in which these facts are known, and what is entered. */
function shown(facts: Facts = {}) {
  const entered: unknown[] = [];
  const state = { ...foldJob([]), facts, hints: ["heat"], conditions: { temperature: 20 } };
  render(<FactsBlock state={state} enter={((draft: { body: unknown }) => entered.push(draft.body)) as never} />);
  return entered;
}

describe("facts of a job", () => {
  it("are entered when they are said, with all that was known before", async () => {
    const entered = shown({ codes: "none" });
    await userEvent.selectOptions(screen.getByLabelText("Engine"), "Does not start");
    expect(entered).toEqual([{ temperature: 20, facts: { codes: "none", engine: "does-not-start" }, hints: ["heat"] }]);
  });
  it("are taken back by saying nothing of them", async () => {
    const entered = shown({ codes: "none", engine: "stalls" });
    await userEvent.selectOptions(screen.getByLabelText("Codes"), "not said");
    expect(entered).toEqual([{ temperature: 20, facts: { engine: "stalls" }, hints: ["heat"] }]);
  });
  it("know an altitude in metres, kilometres and feet, and refuse what is none", async () => {
    const entered = shown();
    const field = screen.getByLabelText("Altitude");
    await userEvent.type(field, "300 kPa");
    await userEvent.tab();
    expect(screen.getByRole("alert").textContent).toContain('"300 kPa" is no altitude');
    await userEvent.clear(field);
    await userEvent.type(field, "1.2 km");
    await userEvent.tab();
    expect(entered).toEqual([{ temperature: 20, facts: { altitudeMetres: 1200 }, hints: ["heat"] }]);
  });
  it("of the car's life are several", async () => {
    const entered = shown();
    await userEvent.click(screen.getByRole("checkbox", { name: "Water got in" }));
    await userEvent.click(screen.getByRole("checkbox", { name: "Great heat" }));
    expect(entered).toEqual([
      { temperature: 20, facts: {}, hints: ["heat", "water"] },
      { temperature: 20, facts: {}, hints: [] },
    ]);
  });
});
