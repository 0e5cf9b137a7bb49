import { statusOf, useSignInMutation } from "../../app/api";
import { useFreshSession } from "../../app/session";
import { messages } from "../../messages";

const t = messages.front;

/** Signs in; what went wrong comes back in words, null where nothing did. */
export function useEnterAs(): (name: string, password: string) => Promise<unknown> {
  const [signIn] = useSignInMutation();
  const fresh = useFreshSession();
  return async (name, password) => {
    const answer = await signIn({ name, password });
    if (!("error" in answer)) {
      fresh();
      return null;
    }
    const status = statusOf(answer.error);
    return status === 429 ? t.tooMany : status === 401 || status === 400 ? t.wrong : answer.error;
  };
}
