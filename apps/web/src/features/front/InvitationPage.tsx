import { useNavigate, useParams } from "react-router";
import { reasonOf, useAcceptInvitationMutation, useInvitationQuery } from "../../app/api";
import { DeadEnd } from "../../app/DeadEnd";
import { messages } from "../../messages";
import { PlainPage } from "../../ui/states";
import { DoorForm, Doorway } from "./Doorway";
import { useEnterAs } from "./use-enter-as";

const t = messages.front;

/** Taking an invitation: choose how to sign in. */
export function InvitationPage() {
  const { code = "" } = useParams();
  const navigate = useNavigate();
  const { data, error } = useInvitationQuery(code);
  const [accept] = useAcceptInvitationMutation();
  const enter = useEnterAs();
  if (error) return <DeadEnd>{reasonOf(error) ?? messages.states.failed}</DeadEnd>;
  if (!data) return <PlainPage>{messages.states.loading}</PlainPage>;
  const come = async (values: Record<string, string>): Promise<unknown> => {
    const { name = "", username = "", password = "", email } = values;
    const answer = await accept({ code, name, username, password, ...(email === undefined ? {} : { email }) });
    if ("error" in answer) return answer.error;
    const failed = await enter(username, password);
    if (failed === null) void navigate("/");
    return failed;
  };
  return (
    <Doorway title={t.invitedTitle(data.shop)} lead={t.invitedLead(messages.roles[data.role])}>
      <DoorForm
        button={t.accept}
        submit={come}
        lines={[
          { name: "name", label: t.fullName, autoComplete: "name", value: data.name },
          { name: "username", label: t.username, autoComplete: "username" },
          { name: "email", label: t.email, type: "email", autoComplete: "email", optional: true },
          { name: "password", label: t.newPassword, type: "password", autoComplete: "new-password" },
        ]}
      />
    </Doorway>
  );
}
