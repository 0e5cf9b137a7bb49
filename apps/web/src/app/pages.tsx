import { type ComponentType, lazy, type ReactNode } from "react";
import { matchPath, Route } from "react-router";
import { messages } from "../messages";
import { PageTitle } from "./PageTitle";

const words = messages.pages;

/** A page of the application: where it is and how its code comes. */
interface Page {
  readonly path: string;
  readonly load: () => Promise<unknown>;
  readonly element: ReactNode;
}

/** A page that is loaded when it is first gone to. @param word what it is called */
function page<Name extends string>(path: string, word: string, load: () => Promise<Record<Name, ComponentType>>, name: Name): Page {
  const Loaded = lazy(async (): Promise<{ default: ComponentType }> => ({ default: (await load())[name] }));
  const element = (
    <>
      <PageTitle word={word} />
      <Loaded />
    </>
  );
  return { path, load, element };
}

const front = () => import("../features/front");
const job = () => import("../features/job");
const bench = () => import("../features/bench");
const people = () => import("../features/people");
const shelf = () => import("../features/shelf");

/** The front door, shown in place of whatever was asked for. */
export const door = page("/", words.door, front, "FrontPage").element;

/** Pages for everybody. */
const OPEN: readonly Page[] = [
  page("/callout/:code?", words.callout, () => import("../features/callout"), "CalloutPage"),
  page("/report/:code", words.shared, () => import("../features/shared-page"), "SharedPage"),
  page("/come/:code", words.invitation, front, "InvitationPage"),
  page("/new-password/:code", words.newPassword, front, "NewPasswordPage"),
];

/** Pages behind the front door. */
const INSIDE: readonly Page[] = [
  page("/", words.yard, () => import("../features/yard"), "YardPage"),
  page("/jobs/new", words.newJob, () => import("../features/intake"), "NewJobPage"),
  page("/jobs/:id", words.job, job, "JobPage"),
  page("/jobs/:id/codes", words.codes, job, "CodesPage"),
  page("/jobs/:id/triage", words.triage, job, "TriagePage"),
  page("/jobs/:id/sheet/:circuit?", words.sheet, () => import("../features/sheet"), "SheetPage"),
  page("/jobs/:id/bench", words.bench, bench, "BenchPage"),
  page("/jobs/:id/proof", words.proof, bench, "ProofPage"),
  page("/jobs/:id/paper", words.paper, bench, "PaperPage"),
  page("/jobs/:id/traces/:capture?", words.traces, job, "TracesPage"),
  page("/jobs/:id/repair", words.repair, job, "RepairPage"),
  page("/jobs/:id/check", words.check, job, "CheckPage"),
  page("/jobs/:id/report", words.report, job, "ReportPage"),
  page("/settings", words.settings, () => import("../features/settings"), "SettingsPage"),
  page("/account", words.account, people, "AccountPage"),
  page("/people", words.people, people, "PeoplePage"),
  page("/shelf", words.shelf, shelf, "ShelfPage"),
  page("/cards/:id?", words.cards, shelf, "CardsPage"),
  page("/calculators/:id?", words.calculators, shelf, "CalculatorsPage"),
  page("/figures", words.figures, () => import("../features/figures"), "FiguresPage"),
  page("/shops", words.shops, people, "ShopsPage"),
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
