import type { Front } from "@fox-lamp/language";
import { useFrontQuery, useMakeFirstMutation } from "../../app/api";
import { DeadEnd } from "../../app/DeadEnd";
import { useAppSelector } from "../../app/store";
import { messages } from "../../messages";
import { Button } from "../../ui/form";
import { PlainPage } from "../../ui/states";
import { DoorForm, Doorway } from "./Doorway";
import { useEnterAs } from "./use-enter-as";

const t = messages.front;

function DemoPeople({ people }: { people: Front["demo"] }) {
  const enter = useEnterAs();
  return (
    <section aria-labelledby="demo-people" className="rounded-2xl border border-line bg-panel p-5">
      <h2 id="demo-people" className="m-0 text-lg font-bold">
        {t.demoTitle}
      </h2>
      <p className="mb-3 mt-1 text-sm text-soft">{t.demoHint}</p>
      <ul className="m-0 list-none space-y-2 p-0">
        {people.map(({ name, role, username, password }) => (
          <li key={username} className="grid items-center gap-x-4 gap-y-2 border-t border-line pt-2 sm:flex">
            <div className="min-w-40 flex-1">
              <div className="font-bold">
                {name}, {messages.roles[role]}
              </div>
              <div className="text-sm text-soft">{t.demoRole[role]}</div>
              <div className="readout text-sm text-soft">{t.demoKeys(username, password)}</div>
            </div>
            <Button onClick={() => void enter(username, password)}>{t.demoEnter(name.split(" ")[0] ?? name)}</Button>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** The front door: sign in, or make the shop at the first visit. */
export function FrontPage() {
  const { data: front, error, refetch } = useFrontQuery();
  const [makeFirst] = useMakeFirstMutation();
  const enter = useEnterAs();
  const waiting = useAppSelector((state) => state.outbox.waiting.length);
  if (error && !front) return <DeadEnd retry={() => void refetch()}>{messages.states.failed}</DeadEnd>;
  if (!front) return <PlainPage>{messages.states.loading}</PlainPage>;
  if (front.empty) {
    const make = async (values: Record<string, string>): Promise<unknown> => {
      const { code = "", shop = "", name = "", username = "", password = "", email } = values;
      const answer = await makeFirst({ code, shop, name, username, password, ...(email === undefined ? {} : { email }) });
      return "error" in answer ? answer.error : enter(username, password);
    };
    return (
      <Doorway title={t.firstTitle} lead={t.firstLead}>
        <DoorForm
          button={t.make}
          submit={make}
          lines={[
            { name: "code", label: t.firstCode, autoComplete: "one-time-code" },
            { name: "shop", label: t.shop, autoComplete: "organization" },
            { name: "name", label: t.fullName, autoComplete: "name" },
            { name: "username", label: t.username, autoComplete: "username" },
            { name: "email", label: t.email, type: "email", autoComplete: "email", optional: true },
            { name: "password", label: t.newPassword, type: "password", autoComplete: "new-password" },
          ]}
        />
      </Doorway>
    );
  }
  return (
    <Doorway title={t.title} lead={waiting > 0 ? t.again : t.lead}>
      <div className="grid items-start gap-8 md:grid-cols-2">
        <DoorForm
          button={t.enter}
          submit={({ name = "", password = "" }) => enter(name, password)}
          lines={[
            { name: "name", label: t.name, autoComplete: "username" },
            { name: "password", label: t.password, type: "password", autoComplete: "current-password" },
          ]}
        />
        {front.demo.length > 0 && <DemoPeople people={front.demo} />}
      </div>
    </Doorway>
  );
}
