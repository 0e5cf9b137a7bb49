/** @jest-environment jsdom */
import { render, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { RemoveDialog } from "../../../ui/RemoveDialog";
import { SlipQuestion } from "./SlipQuestion";
import type { Question } from "./use-slip-questions";

const QUESTION: Question = {
  doubt: { reading: "r4", why: "It looks like the leads were swapped: 0.22 V would fit.", suggested: 0.22, probability: 0.9 } as Question["doubt"],
  entry: "e4",
  name: "r4",
  test: "t",
  value: -0.22,
  unit: "V",
};

describe("whether a reading fits is asked when it is in the record", () => {
  it.each([
    ["It was 0.22 V", { was: 0.22 }],
    ["Keep -0.22 V", "keep"],
    ["Take it back, measure again", "again"],
  ])("%s", async (name, said) => {
    const answers: unknown[] = [];
    render(<SlipQuestion question={QUESTION} onAnswer={(answer) => answers.push(answer)} />);
    await userEvent.click(screen.getByRole("button", { name: new RegExp(name.replace("-", "."), "u") }));
    expect(answers).toEqual([said]);
  });
  it("and closing the question loses nothing", async () => {
    const answers: unknown[] = [];
    render(<SlipQuestion question={{ ...QUESTION, doubt: { ...QUESTION.doubt, suggested: null } }} onAnswer={(answer) => answers.push(answer)} />);
    expect(screen.queryByRole("button", { name: /It was/u })).toBeNull();
    await userEvent.keyboard("{Escape}");
    expect(answers).toEqual(["keep"]);
  });
  it("and a key pressed for something else answers nothing", async () => {
    const answers: unknown[] = [];
    render(<SlipQuestion question={QUESTION} onAnswer={(answer) => answers.push(answer)} />);
    await waitFor(() => expect(document.activeElement).toBe(screen.getByRole("dialog")));
    await userEvent.keyboard("3.4{Enter} ");
    expect(answers).toEqual([]);
    await userEvent.tab();
    await userEvent.keyboard("{Enter}");
    expect(answers).toEqual([{ was: 0.22 }]);
  });
  it("lowest and highest are named as such", () => {
    render(<SlipQuestion question={{ ...QUESTION, value: { min: 0.2, max: 12.3 } }} onAnswer={() => undefined} />);
    expect(screen.getByRole("button", { name: "Keep 0.20 V to 12.3 V" })).toBeTruthy();
  });
  it("nobody is asked while nothing is in doubt", () => {
    render(<SlipQuestion question={null} onAnswer={() => undefined} />);
    expect(screen.queryByRole("dialog")).toBeNull();
  });
});

describe("taking something out for good", () => {
  const shown = (remove: (reason: string) => Promise<string | null>, onOpen: (open: boolean) => void = () => undefined) =>
    render(<RemoveDialog open onOpen={onOpen} title="Remove job 7 for good?" lead="Everything goes." remove={remove} />);
  it("asks why, and says what went wrong", async () => {
    const reasons: string[] = [];
    shown(async (reason) => {
      reasons.push(reason);
      return "there is no such job in this shop";
    });
    await userEvent.type(screen.getByLabelText("Why"), "  entered twice ");
    await userEvent.click(screen.getByRole("button", { name: "Remove it for good" }));
    expect(reasons).toEqual(["entered twice"]);
    await waitFor(() => expect(screen.getByText("there is no such job in this shop")).toBeTruthy());
  });
  it("needs a reason, and is easily left", async () => {
    const opened: boolean[] = [];
    let removed = 0;
    shown(
      async () => {
        removed += 1;
        return null;
      },
      (open) => opened.push(open),
    );
    await userEvent.click(screen.getByRole("button", { name: "Remove it for good" }));
    expect((screen.getByLabelText("Why") as HTMLInputElement).validity.valueMissing).toBe(true);
    await userEvent.click(screen.getByRole("button", { name: "Keep it" }));
    expect([removed, opened]).toEqual([0, [false]]);
  });
});
