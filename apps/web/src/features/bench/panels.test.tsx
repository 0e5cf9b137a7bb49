/** @jest-environment jsdom */
import type { CircuitView, JobReading } from "@fox-lamp/core";
import type { Diagnosis, Value } from "@fox-lamp/language";
import { render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import type { ReactNode } from "react";
import { MemoryRouter } from "react-router";
import { messages } from "../../messages";
import { Questions } from "./entry/Questions";
import { ReadAgain } from "./proof/ReadAgain";
import { VerdictPanel } from "./proof/VerdictPanel";
import { Suspects } from "./suspects/Suspects";

const view = (id: string, title: string): CircuitView => ({
  id,
  title,
  part: "Valve",
  pins: [],
  quantity: "none",
  unit: "",
  absolute: false,
  left: "module",
  partUnit: "coil",
  stages: [],
  extras: [],
  body: false,
  members: [],
});
const CIRCUITS = [view("purge", "Purge valve"), view("swirl", "Swirl valve")];
const VERDICT: Diagnosis["verdict"] = {
  status: "proven",
  unit: "purge/coil",
  probability: 0.98,
  group: [],
  open: [],
  because: ["r1"],
  separate: null,
  refuted: [{ unit: "purge/wire:ctl", by: ["r1"] }],
};
const DIAGNOSIS: Diagnosis = {
  format: "fox-lamp/diagnosis@1",
  verdict: VERDICT,
  units: [{ unit: "purge/coil", probability: 0.98 }],
  healthy: 0.001,
  unknown: 0.002,
  suspects: [],
  doubtful: [],
  next: [],
};
const shown = (element: ReactNode): void => void render(<MemoryRouter>{element}</MemoryRouter>);

describe("the next test", () => {
  it("says why it is the next: what settles most, what a verdict owes, or what the sheet leaves out", () => {
    expect(messages.bench.next("2.7 min")).toBe("Next, settles most: 2.7 min");
    expect(messages.bench.next("2.7 min", "owed")).toBe("Next, owed before it is proven: 2.7 min");
    expect(messages.bench.next("4 min", "kind")).toBe("Next, shows what the sheet leaves out: 4 min");
  });
});

const panel = (diagnosis: Diagnosis, onRecord = (): void => undefined, passing = false) => (
  <VerdictPanel
    job="7"
    diagnosis={diagnosis}
    circuits={CIRCUITS}
    readings={[]}
    minutes={12.4}
    recorded={false}
    passing={passing}
    onRecord={onRecord}
    onAgain={() => undefined}
  />
);

describe("the verdict", () => {
  it("names what is proven besides, once, and the codes nobody explains", () => {
    shown(panel({ ...DIAGNOSIS, verdicts: [VERDICT, { ...VERDICT, unit: "swirl/coil" }], unexplained: ["P0141"] }));
    expect(screen.getByRole("heading", { level: 2 }).textContent).toContain("Purge valve");
    expect(screen.getByText(/Proven besides/u).textContent).toContain("Swirl valve");
    expect(screen.getByText(/Proven besides/u).textContent).not.toContain("Purge valve");
    expect(screen.getByText(/No verdict explains P0141/u)).toBeDefined();
  });
  it("says neither where there is nothing of the kind", () => {
    shown(panel(DIAGNOSIS));
    expect(screen.queryByText(/Proven besides|No verdict explains/u)).toBeNull();
  });
  it("is recorded once somebody says so, and a sound circuit is called sound", async () => {
    const record = jest.fn<void, []>();
    shown(panel({ ...DIAGNOSIS, verdict: { ...VERDICT, status: "nothing-found", unit: null } }, record));
    expect(screen.getByText("No fault found")).toBeDefined();
    expect(screen.getByRole("heading", { level: 2 }).textContent).toBe("Nothing wrong here");
    await userEvent.click(screen.getByRole("button", { name: "Record the verdict" }));
    expect(record).toHaveBeenCalledTimes(1);
  });
});

describe("a search that ended without a fault", () => {
  const ended = (verdict: Partial<Diagnosis["verdict"]>): void => {
    const units = [{ unit: "purge/contact:ctl@sensor", probability: 0.92 }];
    const status = { status: "nothing-found" as const, unit: null, group: [], probability: 0.06, open: ["purge/contact:ctl@sensor"] };
    shown(panel({ ...DIAGNOSIS, units, verdict: { ...VERDICT, ...status, ...verdict } }));
  };
  const heading = (): string | null => screen.getByRole("heading", { level: 2 }).textContent;

  it("is not called sound where something leads that no reading settles", () => {
    ended({});
    expect(heading()).toBe("Nothing was settled");
    expect(screen.queryByText(/6 %/u)).toBeNull();
    expect(screen.getByText(/92 %/u)).toBeDefined();
  });
  it("says that a plug only looks bad", () => {
    ended({ seen: ["purge/contact:ctl@sensor"] });
    expect(heading()).toBe("All that was measured is sound");
  });
});

describe("a reading a verdict hangs on", () => {
  const taken: JobReading = {
    entry: "e1",
    at: "2026-11-02T09:00:00.000Z",
    minutes: 2,
    reading: { id: "r4", circuit: "purge", meter: "ohms", red: "feed@part", black: "ctl@part", setup: { key: "off", open: ["sensor"] }, value: "OL" },
  } as unknown as JobReading;
  const confirm = [{ reading: "r4", without: 0.2, why: "Without OL at r4 this would not be proven. Read it once more before anything is replaced." }];

  it("is read once more where the verdict stands, in a field of its own, and bad input is refused there", async () => {
    const again = jest.fn<void, [JobReading, Value, string?]>();
    shown(<ReadAgain confirm={confirm} readings={[taken]} circuits={CIRCUITS} onAgain={again} />);
    expect(screen.getByText(/would not be proven/u)).toBeDefined();
    await userEvent.click(screen.getByRole("button", { name: "Read it once more" }));
    const field = screen.getByLabelText("r4, read once more");
    await userEvent.type(field, "much{Enter}");
    expect(screen.getByRole("alert").textContent).not.toBe("");
    expect(again).not.toHaveBeenCalled();
    await userEvent.clear(field);
    await userEvent.type(field, "24.3{Enter}");
    expect(again).toHaveBeenCalledTimes(1);
    expect(again.mock.calls[0]?.[1]).toBe(24.3);
  });
  it("is not asked for where it was taken back", () => {
    shown(<ReadAgain confirm={confirm} readings={[]} circuits={CIRCUITS} onAgain={() => undefined} />);
    expect(screen.queryByRole("button")).toBeNull();
  });
});

describe("a fault that comes and goes", () => {
  it("did not show itself: nobody calls the circuit sound, and no probability is said", () => {
    const verdict: Diagnosis["verdict"] = { ...VERDICT, status: "nothing-found", unit: null, probability: 0.2 };
    shown(
      <VerdictPanel
        job="7"
        diagnosis={{ ...DIAGNOSIS, verdict }}
        circuits={CIRCUITS}
        readings={[]}
        minutes={30}
        recorded={false}
        passing
        onRecord={() => undefined}
        onAgain={() => undefined}
      />,
    );
    expect(screen.getByText("Not reproduced on the bench")).toBeDefined();
    expect(screen.getByRole("heading", { level: 2 }).textContent).toBe("The fault did not show itself");
    expect(screen.queryByText(/20 %|Nothing wrong/u)).toBeNull();
  });
});

describe("the suspects", () => {
  const list = (diagnosis: Diagnosis, measured = true) => (
    <Suspects diagnosis={diagnosis} circuits={CIRCUITS} selected={null} onSelect={() => undefined} measured={measured} whyNot={null} onTest={() => undefined} />
  );
  const names = (): string[] =>
    within(screen.getByRole("region", { name: messages.bench.suspects }))
      .getAllByRole("button")
      .map(({ textContent }) => textContent ?? "");

  it("stand by weight, with a fault nobody knows among them where it weighs", () => {
    shown(list({ ...DIAGNOSIS, units: [{ unit: "purge/coil", probability: 0.2 }], healthy: 0.1, unknown: 0.7 }));
    expect(names().map((name) => name.replace(/\d.*$/u, ""))).toEqual(["A fault not known here", expect.stringContaining("Purge valve"), "Nothing wrong here"]);
  });
  it("leave it out where it does not", () => {
    shown(list(DIAGNOSIS));
    expect(names()).toEqual([expect.stringMatching(/Purge valve.*98 %/u)]);
  });
  it("say how many were ruled out, and behind that each with the reading that did", async () => {
    shown(list(DIAGNOSIS));
    const ruledOut = within(screen.getByRole("region", { name: messages.bench.cleared }));
    expect(ruledOut.getAllByRole("button").map(({ textContent }) => textContent)).toEqual(["1 ruled out"]);
    await userEvent.click(ruledOut.getByRole("button"));
    expect(ruledOut.getAllByRole("button").at(-1)?.textContent).toMatch(/control.*by r1/iu);
    await userEvent.click(ruledOut.getByRole("button", { name: "1 ruled out" }));
    expect(ruledOut.getAllByRole("button")).toHaveLength(1);
  });
  it("say before any reading that these are only how often each is met", () => {
    shown(list(DIAGNOSIS, false));
    expect(screen.getByText(/Before any reading/u)).toBeDefined();
  });
});

describe("what is worth looking up", () => {
  it("leads to the sheet of its circuit", () => {
    shown(<Questions job="7" circuits={CIRCUITS} questions={[{ circuit: "purge", parameter: "coil", title: "winding, ohm", gainBits: 0.3, minutes: 4 }]} />);
    const link = screen.getByRole("link", { name: /Purge valve: winding, Ω.*about 4 min/u });
    expect(link.getAttribute("href")).toBe("/jobs/7/sheet/purge");
  });
  it("is not there where nothing is", () => {
    shown(<Questions job="7" circuits={CIRCUITS} questions={[]} />);
    expect(screen.queryByRole("region")).toBeNull();
  });
});
