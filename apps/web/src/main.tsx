import "@fontsource-variable/atkinson-hyperlegible-mono";
import "@fontsource-variable/atkinson-hyperlegible-next";
import { lazy, StrictMode, Suspense } from "react";
import { createRoot } from "react-dom/client";
import { Provider } from "react-redux";
import { createBrowserRouter, Outlet, RouterProvider } from "react-router";
import { Broken } from "./app/Broken";
import { keepForOffline } from "./app/offline";
import { SessionProvider, useSession } from "./app/session";
import { Shell } from "./app/shell";
import { store } from "./app/store";
import { messages } from "./messages";
import { Plain } from "./ui/states";
import "./styles.css";

/** Pages behind the front door: whoever is not signed in sees the door in their place. */
function Inside() {
  const session = useSession();
  if (session === undefined) return <Plain>{messages.states.loading}</Plain>;
  return session === null ? <Front /> : <Outlet />;
}
const Front = lazy(async () => ({ default: (await import("./features/front")).FrontPage }));

const job = () => import("./features/job");
const bench = () => import("./features/bench");
const router = createBrowserRouter([
  {
    element: <Shell />,
    errorElement: <Broken />,
    hydrateFallbackElement: <Plain>{messages.states.loading}</Plain>,
    children: [
      { path: "callout/:code?", lazy: async () => ({ Component: (await import("./features/callout")).CalloutPage }) },
      { path: "come/:code", lazy: async () => ({ Component: (await import("./features/front")).InvitationPage }) },
      {
        element: (
          <Suspense fallback={<Plain>{messages.states.loading}</Plain>}>
            <Inside />
          </Suspense>
        ),
        children: [
          { index: true, lazy: async () => ({ Component: (await import("./features/yard")).YardPage }) },
          { path: "jobs/new", lazy: async () => ({ Component: (await import("./features/intake")).NewJobPage }) },
          { path: "jobs/:id", lazy: async () => ({ Component: (await job()).JobPage }) },
          { path: "jobs/:id/codes", lazy: async () => ({ Component: (await job()).CodesPage }) },
          { path: "jobs/:id/triage", lazy: async () => ({ Component: (await job()).TriagePage }) },
          { path: "jobs/:id/sheet/:circuit?", lazy: async () => ({ Component: (await import("./features/sheet")).SheetPage }) },
          { path: "jobs/:id/bench", lazy: async () => ({ Component: (await bench()).BenchPage }) },
          { path: "jobs/:id/proof", lazy: async () => ({ Component: (await bench()).ProofPage }) },
          { path: "jobs/:id/paper", lazy: async () => ({ Component: (await bench()).PaperPage }) },
          { path: "jobs/:id/repair", lazy: async () => ({ Component: (await job()).RepairPage }) },
          { path: "jobs/:id/check", lazy: async () => ({ Component: (await job()).CheckPage }) },
          { path: "jobs/:id/report", lazy: async () => ({ Component: (await job()).ReportPage }) },
          { path: "settings", lazy: async () => ({ Component: (await import("./features/settings")).SettingsPage }) },
          { path: "account", lazy: async () => ({ Component: (await import("./features/people")).AccountPage }) },
          { path: "people", lazy: async () => ({ Component: (await import("./features/people")).PeoplePage }) },
          { path: "figures", lazy: async () => ({ Component: (await import("./features/people")).FiguresPage }) },
        ],
      },
      { path: "*", element: <Plain>{messages.states.noPage}</Plain> },
    ],
  },
]);

keepForOffline();
createRoot(document.getElementById("root") as HTMLElement).render(
  <StrictMode>
    <Provider store={store}>
      <SessionProvider>
        <RouterProvider router={router} />
      </SessionProvider>
    </Provider>
  </StrictMode>,
);
