/** @jest-environment jsdom */
import type { Diagnosis } from "@fox-lamp/language";
import { act, renderHook } from "@testing-library/react";
import { type Judging, useSlipQuestions } from "./use-slip-questions";

const reading = (name: string): Judging => ({ entry: `e-${name}`, name, test: "t", value: 12, unit: "V" });
const doubt = (name: string) => ({ reading: name, why: `${name} does not fit`, suggested: null, probability: 0.9 }) as Diagnosis["doubtful"][number];
const taken = (...names: string[]) => names.map((name) => ({ entry: `e-${name}` }));

function asked(first: Parameters<typeof useSlipQuestions>[0]) {
  return renderHook((judged: Parameters<typeof useSlipQuestions>[0]) => useSlipQuestions(judged), { initialProps: first });
}

describe("questions about readings that do not fit", () => {
  it("wait for the analysis, come one after the other, and each only once", () => {
    const { result, rerender } = asked({ readings: taken("r1", "r2"), doubtful: null, typing: false });
    act(() => result.current.judge(reading("r1")));
    act(() => result.current.judge(reading("r2")));
    expect([result.current.question, result.current.pending]).toEqual([null, true]);
    rerender({ readings: taken("r1", "r2"), doubtful: [doubt("r1"), doubt("r2")], typing: false });
    expect(result.current.question?.name).toBe("r1");
    act(() => result.current.close());
    expect(result.current.question?.name).toBe("r2");
    act(() => result.current.close());
    expect([result.current.question, result.current.pending]).toEqual([null, false]);
  });
  it("wait while somebody types, and are not asked when a later reading settled them", () => {
    const { result, rerender } = asked({ readings: taken("r1", "r2"), doubtful: null, typing: false });
    act(() => result.current.judge(reading("r1")));
    rerender({ readings: taken("r1"), doubtful: [doubt("r1")], typing: true });
    expect([result.current.question, result.current.pending]).toEqual([null, false]);
    act(() => result.current.judge(reading("r2")));
    rerender({ readings: taken("r1", "r2"), doubtful: [doubt("r2")], typing: false });
    expect(result.current.question?.name).toBe("r2");
    act(() => result.current.close());
    expect(result.current.question).toBeNull();
  });
  it("are not asked about what was taken back, nor about what fits", () => {
    const { result, rerender } = asked({ readings: [], doubtful: null, typing: false });
    act(() => result.current.judge(reading("r1")));
    act(() => result.current.judge(reading("r2")));
    rerender({ readings: taken("r2"), doubtful: [doubt("r1")], typing: false });
    expect([result.current.question, result.current.pending]).toEqual([null, false]);
  });
});
