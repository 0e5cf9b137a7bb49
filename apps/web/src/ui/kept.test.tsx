/** @jest-environment jsdom */
import { act, renderHook } from "@testing-library/react";
import { useKept } from "./kept";

const NAME = "fox-lamp/typed/drive 1";
afterEach(() => sessionStorage.clear());

describe("what was typed", () => {
  it("is there when the form comes back, and gone once it is sent", () => {
    const first = renderHook(() => useKept("drive 1", ""));
    act(() => first.result.current[1]("12 km"));
    first.unmount();
    const again = renderHook(() => useKept("drive 1", ""));
    expect(again.result.current[0]).toBe("12 km");
    act(() => again.result.current[1](""));
    expect(sessionStorage.getItem(NAME)).toBeNull();
    again.unmount();
    expect(renderHook(() => useKept("drive 1", "")).result.current[0]).toBe("");
  });
  it("belongs to one form: another name has its own", () => {
    const form = renderHook(({ name }) => useKept(name, "none"), { initialProps: { name: "drive 1" } });
    act(() => form.result.current[1]("far"));
    form.rerender({ name: "drive 2" });
    expect(form.result.current[0]).toBe("none");
    form.rerender({ name: "drive 1" });
    expect(form.result.current[0]).toBe("far");
  });
  it("starts anew where what is stored cannot be read", () => {
    sessionStorage.setItem(NAME, "{");
    expect(renderHook(() => useKept("drive 1", "nothing")).result.current[0]).toBe("nothing");
  });
  it("keeps whole drafts", () => {
    const form = renderHook(() => useKept("part 1", { number: "", same: true }));
    act(() => form.result.current[1]({ number: "77-1", same: false }));
    form.unmount();
    expect(renderHook(() => useKept("part 1", { number: "", same: true })).result.current[0]).toEqual({ number: "77-1", same: false });
  });
});
