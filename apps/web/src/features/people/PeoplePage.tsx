import { type Person, ROLES, type Role } from "@fox-lamp/language";
import { format } from "date-fns";
import { type FormEvent, useState } from "react";
import {
  reasonOf,
  useBlankPersonMutation,
  useChangePersonMutation,
  useInvitationsQuery,
  useInviteMutation,
  useLazyPersonFileQuery,
  useRemovalsQuery,
  useResetPasswordMutation,
  useShopQuery,
  useWithdrawMutation,
} from "../../app/api";
import { DeadEnd } from "../../app/DeadEnd";
import { useSession } from "../../app/session";
import { PageHead } from "../../app/shell";
import { messages } from "../../messages";
import { AskFirst } from "../../ui/AskFirst";
import { Block, Button, Select, TextField } from "../../ui/form";
import { saveAs } from "../../ui/picture";
import { RemoveDialog } from "../../ui/RemoveDialog";
import { PlainPage } from "../../ui/states";
import { toast } from "../../ui/toast";

const t = messages.people;
const ROLE_OPTIONS = ROLES.map((role) => [role, messages.roles[role]] as const);

/** What a foreman does for one person: a new password, the own data, and the name out of the record once the access is taken back. */
function Care({ person }: { person: Person }) {
  const [reset] = useResetPasswordMutation();
  const [load] = useLazyPersonFileQuery();
  const [blank] = useBlankPersonMutation();
  const [address, setAddress] = useState<string | null>(null);
  const [blanking, setBlanking] = useState(false);
  const giveCode = async (): Promise<void> => {
    const answer = await reset(person.id);
    if ("error" in answer) toast.error(reasonOf(answer.error) ?? messages.states.failed);
    else setAddress(`${location.origin}/new-password/${answer.data.code}`);
  };
  const save = async (): Promise<void> => {
    const answer = await load(person.id);
    if (answer.data === undefined) toast.error(reasonOf(answer.error) ?? messages.states.failed);
    else saveAs(new Blob([JSON.stringify(answer.data, null, 2)], { type: "application/json" }), `person-${answer.data.person.username}.json`);
  };
  const takeOut = async (reason: string): Promise<string | null> => {
    const answer = await blank({ id: person.id, reason });
    if ("error" in answer) return reasonOf(answer.error) ?? messages.states.failed;
    setBlanking(false);
    toast.success(t.blanked);
    return null;
  };
  return (
    <div className="flex w-full flex-wrap gap-2">
      {person.active && (
        <Button weight="quiet" onClick={() => void giveCode()}>
          {t.reset}
        </Button>
      )}
      <Button weight="quiet" onClick={() => void save()}>
        {t.file}
      </Button>
      {!person.active && (
        <Button weight="quiet" onClick={() => setBlanking(true)}>
          {t.blank}
        </Button>
      )}
      {address !== null && (
        <p role="status" className="m-0 w-full text-sm">
          {t.resetLead(person.name)} <span className="readout block break-all">{address}</span>
        </p>
      )}
      <RemoveDialog open={blanking} onOpen={setBlanking} title={t.blankTitle(person.name)} lead={t.blankLead} remove={takeOut} />
    </div>
  );
}

/** What was taken out of the record: the traces. */
function Removed() {
  const { data = [] } = useRemovalsQuery();
  return (
    <Block title={t.removed}>
      <p className="m-0 text-sm text-soft">{data.length === 0 ? t.noneRemoved : t.removedHint}</p>
      <ul className="m-0 list-none p-0 text-sm">
        {data.map(({ id, what, jobNumber, by, reason, at }) => (
          <li key={id} className="border-t border-line py-2 first:border-t-0">
            <span className="font-bold">
              {t.what[what]} {jobNumber ?? ""}
            </span>
            : {reason}
            <span className="block text-soft">
              {by}, {format(new Date(at), "d MMM yyyy HH:mm")}
            </span>
          </li>
        ))}
      </ul>
    </Block>
  );
}

