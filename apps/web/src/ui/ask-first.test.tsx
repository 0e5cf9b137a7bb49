/** @jest-environment jsdom */
import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { AskFirst } from "./AskFirst";

describe("what takes something away from others", () => {
  it("asks first, and does nothing where one leaves it", async () => {
    const done = jest.fn();
    render(<AskFirst label="Withdraw" title="Withdraw this invitation?" lead="It opens nothing any more." onYes={done} />);
    await userEvent.click(screen.getByRole("button", { name: "Withdraw" }));
    expect(screen.getByRole("dialog", { name: "Withdraw this invitation?" })).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "Leave it" }));
    expect(screen.queryByRole("dialog")).toBeNull();
    expect(done).not.toHaveBeenCalled();
  });
  it("does it once somebody says so", async () => {
    const done = jest.fn();
    render(<AskFirst label="End it" title="End this address?" lead="Whoever has it sees nothing any more." onYes={done} />);
    await userEvent.click(screen.getByRole("button", { name: "End it" }));
    await userEvent.click(screen.getAllByRole("button", { name: "End it" }).at(-1) as HTMLElement);
    expect(done).toHaveBeenCalledTimes(1);
    expect(screen.queryByRole("dialog")).toBeNull();
  });
});
