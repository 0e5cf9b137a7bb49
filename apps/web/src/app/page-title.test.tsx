/** @jest-environment jsdom */
import { configureStore } from "@reduxjs/toolkit";
import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { Provider } from "react-redux";
import { Link, MemoryRouter, Route, Routes } from "react-router";
import { api } from "./api";
import { PageAnnouncer, PageTitle } from "./PageTitle";

const STORE = configureStore({ reducer: { api: api.reducer }, middleware: (usual) => usual().concat(api.middleware) });

describe("what a page is called", () => {
  it("stands in the tab and is said when it comes, of a job with its vehicle first", async () => {
    await STORE.dispatch(api.util.upsertQueryData("job", "7", { id: "7", vehicle: { name: "Unit 7" } } as never));
    render(
      <Provider store={STORE}>
        <MemoryRouter>
          <PageAnnouncer>
            <Routes>
              <Route
                path="/"
                element={
                  <>
                    <PageTitle word="Yard" />
                    <Link to="/jobs/7">on</Link>
                  </>
                }
              />
              <Route path="/jobs/:id" element={<PageTitle word="Bench" />} />
            </Routes>
          </PageAnnouncer>
        </MemoryRouter>
      </Provider>,
    );
    const said = (): string => document.querySelector("[data-page]")?.textContent ?? "";
    expect(document.title).toBe("Yard · Fox Lamp");
    expect(said()).toBe("Yard");
    await userEvent.click(screen.getByRole("link", { name: "on" }));
    expect(document.title).toBe("Unit 7, bench · Fox Lamp");
    expect(said()).toBe("Unit 7, bench");
  });
});
