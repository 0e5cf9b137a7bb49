/** @jest-environment jsdom */
import { foldJob } from "@fox-lamp/core";
import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import type { Work } from "../shared/JobFrame";
import { FoundBefore } from "./FoundBefore";

const FOUND = [
  { family: "thermistor-2w", unit: "contact:sig@sensor", model: 3, shop: 5, minutes: 12 },
  { family: "thermistor-2w", unit: "sensor", model: 0, shop: 1, minutes: null },
  { family: "hall-3w", unit: "sensor", model: 9, shop: 9, minutes: 8 },
];
const work = (over: object = {}): Work =>
  ({
    job: { circuits: [{ id: "ect", family: "thermistor-2w" }], found: FOUND },
    state: foldJob([]),
    enter: jest.fn(),
    shop: undefined,
    ...over,
  }) as unknown as Work;

it("says what was found on circuits of this kind, on this model and in this shop, and lets it be left out", async () => {
  const enter = jest.fn();
  render(<FoundBefore {...work({ enter })} />);
  expect(screen.getByText("3 times on this model, 5 times in this shop, 12 min to the verdict")).toBeTruthy();
  expect(screen.getByText("once in this shop")).toBeTruthy();
  expect(screen.getAllByRole("listitem")).toHaveLength(2);
  await userEvent.click(screen.getByRole("checkbox", { name: "It counts in the ranking" }));
  expect(enter).toHaveBeenCalledWith({ kind: "conditions", body: expect.objectContaining({ facts: { learnt: "off" } }) });
});

it("is not there where nothing was found, and says so where the shop leaves it out", () => {
  const { container, rerender } = render(<FoundBefore {...work({ job: { circuits: [{ id: "o2", family: "oxygen-narrow" }], found: FOUND } })} />);
  expect(container.textContent).toBe("");
  rerender(<FoundBefore {...work({ shop: { settings: { policy: { learnt: "off" } } } })} />);
  expect(screen.getByText("The shop's settings leave it out of account.")).toBeTruthy();
  expect(screen.queryByRole("checkbox")).toBeNull();
});
