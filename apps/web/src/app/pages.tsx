import { type ComponentType, lazy, type ReactNode } from "react";
import { matchPath, Route } from "react-router";

/** A page of the application: where it is and how its code comes. */
interface Page {
  readonly path: string;
  readonly load: () => Promise<unknown>;
  readonly element: ReactNode;
}

/** A page that is loaded when it is first gone to. */
function page<Name extends string>(path: string, load: () => Promise<Record<Name, ComponentType>>, name: Name): Page {
  const Loaded = lazy(async (): Promise<{ default: ComponentType }> => ({ default: (await load())[name] }));
  return { path, load, element: <Loaded /> };
}

const front = () => import("../features/front");
const job = () => import("../features/job");
const bench = () => import("../features/bench");
const people = () => import("../features/people");

/** The front door, shown in place of whatever was asked for. */
export const door = page("/", front, "FrontPage").element;

/** Pages for everybody. */
const OPEN: readonly Page[] = [
  page("/callout/:code?", () => import("../features/callout"), "CalloutPage"),
  page("/come/:code", front, "InvitationPage"),
  page("/new-password/:code", front, "NewPasswordPage"),
];

/** Pages behind the front door. */
const INSIDE: readonly Page[] = [
  page("/", () => import("../features/yard"), "YardPage"),
  page("/jobs/new", () => import("../features/intake"), "NewJobPage"),
  page("/jobs/:id", job, "JobPage"),
  page("/jobs/:id/codes", job, "CodesPage"),
  page("/jobs/:id/triage", job, "TriagePage"),
  page("/jobs/:id/sheet/:circuit?", () => import("../features/sheet"), "SheetPage"),
  page("/jobs/:id/bench", bench, "BenchPage"),
  page("/jobs/:id/proof", bench, "ProofPage"),
  page("/jobs/:id/paper", bench, "PaperPage"),
  page("/jobs/:id/repair", job, "RepairPage"),
  page("/jobs/:id/check", job, "CheckPage"),
  page("/jobs/:id/report", job, "ReportPage"),
  page("/settings", () => import("../features/settings"), "SettingsPage"),
  page("/account", people, "AccountPage"),
  page("/people", people, "PeoplePage"),
  page("/figures", people, "FiguresPage"),
  page("/shops", people, "ShopsPage"),
];

const routeOf = ({ path, element }: Page) => <Route key={path} path={path} element={element} />;
export const openRoutes = OPEN.map(routeOf);
export const insideRoutes = INSIDE.map(routeOf);

/** Fetches what the page at an address needs while it is still asked who is signed in. @param job fetches a job */
export function fetchAhead(address: string, job: (id: string) => void): void {
  const wanted = [...OPEN, ...INSIDE].find(({ path }) => matchPath(path, address) !== null);
  void wanted?.load();
  const id = matchPath("/jobs/:id/*", address)?.params.id;
  if (id !== undefined && id !== "new") job(id);
  if (matchPath("/jobs/:id/bench", address) !== null) void bench().then(({ startAnalysis }) => startAnalysis());
}
