/** @jest-environment jsdom */
import type { CircuitView } from "@fox-lamp/core";
import type { NextTest, Value } from "@fox-lamp/language";
import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { createRef, useState } from "react";
import { MemoryRouter } from "react-router";
import { NO_BOOK } from "../desk";
import { NextPanel } from "./NextPanel";

jest.mock("../../../ui/room", () => ({ useKeypad: () => false }));

const CIRCUITS = [
  { id: "map", title: "Manifold" },
  { id: "tps", title: "Throttle" },
] as unknown as CircuitView[];
const MOVED = {
  test: "map moved",
  circuit: "map",
  title: "What the module reads while the module connector is moved",
  meter: "scan",
  red: "sig@module",
  black: null,
  setup: { stimulus: { kind: "wiggle", at: "module" } },
  expect: { low: 3.6, high: 4.2, unit: "V" },
  gainBits: 0.3,
  minutes: 9.2,
  technique: "T8",
  proves: "A bad contact shows when it is moved.",
  needs: ["scan"],
  why: "",
  ifLow: null,
  ifExpected: null,
  ifHigh: null,
  outcomes: [],
  cautions: ["Hands clear of the fan."],
} as unknown as NextTest;
const ALONG = { ...MOVED, along: [{ test: "tps moved", circuit: "tps", title: "What the module reads while the module connector is moved" }] } as NextTest;

function Panel({ test, onTake }: { test: NextTest; onTake: (value: Value) => void }) {
  const [text, setText] = useState("");
  const none = () => undefined;
  return (
    <NextPanel
      circuit={undefined}
      circuits={CIRCUITS}
      tests={[test]}
      test={test}
      engineering={undefined}
      text={text}
      onText={setText}
      onTake={onTake}
      onChoose={none}
      onSkip={none}
      busy={false}
      inputRef={createRef()}
      othersOpen={false}
      onOthers={none}
      skipOpen={false}
      onSkipping={none}
      onOwn={none}
      onCavity={none}
      onLeaveOwn={null}
      onRead={null}
      reading={false}
      same={null}
      book={NO_BOOK}
      shelf={null}
      onBook={none}
      drawing={null}
      limit={null}
    />
  );
}
const shown = (test: NextTest, onTake: (value: Value) => void = () => undefined) =>
  render(
    <MemoryRouter>
      <Panel test={test} onTake={onTake} />
    </MemoryRouter>,
  );

describe("the next test on the bench", () => {
  it("names what stands on the same screen before the plug is moved, with its circuit", () => {
    shown(ALONG);
    expect(screen.getByText(/In the same go, note too/u).textContent).toBe(
      "In the same go, note too: Throttle: what the module reads while the module connector is moved.",
    );
  });

  it("names nothing where nothing else is worth a look", () => {
    shown(MOVED);
    expect(screen.queryByText(/In the same go/u)).toBeNull();
    expect(screen.getByText("Hands clear of the fan.")).toBeDefined();
  });

  it("takes the value that was read", async () => {
    const taken: Value[] = [];
    shown(ALONG, (value) => taken.push(value));
    await userEvent.type(screen.getByRole("textbox"), "3.9{Enter}");
    expect(taken).toEqual([3.9]);
  });
});
