import { DeadEnd } from "./app/DeadEnd";
import "@fontsource-variable/atkinson-hyperlegible-mono";
import "@fontsource-variable/atkinson-hyperlegible-next";
import "@fontsource/noto-sans/greek-400.css";
import "@fontsource/noto-sans/greek-700.css";
import { StrictMode, Suspense } from "react";
import { createRoot } from "react-dom/client";
import { ErrorBoundary } from "react-error-boundary";
import { Provider } from "react-redux";
import { BrowserRouter, Outlet, Route, Routes, useLocation } from "react-router";
import { api } from "./app/api";
import { Broken } from "./app/Broken";
import { keepForOffline } from "./app/offline";
import { PageAnnouncer, PageTitle } from "./app/PageTitle";
import { door, fetchAhead, insideRoutes, openRoutes } from "./app/pages";
import { SessionProvider, useSession } from "./app/session";
import { Shell } from "./app/shell";
import { store } from "./app/store";
import { messages } from "./messages";
import { PlainPage } from "./ui/states";
import "./styles.css";

/** Pages behind the front door: whoever is not signed in sees the door in their place. */
function Inside() {
  const session = useSession();
  if (session === undefined) return <PlainPage>{messages.states.loading}</PlainPage>;
  return session === null ? door : <Outlet />;
}

/** What surrounds every page, and what is shown where one fails. */
function Around() {
  const { key } = useLocation();
  return (
    <Shell>
      <PageAnnouncer>
        <ErrorBoundary FallbackComponent={Broken} resetKeys={[key]}>
          <Suspense fallback={<PlainPage>{messages.states.loading}</PlainPage>}>
            <Outlet />
          </Suspense>
        </ErrorBoundary>
      </PageAnnouncer>
    </Shell>
  );
}

keepForOffline();
fetchAhead(location.pathname, (id) => void store.dispatch(api.util.prefetch("job", id, {})));
createRoot(document.getElementById("root") as HTMLElement).render(
  <StrictMode>
    <Provider store={store}>
      <SessionProvider>
        <BrowserRouter>
          <Routes>
            <Route element={<Around />}>
              {openRoutes}
              <Route element={<Inside />}>{insideRoutes}</Route>
              <Route
                path="*"
                element={
                  <>
                    <PageTitle word={messages.pages.nothing} />
                    <DeadEnd>{messages.states.noPage}</DeadEnd>
                  </>
                }
              />
            </Route>
          </Routes>
        </BrowserRouter>
      </SessionProvider>
    </Provider>
  </StrictMode>,
);
