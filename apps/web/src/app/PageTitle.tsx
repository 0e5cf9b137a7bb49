import { createContext, type ReactNode, useContext, useEffect, useState } from "react";
import { useParams } from "react-router";
import { messages } from "../messages";
import { vehicleName } from "../ui/vehicle";
import { api } from "./api";
import { useAppSelector } from "./store";

const SayPage = createContext<(title: string) => void>(() => undefined);

/** Says to a screen reader which page has come; one place for all pages, as it must be there before its words change. */
export function PageAnnouncer({ children }: { children: ReactNode }) {
  const [title, setTitle] = useState("");
  return (
    <SayPage value={setTitle}>
      {children}
      <p aria-live="polite" className="sr-only" data-page="">
        {title}
      </p>
    </SayPage>
  );
}

/** What a page is called in the browser's tabs and to a screen reader: of a job's pages, the vehicle first. @param word names the page */
export function PageTitle({ word }: { word: string }) {
  const { id = "" } = useParams();
  const vehicle = useAppSelector((state) => (id === "" ? undefined : api.endpoints.job.select(id)(state).data?.vehicle));
  const title = vehicle === undefined ? word : messages.pages.ofVehicle(vehicleName(vehicle), word);
  const say = useContext(SayPage);
  // Until it is known which vehicle it is, nothing is said of a job's page: it would be said twice.
  const known = id === "" || vehicle !== undefined;
  useEffect(() => {
    if (known) say(title);
  }, [known, title, say]);
  return <title>{`${title} · ${messages.name}`}</title>;
}
