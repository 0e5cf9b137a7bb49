/** @jest-environment jsdom */
import type { NextTest } from "@fox-lamp/language";
import { fireEvent, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { createRef, useState } from "react";
import { NO_BOOK } from "../desk";
import { BookLimits } from "./BookLimits";
import { Entry } from "./Entry";

let mockKeypad = false;
jest.mock("../../../ui/room", () => ({ useKeypad: () => mockKeypad }));

const test = (more: Partial<NextTest> = {}): NextTest =>
  ({ test: "t", title: "Signal at the sensor", meter: "volts-dc", red: "sig@sensor", black: "bat-", setup: {}, ...more }) as NextTest;
const taken: unknown[] = [];

/** A field as the bench has it: what is typed is kept by whoever shows it. */
function Field({ asked, same = null }: { asked: NextTest; same?: string | null }) {
  const [text, setText] = useState("");
  return (
    <Entry
      test={asked}
      also="degC"
      text={text}
      onText={setText}
      onTake={(value, unit) => taken.push([value, unit])}
      busy={false}
      inputRef={createRef()}
      onRead={null}
      reading={false}
      same={same}
    />
  );
}

/** A book's limits as the bench has them. */
function Book() {
  const [book, setBook] = useState(NO_BOOK);
  return <BookLimits unit="V" book={book} onBook={setBook} />;
}

beforeEach(() => {
  mockKeypad = false;
  taken.length = 0;
});

describe("the field of a reading", () => {
  it("turns the number into the sensor's own unit by a touch, and back", async () => {
    render(<Field asked={test({ meter: "scan", red: "sig@module" })} />);
    const field = screen.getByRole("textbox");
    await userEvent.type(field, "21");
    await userEvent.click(screen.getByRole("button", { name: "In °C instead" }));
    expect(field).toHaveProperty("value", "21 °C");
    await userEvent.click(screen.getByRole("button", { name: "In V instead" }));
    expect(field).toHaveProperty("value", "21");
    await userEvent.click(screen.getByRole("button", { name: "In °C instead" }));
    await userEvent.type(field, "{Enter}");
    expect(taken).toEqual([[21, "degC"]]);
  });
  it("takes numbers in shorthand, spans, and a further unit; says what is wrong and keeps it", async () => {
    render(<Field asked={test()} />);
    const field = screen.getByRole("textbox");
    for (const typed of ["180m", "0.7 to 4.1", "21 degC"]) {
      await userEvent.clear(field);
      await userEvent.type(field, `${typed}{Enter}`);
    }
    expect(taken).toEqual([
      [0.18, undefined],
      [{ min: 0.7, max: 4.1 }, undefined],
      [21, "degC"],
    ]);
    await userEvent.clear(field);
    await userEvent.type(field, "twelve{Enter}");
    expect(screen.getByRole("alert").textContent).toContain('"twelve" is not a reading');
    expect((field as HTMLInputElement).value).toBe("twelve");
    await userEvent.type(field, "{Backspace}");
    expect(screen.getByRole("alert").textContent).toBe("");
    expect(taken).toHaveLength(3);
  });
  it("takes a word once, though it is clicked twice in a moment: the second would answer the next test", async () => {
    render(<Field asked={test({ meter: "look", red: "loom" })} />);
    await userEvent.dblClick(screen.getByRole("button", { name: "Chafed" }));
    expect(taken).toEqual([["chafed", undefined]]);
    fireEvent.click(screen.getByRole("button", { name: "Wet" }), { detail: 1 });
    expect(taken).toHaveLength(2);
  });
  it("has a keypad of sixteen keys where fingers are used, rubs out, and puts OL whole", () => {
    mockKeypad = true;
    render(<Field asked={test({ meter: "ohms", red: "sig@part" })} />);
    const key = (name: string): void => void fireEvent.click(screen.getByText(name, { selector: "button[aria-hidden]" }));
    expect(screen.getAllByText(/.+/u, { selector: "button[aria-hidden]" })).toHaveLength(16);
    for (const name of ["4", "7", "k"]) key(name);
    fireEvent.click(screen.getByRole("button", { name: "Rub out the last sign" }));
    fireEvent.click(screen.getByRole("button", { name: "Take" }));
    key("OL");
    fireEvent.click(screen.getByRole("button", { name: "Take" }));
    expect(taken).toEqual([
      [47, undefined],
      ["OL", undefined],
    ]);
  });
  it("of a recording needs two numbers, and its keypad can say so", () => {
    mockKeypad = true;
    render(<Field asked={test({ record: "min-max" })} />);
    fireEvent.click(screen.getByText("4", { selector: "button[aria-hidden]" }));
    fireEvent.click(screen.getByRole("button", { name: "Take" }));
    expect(screen.getByRole("alert").textContent).toContain("the lowest and the highest");
    fireEvent.click(screen.getByText("to", { selector: "button[aria-hidden]" }));
    fireEvent.click(screen.getByText("5", { selector: "button[aria-hidden]" }));
    fireEvent.click(screen.getByRole("button", { name: "Take" }));
    expect(taken).toEqual([[{ min: 4, max: 5 }, undefined]]);
  });
  it("answers words with a button, and gives the last value again", async () => {
    const { rerender } = render(<Field asked={test({ meter: "lamp", red: "bat+" })} />);
    await userEvent.click(screen.getByRole("button", { name: "dim" }));
    expect(taken).toEqual([["dim", undefined]]);
    rerender(<Field asked={test()} same="4.98" />);
    await userEvent.click(screen.getByRole("button", { name: "Same again: 4.98" }));
    expect((screen.getByRole("textbox") as HTMLInputElement).value).toBe("4.98");
  });
});

it("a book's limits are asked for, read back, and refused in one sentence", async () => {
  render(<Book />);
  await userEvent.click(screen.getByRole("button", { name: "The book says something else?" }));
  const limits = screen.getByLabelText("The book says");
  await userEvent.type(limits, "about five");
  expect(screen.getByRole("alert").textContent).toContain('"about five" is no limit');
  await userEvent.clear(limits);
  await userEvent.type(limits, "5 ± 0.1");
  expect(screen.getByText("4.90 to 5.10 V")).toBeTruthy();
});
