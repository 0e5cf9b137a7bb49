/** @jest-environment jsdom */
import { circuitRules, foldJob, orderOfWork } from "@fox-lamp/core";
import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { MemoryRouter } from "react-router";
import type { Work } from "../shared/JobFrame";
import { Close } from "./Close";
import { ComplaintGone, Desired, Drive } from "./Drive";
import { StepCard } from "./StepCard";

let made = 0;
const entry = (kind: string, body: object) => {
  made += 1;
  return {
    id: `0195a000-0000-7000-8000-${String(made).padStart(12, "0")}`,
    at: `2026-03-02T08:${String(made).padStart(2, "0")}:00Z`,
    by: "Wren",
    seq: made,
    kind,
    body,
  } as never;
};
const CIRCUITS = [
  { id: "ect", family: "thermistor-2w", title: "Coolant temperature" },
  { id: "map", family: "pressure-3w", title: "Manifold pressure" },
];

/** A job as its pages work on it, and what is entered there. */
function workOf(...entries: never[]): { work: Work; entered: { kind: string; body: Record<string, unknown> }[] } {
  const state = foldJob(entries);
  const entered: { kind: string; body: Record<string, unknown> }[] = [];
  const enter = (...drafts: { kind: string; body: Record<string, unknown> }[]) => {
    entered.push(...drafts);
    return drafts.map((_, index) => `${index}`);
  };
  const job = { id: "j1", number: 12, circuits: CIRCUITS, entries, simulated: false, bench: null };
  return { work: { job, state, shop: undefined, steps: orderOfWork(CIRCUITS, state, null, circuitRules.cleanable), enter } as unknown as Work, entered };
}
const shown = (element: React.ReactElement) => render(<MemoryRouter>{element}</MemoryRouter>);
beforeEach(() => {
  made = 0;
  sessionStorage.clear();
});

describe("a step of the check", () => {
  const card = (more: object) => (
    <ol>
      <StepCard number={2} title="Clear the codes" done={false} lit={false} open={false} onOpen={() => undefined} line="Cleared 2 Mar." {...more}>
        <p>the step itself</p>
      </StepCard>
    </ol>
  );
  it("says what came of it in a line while it is folded, and shows itself when it is open", () => {
    const { rerender } = render(card({ done: true }));
    expect(screen.getByText("Cleared 2 Mar.")).toBeTruthy();
    expect(screen.queryByText("the step itself")).toBeNull();
    rerender(card({ done: true, open: true }));
    expect(screen.getByText("the step itself")).toBeTruthy();
    expect(screen.queryByText("Cleared 2 Mar.")).toBeNull();
  });
  it("is the one to do now where it is lit, said to those who do not see it too", () => {
    render(card({ lit: true }));
    expect(screen.getByRole("region", { name: "Clear the codes" }).getAttribute("aria-current")).toBe("step");
    expect(screen.getByRole("button", { name: "Step 2, Clear the codes, now" }).getAttribute("aria-expanded")).toBe("false");
  });
  it("opens and folds when it is asked to", async () => {
    const asked: boolean[] = [];
    render(card({ onOpen: (open: boolean) => asked.push(open) }));
    await userEvent.click(screen.getByRole("button"));
    expect(asked).toEqual([true]);
  });
});

describe("the drive", () => {
  it("is entered with what was seen; what is typed is still there when one comes back", async () => {
    const { work, entered } = workOf();
    const { unmount } = shown(<Drive work={work} />);
    await userEvent.type(screen.getByLabelText("Driven, with what was seen"), "12 km uphill");
    unmount();
    shown(<Drive work={work} />);
    expect((screen.getByLabelText("Driven, with what was seen") as HTMLTextAreaElement).value).toBe("12 km uphill");
    await userEvent.click(screen.getByRole("button", { name: "Save" }));
    expect(entered).toEqual([{ kind: "verification", body: { text: "12 km uphill", check: "drive", fits: true } }]);
    expect((screen.getByLabelText("Driven, with what was seen") as HTMLTextAreaElement).value).toBe("");
  });
});

