/** @jest-environment jsdom */
import type { NextTest } from "@fox-lamp/language";
import { type Desk, type DeskAction, deskAfter, EMPTY_DESK, keepDesk, keptDesk, testAtHand } from "./desk";

const test = (name: string): NextTest => ({ test: name }) as NextTest;
const [first, second] = [test("first"), test("second")];
const scene = { test: test("own"), engineering: null, volts: {} };
const after = (...actions: DeskAction[]): Desk => actions.reduce(deskAfter, EMPTY_DESK);

describe("what is at hand on the bench", () => {
  it("keeps what is typed with the test it was typed for, whatever is advised meanwhile", () => {
    const typing = after({ do: "type", text: "4", test: first }, { do: "type", text: "4.9", test: second });
    expect(typing).toMatchObject({ text: "4.9", typedFor: first });
    expect(testAtHand(typing, [second])).toBe(first);
    expect(testAtHand(deskAfter(typing, { do: "type", text: "", test: second }), [second])).toBe(second);
  });
  it.each<[string, DeskAction, Partial<Desk>]>([
    [
      "a reading taken",
      { do: "taken" },
      { text: "", book: { text: "", source: "" }, typedFor: null, chosen: null, own: null, selected: null, symptom: null, focus: "map" },
    ],
    ["a test skipped", { do: "skipped" }, { text: "", typedFor: null, chosen: null, own: null, symptom: true }],
    ["another test chosen", { do: "choose", test: "second" }, { text: "", chosen: "second", own: null, selected: "u" }],
    ["a test of one's own", { do: "own", scene }, { text: "", own: scene }],
    ["one's own test left", { do: "own", scene: null }, { own: null }],
    ["another circuit shown", { do: "show", circuit: "cam" }, { focus: "cam", own: null, selected: null }],
    ["a unit asked about", { do: "select", unit: "v" }, { selected: "v", text: "4" }],
    ["the same unit again", { do: "select", unit: "u" }, { selected: null }],
  ])("%s leaves nothing behind that belonged to what was before", (_name, action, left) => {
    const busy: Desk = {
      text: "4",
      typedFor: first,
      chosen: "first",
      own: scene,
      book: { text: "4 to 5", source: "p. 7" },
      selected: "u",
      focus: "map",
      symptom: true,
    };
    expect(deskAfter(busy, action)).toMatchObject(left);
  });
  it("puts one's own test before what is chosen, and what is chosen before what is advised", () => {
    expect(testAtHand({ ...EMPTY_DESK, own: scene, chosen: "second" }, [first, second])?.test).toBe("own");
    expect(testAtHand({ ...EMPTY_DESK, chosen: "second" }, [first, second])).toBe(second);
    expect(testAtHand({ ...EMPTY_DESK, chosen: "gone" }, [first, second])).toBe(first);
    expect(testAtHand(EMPTY_DESK, [])).toBeNull();
  });
  it("keeps a half-typed value over a reload, for its job alone, until it is taken", () => {
    const typing = after({ do: "type", text: "4.9", test: first });
    keepDesk("j1", typing);
    expect(keptDesk("j1")).toEqual({ ...EMPTY_DESK, text: "4.9", typedFor: first });
    expect(keptDesk("j2")).toEqual(EMPTY_DESK);
    keepDesk("j1", deskAfter(typing, { do: "taken" }));
    expect(keptDesk("j1")).toEqual(EMPTY_DESK);
    sessionStorage.setItem("fox-lamp/desk/j1", "{ broken");
    expect(keptDesk("j1")).toEqual(EMPTY_DESK);
  });
});