function Member({ person, own }: { person: Person; own: boolean }) {
  const [change] = useChangePersonMutation();
  const set = async (part: { role?: Role; active?: boolean }): Promise<void> => {
    const answer = await change({ id: person.id, ...part });
    if ("error" in answer) toast.error(reasonOf(answer.error) ?? messages.states.failed);
  };
  return (
    <li className="flex flex-wrap items-center gap-x-5 gap-y-2 border-t border-line py-3">
      <div className="min-w-44 flex-1">
        <div className={`font-bold ${person.active ? "" : "line-through"}`}>{person.name}</div>
        <div className="readout text-sm text-soft">
          {person.username} · {person.active ? t.active : t.inactive}
        </div>
      </div>
      <div className="w-44">
        <Select label={t.role(person.name)} options={ROLE_OPTIONS} value={person.role} onChange={(role) => void set({ role })} />
      </div>
      {!own && !person.active && <Button onClick={() => void set({ active: true })}>{t.giveBack}</Button>}
      {!own && person.active && (
        <AskFirst label={t.takeBack} title={t.takeBackTitle(person.name)} lead={t.takeBackLead} onYes={() => void set({ active: false })} />
      )}
      <Care person={person} />
    </li>
  );
}

/** The shop's people: roles, invitations, access. */
export function PeoplePage() {
  const me = useSession();
  // Somebody may have come in since the shop was last asked for.
  const { data: shop } = useShopQuery(undefined, { refetchOnMountOrArgChange: true });
  const foreman = me?.role === "foreman";
  const { data: invitations = [] } = useInvitationsQuery(undefined, { skip: !foreman });
  const [invite] = useInviteMutation();
  const [withdraw] = useWithdrawMutation();
  const [role, setRole] = useState<Role>("technician");
  const [problem, setProblem] = useState<string | null>(null);
  if (me && !foreman) return <DeadEnd>{t.foremanOnly}</DeadEnd>;
  if (!shop) return <PlainPage>{messages.states.loading}</PlainPage>;
  const addressOf = (code: string): string => `${location.origin}/come/${code}`;
  const send = async (event: FormEvent<HTMLFormElement>): Promise<void> => {
    event.preventDefault();
    const form = event.currentTarget;
    const answer = await invite({ name: String(new FormData(form).get("name") ?? ""), role });
    setProblem("error" in answer ? (reasonOf(answer.error) ?? messages.states.failed) : null);
    if (!("error" in answer)) form.reset();
  };
  const copy = async (code: string): Promise<void> => {
    await navigator.clipboard.writeText(addressOf(code));
    toast.success(t.copied);
  };
  return (
    <>
      <PageHead>
        <span className="text-soft">{shop.name}</span>
      </PageHead>
      <main id="content" className="mx-auto grid w-full max-w-4xl flex-1 content-start gap-5 px-4 py-6">
        <h1 className="m-0 text-2xl font-bold">{t.title}</h1>
        <ul className="m-0 list-none rounded-xl border border-line bg-panel px-4 py-1 *:first:border-t-0">
          {shop.people.map((person) => (
            <Member key={person.id} person={person} own={person.id === me?.id} />
          ))}
        </ul>
        <Block title={t.invite}>
          <form onSubmit={(event) => void send(event)} className="grid items-end gap-3 sm:grid-cols-[1fr_12rem_auto]">
            <TextField name="name" label={t.inviteName} required error={problem ?? undefined} />
            <Select label={t.inviteRole} options={ROLE_OPTIONS} value={role} onChange={setRole} />
            <Button type="submit" weight="next">
              {t.inviteButton}
            </Button>
          </form>
        </Block>
        {invitations.length > 0 && (
          <Block title={t.open}>
            <p className="m-0 text-sm text-soft">{t.link}</p>
            <ul className="m-0 list-none p-0">
              {invitations.map(({ code, name, role: as, expiresAt }) => (
                <li key={code} className="flex flex-wrap items-center gap-x-4 gap-y-2 border-t border-line py-2.5 first:border-t-0">
                  <div className="min-w-56 flex-1">
                    <span className="font-bold">{name}</span>, {messages.roles[as]}{" "}
                    <span className="text-sm text-soft">{format(new Date(expiresAt), "d MMM")}</span>
                    <div className="readout break-all text-sm">{addressOf(code)}</div>
                  </div>
                  <Button onClick={() => void copy(code)}>{t.copy}</Button>
                  <AskFirst weight="quiet" label={t.withdraw} title={t.withdrawTitle} lead={t.withdrawLead(name)} onYes={() => void withdraw(code)} />
                </li>
              ))}
            </ul>
          </Block>
        )}
        <Removed />
      </main>
    </>
  );
}