describe("the complaint", () => {
  it("that is still there goes back to the bench, and stays in the record", async () => {
    const { work, entered } = workOf(entry("complaint", { text: "Stalls" }));
    shown(<ComplaintGone work={work} />);
    expect(screen.getByText("Stalls")).toBeTruthy();
    await userEvent.click(screen.getByRole("button", { name: "It is still there" }));
    expect(entered.map(({ kind }) => kind)).toEqual(["verification", "stage"]);
    expect(entered[0]?.body).toMatchObject({ check: "complaint", fits: false });
  });
});

describe("desired against actual", () => {
  it("takes values in whatever unit the scan device shows, and says which of them is none", async () => {
    const { work, entered } = workOf();
    shown(<Desired work={work} />);
    await userEvent.selectOptions(screen.getByLabelText("Circuit"), "Manifold pressure");
    await userEvent.type(screen.getByLabelText("Desired"), "35 kPa");
    await userEvent.type(screen.getByLabelText("Actual"), "about the same");
    await userEvent.click(screen.getByRole("button", { name: "Take" }));
    expect(screen.getByRole("alert").textContent).toContain("about the same");
    expect(entered).toEqual([]);
    await userEvent.clear(screen.getByLabelText("Actual"));
    await userEvent.type(screen.getByLabelText("Actual"), "36 kPa");
    await userEvent.click(screen.getByRole("button", { name: "Take" }));
    expect(entered[0]?.body).toEqual({ text: "Manifold pressure: desired 35.0 kPa, actual 36.0 kPa", check: "desired", fits: true });
  });
});

describe("the end of a job", () => {
  const READING = entry("reading", { reading: { id: "r1", circuit: "ect", meter: "volts-dc", red: "sig@sensor", black: "bat-", value: 4.9 } });
  it("says what it lacks, and is not to be had before", () => {
    const { work } = workOf(entry("complaint", { text: "Stalls" }));
    shown(<Close work={work} />);
    expect(screen.getByText(/verdict recorded, repair written down/iu)).toBeTruthy();
    expect((screen.getByRole("button", { name: "Close the job" }) as HTMLButtonElement).disabled).toBe(true);
  });
  it("asks why, where a repeated test is still outside", async () => {
    const again = entry("verification", { text: "again", check: "repeat", of: (READING as { id: string }).id, fits: false });
    const { work, entered } = workOf(
      entry("complaint", { text: "Stalls" }),
      READING,
      entry("stage", { stage: "check" }),
      entry("repair", { text: "Plug cleaned", act: "cleaned" }),
      again,
      entry("verification", { text: "drive", check: "drive", fits: true }),
      entry("verification", { text: "gone", check: "complaint", fits: true }),
    );
    shown(<Close work={work} />);
    expect(screen.getByText(/The test of r1 is still outside/u)).toBeTruthy();
    const button = screen.getByRole("button", { name: "Close the job" }) as HTMLButtonElement;
    expect(button.disabled).toBe(true);
    await userEvent.type(screen.getByLabelText("Why it is closed all the same"), "The engine was cold");
    expect(button.disabled).toBe(false);
    await userEvent.click(button);
    expect(entered.map(({ kind }) => kind)).toEqual(["closing", "waiting", "stage"]);
    expect(entered[0]?.body).toEqual({ outcome: "repaired", despite: "The engine was cold" });
  });
  it("that was not reproduced needs a plan for next time", async () => {
    const { work } = workOf(entry("complaint", { text: "Stalls" }));
    shown(<Close work={work} />);
    await userEvent.selectOptions(screen.getByLabelText("How it ends"), "Not reproduced");
    expect((screen.getByRole("button", { name: "Close the job" }) as HTMLButtonElement).disabled).toBe(true);
    await userEvent.type(screen.getByLabelText("Plan for when it comes back"), "Bring it wet");
    expect((screen.getByRole("button", { name: "Close the job" }) as HTMLButtonElement).disabled).toBe(false);
  });
  it("once closed shows how, and the ways on", () => {
    const { work } = workOf(entry("closing", { outcome: "refused", text: "sold" }), entry("stage", { stage: "closed" }));
    shown(<Close work={work} />);
    expect(screen.getByText("Closed: refused by the customer.")).toBeTruthy();
    expect(screen.getByRole("link", { name: "To the report" })).toBeTruthy();
  });
});
