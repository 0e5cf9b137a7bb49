/** @jest-environment jsdom */
import { configureStore } from "@reduxjs/toolkit";
import { render, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Provider } from "react-redux";
import { MemoryRouter, useLocation } from "react-router";
import { circuitView } from "../../../../test/views";
import { api } from "../../../app/api";
import { Palette } from "./Palette";

const CAM = circuitView("cam", "Cam");
const MAP = circuitView("map", "Manifold pressure");
const TESTS = [{ test: "t1", title: "signal at the sensor", circuit: "map", minutes: 2 }];

/** What the server finds for a word. */
const FOUND = [{ id: "j9", number: 9, vehicle: { name: "Unit 9" }, complaint: "Uses more fuel since winter" }];

function Where() {
  return <output>{useLocation().pathname}</output>;
}

function shown() {
  const done: string[] = [];
  const store = configureStore({ reducer: { api: api.reducer }, middleware: (usual) => usual().concat(api.middleware) });
  // What the server answers for one word; nothing else is asked of it here.
  void store.dispatch(api.util.upsertQueryData("findJobs", "P0172", FOUND as never));
  render(
    <Provider store={store}>
      <MemoryRouter initialEntries={["/jobs/j1/bench"]}>
        <Palette
          job="j1"
          vehicle="v1"
          open
          onOpen={(open) => done.push(open ? "open" : "closed")}
          verbs={[{ key: "O", name: "other tests", run: () => done.push("others") }]}
          tests={TESTS}
          circuit={CAM}
          circuits={[CAM, MAP]}
          onTest={(test) => done.push(test)}
          suspects={[{ unit: "cam/wire:sig", title: "Signal wire, Cam", probability: 0.4 }]}
          onSuspect={(unit) => done.push(unit)}
          onPlace={(point) => done.push(point)}
        />
        <Where />
      </MemoryRouter>
    </Provider>,
  );
  return done;
}
const lines = (): (string | null)[] => screen.queryAllByRole("option").map(({ textContent }) => textContent);

describe("the palette", () => {
  it("finds tests, suspects and what can be done, by every word that is typed", async () => {
    const done = shown();
    await userEvent.keyboard("signal sensor manifold");
    expect(lines()[0]).toMatch(/^Manifold pressure: signal at the sensor/u);
    await userEvent.keyboard("{Enter}");
    expect(done).toEqual(["closed", "t1"]);
  });
  it("finds a place to put the red lead on, of this circuit and of others", async () => {
    const done = shown();
    await userEvent.keyboard("signal c1 green");
    const places = lines();
    expect(places.length).toBeGreaterThan(0);
    await userEvent.keyboard("{Enter}");
    expect(done.at(-1)).toBe("sig@C1");
  });
  it("goes to the pages of the job", async () => {
    shown();
    await userEvent.keyboard("repair{Enter}");
    expect(screen.getByText("/jobs/j1/repair")).toBeDefined();
  });
  it("asks the server for jobs once the typing rests, and goes to the one that is chosen", async () => {
    shown();
    await userEvent.keyboard("P0172");
    await waitFor(() => expect(lines()).toEqual([expect.stringMatching(/^Unit 9: Uses more fuel/u)]));
    await userEvent.keyboard("{Enter}");
    expect(screen.getByText("/jobs/j9")).toBeDefined();
  });
  it("says when nothing is like that", async () => {
    shown();
    await userEvent.keyboard("x");
    expect(lines()).toEqual([]);
    expect(screen.getByText("Nothing like that here.")).toBeDefined();
  });
});
