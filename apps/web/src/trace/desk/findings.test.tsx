/** @jest-environment jsdom */

import type { StoredCapture } from "@fox-lamp/language";
import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { differenceText } from "./difference-text";
import { Findings } from "./Findings";

const stored = {
  analysis: {
    findings: [
      { code: "dropout", channel: "cam:gnd", from: 0.42, to: 0.5, sentence: "cam:gnd lifts to 13.6 V for 80 ms, from 0.4200 s." },
      { code: "dropout", channel: "cam:sig", from: 0.421, to: 0.5, sentence: "cam:sig stands high at 5 V for 79 ms, from 0.4210 s." },
    ],
  },
} as unknown as StoredCapture;
const nameOf = (channel: string): string => channel.split(":")[1] ?? channel;

it("findings are told in the names of the circuit and gone through one after the other", async () => {
  const shown: number[] = [];
  render(<Findings stored={stored} marks={[]} nameOf={nameOf} onShow={({ from }) => shown.push(from)} />);
  expect(screen.getByRole("button", { name: /^gnd lifts to 13\.6 V/u })).toBeTruthy();
  await userEvent.click(screen.getByRole("button", { name: "Next finding" }));
  await userEvent.click(screen.getByRole("button", { name: "Next finding" }));
  await userEvent.click(screen.getByRole("button", { name: "Next finding" }));
  await userEvent.click(screen.getByRole("button", { name: "Previous finding" }));
  expect(shown).toEqual([0.42, 0.421, 0.42, 0.421]);
  expect(screen.getByRole("button", { name: /^sig stands high/u }).getAttribute("aria-current")).toBe("true");
});

it("marks by hand stand beside what the analysis says; nothing is said to be nothing", async () => {
  const shown: string[] = [];
  const mark = { channel: "cam:sig", from: 0.1, to: 0.2, word: "edges rounded", text: "both" };
  const none = { analysis: { findings: [] } } as unknown as StoredCapture;
  render(<Findings stored={none} marks={[mark]} nameOf={nameOf} onShow={({ channel }) => shown.push(channel)} />);
  expect(screen.getByText("✓ Nothing stands out.")).toBeTruthy();
  await userEvent.click(screen.getByRole("button", { name: "sig: edges rounded, both" }));
  expect(shown).toEqual(["cam:sig"]);
  expect(screen.queryByRole("button", { name: "Next finding" })).toBeNull();
});

it.each([
  [{ what: "high" as const, was: 5, now: 4.2, unit: "V" }, "sig: high level 4.20 V, there 5.00 V"],
  [{ what: "duty" as const, was: 50, now: 41, unit: "%" }, "sig: time high 41 %, there 50 %"],
  [{ what: "dropouts" as const, was: 0, now: 2, unit: "" }, "sig: dropouts 2, there 0"],
  [{ what: "cam" as const, was: 0, now: 9.96, unit: "deg" }, "sig: 10.0° of crank away from where it is there"],
])("a difference is told in words: %j", (difference, words) => {
  expect(differenceText({ channel: "cam:sig", ...difference }, nameOf)).toBe(words);
});
