/** @jest-environment jsdom */
import { foldJob, type Triage as TriageResult } from "@fox-lamp/core";
import { render, screen, within } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import type { Work } from "../shared/JobFrame";
import { Looks } from "./Looks";
import { Triage } from "./Triage";

const code = (name: string, role: TriageResult["codes"][number]["role"], circuits: string[] = [], followsFrom: string[] = []) => ({
  code: name,
  status: "current",
  title: `${name} in words`,
  circuits,
  followsFrom,
  role,
});
const TRIAGE: TriageResult = {
  codes: [code("P0107", "same-line", ["map"]), code("P0122", "cause", ["tps"]), code("P0016", "consequence", [], ["P0340"]), code("P0340", "apart")],
  groups: [
    {
      codes: ["P0107", "P0122"],
      circuits: ["map", "tps"],
      shared: ["the reference of 5 V reference A"],
      probability: 0.9,
      causes: [],
      sentence: "One fault could explain these two codes.",
    },
  ],
  order: [],
  tree: {
    shared: [],
    trunk: { title: "5 V reference A", probability: 0.4 },
    branches: [
      { circuit: "tps", title: "Throttle position", probability: 0.35, minutes: 2, codes: ["P0122"] },
      { circuit: "egr", title: "EGR lift", probability: 0.25, minutes: 6, codes: [] },
    ],
  },
  looks: [],
  lookAt: [],
};

describe("the picture of triage", () => {
  it("has what is shared as a trunk, and each circuit as a branch with odds, way and codes", () => {
    render(<Triage triage={TRIAGE} />);
    const [throttle, lift] = screen.getAllByRole("listitem");
    expect(screen.getByText("5 V reference A")).toBeTruthy();
    expect(throttle?.textContent).toMatch(/Throttle position.*35 %.*P0122.*2 min to reach/u);
    // What hangs on the line without a code may be the one that drags it.
    expect(lift?.textContent).toMatch(/EGR lift.*25 %.*no code.*6 min to reach/u);
  });
  it("sorts the codes: cause, same line, consequence, apart", () => {
    render(<Triage triage={TRIAGE} />);
    const of = (term: string) => screen.getByText(term).nextElementSibling?.textContent ?? "";
    expect(of("Cause")).toContain("P0122");
    expect(of("Same line")).toContain("P0107");
    expect(of("Follows from another")).toContain("can be a consequence of P0340");
    expect(of("Apart: this does not explain them; these stay")).toContain("P0340");
  });
});

describe("a look before touching", () => {
  const CIRCUIT = { id: "ect", family: "thermistor-2w", title: "Coolant temperature" };
  const LOOK = { circuit: "ect", at: "sensor", question: "Is the connector seated?" };
  /** The looks of a job in which these were seen, and what is entered. */
  function shown(...seen: string[]) {
    const entries = seen.map((value, index) => ({
      id: `e${index}`,
      at: "2026-03-02T08:00:00Z",
      by: "Wren",
      seq: index + 1,
      kind: "reading",
      body: { reading: { id: `r${index + 1}`, circuit: "ect", meter: "look", red: "sensor", value } },
    }));
    const entered: { kind: string; body: Record<string, unknown> }[] = [];
    const enter = (...drafts: typeof entered) => entered.push(...drafts);
    const work = { job: { circuits: [CIRCUIT] }, state: foldJob(entries as never), enter } as unknown as Work;
    render(<Looks looks={[LOOK]} work={work} />);
    return { entered, row: screen.getAllByRole("listitem")[0] as HTMLElement };
  }
  const press = (row: HTMLElement, name: string) => userEvent.click(within(row).getByRole("button", { name }));
  const isOn = (row: HTMLElement, name: string) => within(row).getByRole("button", { name }).getAttribute("aria-pressed");

  it("is answered where it is asked, with several things seen at one place", async () => {
    const { entered, row } = shown("wet");
    expect([isOn(row, "Wet"), isOn(row, "Chafed")]).toEqual(["true", "false"]);
    await press(row, "Chafed");
    expect(entered).toEqual([
      { kind: "reading", body: { reading: expect.objectContaining({ id: "r2", meter: "look", red: "sensor", value: "chafed" }), minutes: 1 } },
    ]);
  });
  it("takes back what was seen when it is pressed again", async () => {
    const { entered, row } = shown("wet", "chafed");
    await press(row, "Wet");
    expect(entered).toEqual([{ kind: "retraction", body: { entry: "e0" } }]);
  });
  it("that finds all fine takes back what was wrong, and a place that cannot be seen costs no time", async () => {
    const first = shown("wet", "chafed");
    await press(first.row, "Looks fine");
    expect(first.entered.map(({ kind }) => kind)).toEqual(["retraction", "retraction", "reading"]);
    await press(first.row, "Cannot be seen");
    expect(first.entered.at(-1)?.body).toMatchObject({ reading: { value: "cannot-see" }, minutes: 0 });
  });
  it("can be taken anywhere else too", async () => {
    shown();
    await userEvent.selectOptions(screen.getByLabelText("Where"), "along its loom");
    await userEvent.click(screen.getByRole("button", { name: "Look there too" }));
    expect(screen.getAllByRole("listitem")).toHaveLength(2);
    expect(screen.getAllByRole("listitem")[1]?.textContent).toContain("Coolant temperature, along its loom");
  });
});
