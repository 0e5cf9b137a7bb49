/** @jest-environment jsdom */
import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { WhichReference } from "./WhichReference";

const open = () => {
  const found: number[] = [];
  render(<WhichReference pin="reference" open onOpen={() => undefined} onFound={(volts) => found.push(volts)} />);
  return found;
};
const type = (label: RegExp, text: string) => userEvent.type(screen.getByLabelText(label), text);

describe("which reference it is", () => {
  it("settles 8 V with one measurement, and puts it on the sheet", async () => {
    const found = open();
    await type(/reference, key on/iu, "7.96");
    expect(screen.queryByRole("button", { name: /sheet/iu })).toBeNull();
    await type(/^battery, at the same moment/iu, "12.5");
    expect(screen.getByRole("status").textContent).toContain("8 V");
    await userEvent.click(screen.getByRole("button", { name: /8 V.*sheet/iu }));
    expect(found).toEqual([8]);
  });
  it("asks to move the battery where it may be the battery's own feed", async () => {
    const found = open();
    await type(/reference, key on/iu, "12.3");
    await type(/^battery, at the same moment/iu, "12,5");
    await type(/reference, engine running/iu, "13.9");
    await type(/battery, engine running/iu, "14.1");
    expect(screen.getByRole("status").textContent).toMatch(/battery/iu);
    await userEvent.click(screen.getByRole("button", { name: /12 V.*sheet/iu }));
    expect(found).toEqual([12]);
  });
  it("says what is no number and what is no reference", async () => {
    open();
    await type(/reference, key on/iu, "much");
    expect(screen.getByText(/"much"/u)).toBeTruthy();
    await userEvent.clear(screen.getByLabelText(/reference, key on/iu));
    await type(/reference, key on/iu, "3.1");
    await type(/^battery, at the same moment/iu, "12.5");
    expect(screen.getByRole("status").textContent).toMatch(/no reference/iu);
    expect(screen.queryByRole("button", { name: /sheet/iu })).toBeNull();
  });
});
