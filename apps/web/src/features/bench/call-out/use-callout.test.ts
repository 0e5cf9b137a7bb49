/** @jest-environment jsdom */
import { act, renderHook } from "@testing-library/react";
import type { Bench } from "../use-bench";
import { useCallout } from "./use-callout";

type Answer = { data?: unknown; error?: unknown };
const mockServer = {
  open: jest.fn<Promise<Answer>, unknown[]>(),
  put: jest.fn<Promise<Answer>, unknown[]>(),
  end: jest.fn<Promise<Answer>, unknown[]>(),
  read: jest.fn<Promise<Answer>, unknown[]>(),
};
const mockToasts: string[] = [];
jest.mock("../../../app/api", () => ({
  useOpenCalloutMutation: () => [mockServer.open],
  usePutCalloutMutation: () => [mockServer.put],
  useEndCalloutMutation: () => [mockServer.end],
  useReadInstrumentsMutation: () => [mockServer.read],
  reasonOf: ({ data }: { data?: { message?: string } }) => data?.message ?? null,
  statusOf: ({ status }: { status?: number }) => status,
}));
jest.mock("../../../ui/toast", () => ({ toast: { error: (text: string) => mockToasts.push(text) } }));

const TEST = {
  test: "t1",
  circuit: "ect",
  title: "Reference at the sensor, unplugged",
  meter: "volts-dc",
  red: "sig@sensor",
  black: "bat-",
  setup: { key: "on", open: ["sensor"] },
  expect: { low: 4.9, high: 5.1, nominal: 5 },
};
const TAKEN = { entry: "e1", reading: { id: "r1", circuit: "ect", meter: "volts-dc", red: "sig@sensor", black: "bat-", value: 4.98 } };

/** What the call-out needs of a bench. */
function bench(more: { text?: string; readings?: readonly unknown[]; simulated?: boolean; judging?: boolean } = {}): Bench {
  return {
    job: { id: "j1", vehicle: { name: "Unit 9" }, simulated: more.simulated ?? false },
    test: TEST,
    text: more.text ?? "",
    state: { readings: more.readings ?? [] },
    analysis: { windows: more.judging ? {} : { r1: { low: 4.9, high: 5.1, nominal: 5 } } },
  } as unknown as Bench;
}
const shown = (): Record<string, unknown> | undefined => (mockServer.put.mock.calls.at(-1)?.[0] as { state?: Record<string, unknown> })?.state;
const pass = (milliseconds: number): Promise<void> => act(() => jest.advanceTimersByTimeAsync(milliseconds));
async function switchedOn(first: Bench) {
  const hook = renderHook((now: Bench) => useCallout(now), { initialProps: first });
  await act(() => hook.result.current.start());
  await pass(130);
  return hook;
}

beforeEach(() => {
  jest.useFakeTimers();
  mockToasts.length = 0;
  mockServer.open.mockReset().mockResolvedValue({ data: { code: "ABCDEFGH23" } });
  mockServer.put.mockReset().mockResolvedValue({ data: null });
  mockServer.end.mockReset().mockResolvedValue({ data: null });
  mockServer.read.mockReset().mockResolvedValue({ data: { values: [4.99] } });
});
afterEach(() => jest.useRealTimers());

describe("a call-out", () => {
  it("shows nothing before it is switched on", async () => {
    renderHook(() => useCallout(bench({ text: "5" })));
    await pass(500);
    expect(mockServer.put).not.toHaveBeenCalled();
  });

  it("shows the test at hand, and what is typed against its window", async () => {
    const { result, rerender } = await switchedOn(bench());
    expect(result.current.code).toBe("ABCDEFGH23");
    expect(shown()).toMatchObject({ job: "j1", vehicle: "Unit 9", title: TEST.title, low: 4.9, high: 5.1, unit: "V", value: null, fits: null });
    rerender(bench({ text: "3.2" }));
    await pass(130);
    expect(shown()).toMatchObject({ value: 3.2, taken: false, fits: false });
    expect(mockServer.read).not.toHaveBeenCalled();
  });

  it("shows a taken reading for five seconds, then the test again; what was taken before is no news", async () => {
    const { rerender } = await switchedOn(bench({ readings: [{ ...TAKEN, entry: "e0", reading: { ...TAKEN.reading, id: "r0" } }] }));
    expect(shown()).toMatchObject({ taken: false });
    rerender(bench({ readings: [TAKEN] }));
    await pass(130);
    expect(shown()).toMatchObject({ value: 4.98, taken: true, fits: true });
    await pass(5000);
    await pass(130);
    expect(shown()).toMatchObject({ value: null, taken: false });
  });

  it("shows a taken reading until it is judged, and five seconds from then", async () => {
    const { rerender } = await switchedOn(bench());
    rerender(bench({ readings: [TAKEN], judging: true }));
    await pass(9000);
    expect(shown()).toMatchObject({ value: 4.98, taken: true, fits: null });
    rerender(bench({ readings: [TAKEN] }));
    await pass(4000);
    expect(shown()).toMatchObject({ taken: true, fits: true });
    await pass(1000);
    await pass(130);
    expect(shown()).toMatchObject({ taken: false });
  });

  it("reads a connected instrument", async () => {
    await switchedOn(bench({ simulated: true }));
    await pass(1250);
    await pass(130);
    expect(shown()).toMatchObject({ value: 4.99, fits: true });
  });

  it("is off where the server knows it no longer, and ends with the switch", async () => {
    const { result, rerender } = await switchedOn(bench());
    mockServer.put.mockResolvedValue({ error: { status: 404 } });
    rerender(bench({ text: "5" }));
    await pass(130);
    expect(result.current.code).toBeNull();
    mockServer.put.mockResolvedValue({ data: null });
    await act(() => result.current.start());
    act(() => result.current.stop());
    expect(mockServer.end.mock.calls).toEqual([["ABCDEFGH23"]]);
    expect(result.current.code).toBeNull();
  });

  it("says why it cannot be", async () => {
    mockServer.open.mockResolvedValue({ error: { data: { message: "there is no such job" } } });
    const { result } = renderHook(() => useCallout(bench()));
    await act(() => result.current.start());
    expect([result.current.code, mockToasts]).toEqual([null, ["there is no such job"]]);
  });
});
