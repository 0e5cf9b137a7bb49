import { useParams } from "react-router";
import { reasonOf, useSharedPageQuery } from "../../app/api";
import { DeadEnd } from "../../app/DeadEnd";
import { ThemeButton } from "../../app/shell";
import { messages } from "../../messages";
import { Paper } from "../../paper/Paper";
import { PlainPage } from "../../ui/states";

/** The customer's page of a report, for whoever was given its address: nobody has to sign in, nothing else is shown. */
export function SharedPage() {
  const { code = "" } = useParams();
  const { data, error } = useSharedPageQuery(code);
  if (error) return <DeadEnd>{reasonOf(error) ?? messages.states.failed}</DeadEnd>;
  if (!data) return <PlainPage>{messages.states.loading}</PlainPage>;
  const { letterhead, sections, ...head } = data;
  return (
    <>
      <header className="flex items-center border-b border-line px-4 py-1.5 print:hidden lg:px-6">
        <span className="font-bold">{data.shop}</span>
        <span className="ml-auto">
          <ThemeButton />
        </span>
      </header>
      <main id="content" className="mx-auto w-full max-w-4xl flex-1 px-4 py-5">
        <h1 className="sr-only">{messages.pages.shared}</h1>
        <Paper head={{ ...head, letterhead: letterhead.split("\n").filter((line) => line !== "") }} title={messages.report.customer} sections={sections} />
      </main>
    </>
  );
}
