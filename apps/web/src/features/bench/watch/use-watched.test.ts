/** @jest-environment jsdom */
import { act, renderHook } from "@testing-library/react";
import { circuitView } from "../../../../test/views";
import type { Bench } from "../use-bench";
import { useWatched } from "./use-watched";

type Answer = { data?: { values: readonly unknown[] }; error?: unknown };
const mockRead = jest.fn<Promise<Answer>, unknown[]>();
const mockTones: boolean[] = [];
jest.mock("../../../app/api", () => ({
  useReadInstrumentsMutation: () => [mockRead],
  reasonOf: (error: { message?: string } | null) => error?.message ?? null,
}));
jest.mock("../../../circuit/use-analysis", () => ({
  useWindows: () => [
    { low: 11, high: 13, unit: "V" },
    { low: 0, high: 5.2, unit: "V" },
    { low: null, high: 0.1, unit: "V" },
  ],
}));
jest.mock("../../../ui/tone", () => ({ sound: (good: boolean) => mockTones.push(good) }));

const CAM = circuitView("cam", "Cam");
const entered: unknown[] = [];
const bench = { job: { id: "j1" }, diagnosed: null, test: null, enterReadings: (readings: unknown[]) => entered.push(...readings) } as unknown as Bench;

/** The hook while something is watched; `tick` reads all lines once more. */
function watching(toned = true) {
  const closed = jest.fn();
  const hook = renderHook(() => useWatched({ bench, circuit: CAM, open: true, toned, onEntered: closed }));
  const tick = async (): Promise<void> => {
    await act(async () => {
      await jest.advanceTimersByTimeAsync(400);
    });
  };
  return { hook, tick, closed };
}
const shows = (...values: readonly number[]) => mockRead.mockResolvedValueOnce({ data: { values } });

beforeEach(() => {
  jest.useFakeTimers();
  mockRead.mockReset();
  mockTones.length = 0;
  entered.length = 0;
});
afterEach(() => jest.useRealTimers());

describe("lines that are watched together", () => {
  it("say which of them left its window first, and where", async () => {
    const { hook, tick } = watching();
    act(() => hook.result.current.start());
    shows(12.2, 4.9, 0.02);
    await tick();
    expect(hook.result.current.earliest).toBe(-1);
    act(() => hook.result.current.setPlace("C1"));
    shows(3, 4.9, 0.02);
    await tick();
    shows(0.2, 9, 0.02);
    await tick();
    expect(hook.result.current.earliest).toBe(0);
    expect(hook.result.current.gone).toMatchObject({ place: "C1", values: [3, 4.9, 0.02] });
    expect(mockTones).toEqual([false, false]);
    expect(mockRead).toHaveBeenLastCalledWith({
      job: "j1",
      measurements: expect.arrayContaining([expect.objectContaining({ red: "feed@sensor", setup: { stimulus: { kind: "wiggle", at: "C1" } } })]),
    });
  });
  it("become one reading of the signal: its lowest and highest, where it failed, and that it did", async () => {
    const { hook, tick, closed } = watching(false);
    act(() => hook.result.current.start());
    act(() => hook.result.current.setPlace("sensor"));
    shows(12.2, 4.9, 0.02);
    await tick();
    shows(12.2, 8.04, 0.02);
    await tick();
    act(() => hook.result.current.enter());
    expect(entered).toEqual([
      {
        minutes: 0.5,
        reading: {
          circuit: "cam",
          meter: "volts-dc",
          red: "sig@sensor",
          black: "bat-",
          setup: { stimulus: { kind: "wiggle", at: "sensor" } },
          record: "min-max",
          value: { min: 4.9, max: 8.04 },
          symptom: true,
        },
      },
    ]);
    expect(closed).toHaveBeenCalledTimes(1);
    expect(hook.result.current.running).toBe(false);
    expect(mockTones).toEqual([]);
  });
  it("stop with the reason where the instrument does not answer", async () => {
    const { hook, tick } = watching();
    act(() => hook.result.current.start());
    mockRead.mockResolvedValueOnce({ error: { message: "The instrument is switched off." } });
    await tick();
    expect(hook.result.current.problem).toBe("The instrument is switched off.");
    expect(hook.result.current.running).toBe(false);
    await tick();
    expect(mockRead).toHaveBeenCalledTimes(1);
  });
});
