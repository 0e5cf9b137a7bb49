/** @jest-environment jsdom */
import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { circuitView } from "../../../test/views";
import { LeadPoints } from "./LeadPoints";
import { layoutCircuit } from "./layout";

const CAM = circuitView("cam", "Cam");

/** A drawing on which two leads are put one after the other. */
function Drawing({ onBoth }: { onBoth: (red: string, black: string) => void }) {
  const [red, setRed] = useState<string | null>(null);
  const { spotOf } = layoutCircuit(CAM, 620);
  return (
    <svg>
      <title>Cam</title>
      <LeadPoints circuit={CAM} circuits={[CAM]} spotOf={spotOf} leads={{ red, onPut: (point) => (red === null ? setRed(point) : onBoth(red, point)) }} />
    </svg>
  );
}

describe("leads put on by touch", () => {
  it("go where they are touched, red first, then black", async () => {
    const put: string[] = [];
    render(<Drawing onBoth={(red, black) => put.push(red, black)} />);
    await userEvent.click(screen.getByRole("button", { name: /^Red lead on .*signal.*C1/iu }));
    await userEvent.click(screen.getByRole("button", { name: /^Black lead on .*battery negative/iu }));
    expect(put).toEqual(["sig@C1", "bat-"]);
  });
  it("cannot both stand on one point, and are put on with the keyboard as well", async () => {
    const put: string[] = [];
    render(<Drawing onBoth={(red, black) => put.push(red, black)} />);
    screen.getByRole("button", { name: /^Red lead on .*feed.*module/iu }).focus();
    await userEvent.keyboard("{Enter}");
    const taken = screen.getByRole("button", { name: /feed.*module/iu });
    expect(taken.getAttribute("aria-disabled")).toBe("true");
    await userEvent.click(taken);
    expect(put).toEqual([]);
    screen.getByRole("button", { name: /^Black lead on .*chassis/iu }).focus();
    await userEvent.keyboard(" ");
    expect(put).toEqual(["feed@module", "chassis"]);
  });
  it("have a point for every wire at every place, the part's terminals and the car's own", () => {
    render(<Drawing onBoth={() => undefined} />);
    // Three wires at three places and on the part, two posts and two grounds.
    expect(screen.getAllByRole("button")).toHaveLength(3 * 4 + 4);
  });
});
