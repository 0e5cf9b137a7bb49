/** @jest-environment jsdom */
import type { DiagnosedJob } from "@fox-lamp/core";
import { act, renderHook } from "@testing-library/react";
import { kept } from "./analysis-service";
import { jobKey } from "./job-key";
import { useAhead } from "./use-ahead";

const mockForesee = jest.fn<Promise<unknown>, [DiagnosedJob]>();
jest.mock("./analysis-service", () => {
  const answers = new Map<number, unknown>();
  return {
    kept: answers,
    keep: (map: Map<number, unknown>, key: number, answer: unknown) => map.set(key, answer),
    analysisService: () => ({ foresee: mockForesee }),
  };
});

const job = (id: string): DiagnosedJob => ({ circuits: [{ id, family: "thermistor-2w" }] });
const pass = (ms: number) => act(() => jest.advanceTimersByTimeAsync(ms));

beforeEach(() => {
  jest.useFakeTimers();
  kept.clear();
  mockForesee.mockReset().mockImplementation(async (asked) => ({ ok: true, analysis: asked.circuits[0]?.id }));
});
afterEach(() => jest.useRealTimers());

describe("jobs analysed ahead", () => {
  it("are asked for once they have stood for a moment, one after the other, and found by their key", async () => {
    const [first, second] = [job("a"), job("b")];
    const both = [first, second];
    renderHook(() => useAhead(both));
    await pass(20);
    expect(mockForesee).not.toHaveBeenCalled();
    await pass(200);
    expect(mockForesee.mock.calls.map(([asked]) => asked.circuits[0]?.id)).toEqual(["a", "b"]);
    expect(kept.get(jobKey({ ...first }))).toEqual({ ok: true, analysis: "a" });
  });
  it("are let go when something else is typed in time, and what is known is not asked again", async () => {
    const lists = [[job("c")], [job("d")], [job("d")]] as const;
    const { rerender } = renderHook(({ at }: { at: 0 | 1 | 2 }) => useAhead(lists[at]), { initialProps: { at: 0 as 0 | 1 | 2 } });
    await pass(20);
    rerender({ at: 1 });
    await pass(200);
    rerender({ at: 2 });
    await pass(200);
    expect(mockForesee.mock.calls.map(([asked]) => asked.circuits[0]?.id)).toEqual(["d"]);
  });
  it("leave nothing behind where the worker says nothing, or is stopped", async () => {
    mockForesee.mockResolvedValueOnce(null).mockRejectedValueOnce(new Error("stopped"));
    const jobs = [job("e"), job("f")];
    renderHook(() => useAhead(jobs));
    await pass(200);
    expect(mockForesee).toHaveBeenCalledTimes(2);
    expect(kept.size).toBe(0);
  });
});
