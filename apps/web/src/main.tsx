import "@fontsource-variable/atkinson-hyperlegible-mono";
import "@fontsource-variable/atkinson-hyperlegible-next";
import { StrictMode } from "react";
import { createRoot } from "react-dom/client";
import { Provider } from "react-redux";
import { createBrowserRouter, RouterProvider } from "react-router";
import { Broken } from "./app/Broken";
import { Shell } from "./app/shell";
import { store } from "./app/store";
import { messages } from "./messages";
import { Plain } from "./ui/states";
import "./styles.css";

const router = createBrowserRouter([
  {
    element: <Shell />,
    errorElement: <Broken />,
    hydrateFallbackElement: <Plain>{messages.states.loading}</Plain>,
    children: [
      { index: true, lazy: async () => ({ Component: (await import("./features/yard")).YardPage }) },
      { path: "jobs/:id", lazy: async () => ({ Component: (await import("./features/job")).JobPage }) },
      { path: "jobs/:id/bench", lazy: async () => ({ Component: (await import("./features/bench")).BenchPage }) },
      { path: "jobs/:id/proof", lazy: async () => ({ Component: (await import("./features/bench")).ProofPage }) },
      { path: "jobs/:id/paper", lazy: async () => ({ Component: (await import("./features/bench")).PaperPage }) },
      { path: "callout/:code?", lazy: async () => ({ Component: (await import("./features/callout")).CalloutPage }) },
      { path: "settings", lazy: async () => ({ Component: (await import("./features/settings")).SettingsPage }) },
      { path: "*", element: <Plain>{messages.states.noPage}</Plain> },
    ],
  },
]);

createRoot(document.getElementById("root") as HTMLElement).render(
  <StrictMode>
    <Provider store={store}>
      <RouterProvider router={router} />
    </Provider>
  </StrictMode>,
);
