import { formatDistanceToNow } from "date-fns";
import { type FormEvent, useState } from "react";
import { reasonOf, useChangePasswordMutation, useEndOtherSessionsMutation, useEndSessionMutation, useSessionsQuery, useThisSessionQuery } from "../../app/api";
import { useSession } from "../../app/session";
import { PageHead } from "../../app/shell";
import { messages } from "../../messages";
import { Block, Button, TextField } from "../../ui/form";
import { toast } from "../../ui/toast";

const t = messages.account;

/** A browser and system in a few letters, from what the browser says of itself. */
function deviceName(userAgent: string | null): string {
  const browser = /(Firefox|Edg|Chrome|Safari)\//u.exec(userAgent ?? "")?.[1] ?? "Browser";
  const system = /(Android|iPhone|iPad|Windows|Mac OS X|Linux)/u.exec(userAgent ?? "")?.[1] ?? "";
  return system === "" ? browser : `${browser}, ${system}`;
}

/** The own account: password, and where one is signed in. */
export function AccountPage() {
  const me = useSession();
  const [change, { isLoading }] = useChangePasswordMutation();
  const { data: sessions = [] } = useSessionsQuery();
  const { data: here } = useThisSessionQuery();
  const [end] = useEndSessionMutation();
  const [endOthers] = useEndOtherSessionsMutation();
  const [problem, setProblem] = useState<string | null>(null);
  const send = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = event.currentTarget;
    const values = new FormData(form);
    const answer = await change({ currentPassword: String(values.get("current") ?? ""), newPassword: String(values.get("next") ?? "") });
    setProblem("error" in answer ? (reasonOf(answer.error) ?? messages.states.failed) : null);
    if ("error" in answer) return;
    form.reset();
    toast.success(t.changed);
  };
  return (
    <>
      <PageHead />
      <main id="content" className="mx-auto grid w-full max-w-4xl flex-1 content-start gap-5 px-4 py-6 md:grid-cols-2">
        <div className="md:col-span-2">
          <h1 className="m-0 text-2xl font-bold">{t.title}</h1>
          {me && <p className="mb-0 mt-1 text-soft">{messages.shell.signedInAs(me.name, messages.roles[me.role])}</p>}
        </div>
        <Block title={t.password}>
          <form onSubmit={(event) => void send(event)} className="grid gap-3">
            <TextField name="current" type="password" label={t.current} required autoComplete="current-password" />
            <TextField name="next" type="password" label={t.next} required minLength={8} autoComplete="new-password" error={problem ?? undefined} />
            <Button type="submit" weight="next" disabled={isLoading}>
              {t.change}
            </Button>
          </form>
        </Block>
        <Block title={t.sessions}>
          <ul className="m-0 list-none p-0">
            {sessions.map(({ id, token, userAgent, createdAt }) => (
              <li key={id} className="flex items-center justify-between gap-3 border-t border-line py-2">
                <span>
                  {deviceName(userAgent)}
                  <span className="block text-sm text-soft">
                    {id === here?.session.id ? t.here : t.since(formatDistanceToNow(new Date(createdAt), { addSuffix: true }))}
                  </span>
                </span>
                {id !== here?.session.id && <Button onClick={() => void end(token)}>{t.end}</Button>}
              </li>
            ))}
          </ul>
          {sessions.length > 1 && (
            <Button className="mt-2 w-full" onClick={() => void endOthers()}>
              {t.endOthers}
            </Button>
          )}
        </Block>
      </main>
    </>
  );
}
