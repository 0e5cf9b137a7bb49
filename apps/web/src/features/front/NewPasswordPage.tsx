import { useNavigate, useParams } from "react-router";
import { reasonOf, useResetForQuery, useSetPasswordMutation } from "../../app/api";
import { DeadEnd } from "../../app/DeadEnd";
import { messages } from "../../messages";
import { PlainPage } from "../../ui/states";
import { DoorForm, Doorway } from "./Doorway";
import { useEnterAs } from "./use-enter-as";

const t = messages.newPassword;

/** Setting a new password with a code a foreman gave. */
export function NewPasswordPage() {
  const { code = "" } = useParams();
  const navigate = useNavigate();
  const { data, error } = useResetForQuery(code);
  const [set] = useSetPasswordMutation();
  const enter = useEnterAs();
  if (error) return <DeadEnd>{reasonOf(error) ?? messages.states.failed}</DeadEnd>;
  if (!data) return <PlainPage>{messages.states.loading}</PlainPage>;
  const change = async ({ password = "" }: Record<string, string>): Promise<unknown> => {
    const answer = await set({ code, password });
    if ("error" in answer) return answer.error;
    const failed = await enter(data.username, password);
    if (failed === null) void navigate("/");
    return failed;
  };
  return (
    <Doorway title={t.title(data.name)} lead={t.lead(data.username)}>
      <DoorForm
        button={t.set}
        submit={change}
        lines={[{ name: "password", label: messages.front.newPassword, type: "password", autoComplete: "new-password" }]}
      />
    </Doorway>
  );
}
