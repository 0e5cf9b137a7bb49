/** @jest-environment jsdom */
import { act, renderHook } from "@testing-library/react";
import { useKeypad, useWide } from "./room";

let told: () => void = () => undefined;
let coarse = false;
beforeAll(() => {
  globalThis.ResizeObserver = class {
    constructor(tell: ResizeObserverCallback) {
      told = () => tell([], this as never);
    }
    observe = (): void => undefined;
    unobserve = (): void => undefined;
    disconnect = (): void => undefined;
  };
  globalThis.matchMedia = (() => ({ matches: coarse })) as never;
});
const room = (pixels: number, letters: number): void => {
  Object.defineProperty(document.body, "clientWidth", { value: pixels, configurable: true });
  document.documentElement.style.fontSize = `${letters}px`;
};

describe("the room there is", () => {
  it.each<[string, number, number, boolean, boolean, boolean]>([
    ["a laptop", 1280, 16, false, true, false],
    ["a laptop with large text", 1280, 24, false, false, false],
    ["a tablet", 800, 16, true, false, true],
    ["a phone", 390, 16, true, false, true],
    ["a phone's window on a laptop", 390, 16, false, false, true],
  ])("%s", (_name, pixels, letters, fingers, wide, keypad) => {
    room(pixels, letters);
    coarse = fingers;
    expect([renderHook(useWide).result.current, renderHook(useKeypad).result.current]).toEqual([wide, keypad]);
  });
  it("is looked at again when it changes", () => {
    room(1280, 16);
    const { result } = renderHook(useWide);
    expect(result.current).toBe(true);
    room(390, 16);
    act(told);
    expect(result.current).toBe(false);
  });
});
