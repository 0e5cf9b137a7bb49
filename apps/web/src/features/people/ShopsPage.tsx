import { type FormEvent, useState } from "react";
import { reasonOf, useOpenShopMutation, useShopsQuery } from "../../app/api";
import { DeadEnd } from "../../app/DeadEnd";
import { useSession } from "../../app/session";
import { PageHead } from "../../app/shell";
import { messages } from "../../messages";
import { Block, Button, TextField } from "../../ui/form";
import { PlainPage } from "../../ui/states";

const t = messages.shops;

/** The installation's shops, for its owner: what there is, and a further one. */
export function ShopsPage() {
  const me = useSession();
  const owner = me?.owner === true;
  const { data: shops } = useShopsQuery(undefined, { skip: !owner });
  const [open, { data: invitation }] = useOpenShopMutation();
  const [problem, setProblem] = useState<string | null>(null);
  if (me && !owner) return <DeadEnd>{t.ownerOnly}</DeadEnd>;
  if (!shops) return <PlainPage>{messages.states.loading}</PlainPage>;
  const send = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = event.currentTarget;
    const values = new FormData(form);
    const answer = await open({ name: String(values.get("name") ?? ""), foreman: String(values.get("foreman") ?? "") });
    setProblem("error" in answer ? (reasonOf(answer.error) ?? messages.states.failed) : null);
    if (!("error" in answer)) form.reset();
  };
  return (
    <>
      <PageHead />
      <main id="content" className="mx-auto grid w-full max-w-4xl flex-1 content-start gap-5 px-4 py-6">
        <h1 className="m-0 text-2xl font-bold">{t.title}</h1>
        <ul className="m-0 list-none rounded-xl border border-line bg-panel px-4 py-1 *:first:border-t-0">
          {shops.map(({ id, name, people, jobs }) => (
            <li key={id} className="border-t border-line py-3">
              <span className="font-bold">{name}</span>
              <span className="block text-sm text-soft">{t.count(people, jobs)}</span>
            </li>
          ))}
        </ul>
        <Block title={t.open}>
          <form onSubmit={(event) => void send(event)} className="grid items-end gap-3 sm:grid-cols-[1fr_1fr_auto]">
            <TextField name="name" label={t.name} required maxLength={120} error={problem ?? undefined} />
            <TextField name="foreman" label={t.foreman} required maxLength={80} />
            <Button type="submit" weight="next">
              {t.button}
            </Button>
          </form>
          {invitation !== undefined && (
            <p role="status" className="m-0 mt-3 text-sm">
              {t.invited(invitation.name, invitation.shop)} <span className="readout block break-all">{`${location.origin}/come/${invitation.code}`}</span>
            </p>
          )}
        </Block>
      </main>
    </>
  );
}
