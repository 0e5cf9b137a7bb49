import type { Me } from "@fox-lamp/language";
import { createContext, type ReactNode, useContext, useEffect, useMemo } from "react";
import { personIs, retried } from "../outbox";
import { api, statusOf, useMeQuery } from "./api";
import { useAppDispatch } from "./store";

const STORAGE_KEY = "fox-lamp/me";

function kept(): Me | null {
  try {
    return JSON.parse(localStorage.getItem(STORAGE_KEY) ?? "null") as Me | null;
  } catch {
    return null;
  }
}

/** Who is signed in; null for nobody, undefined while that is asked. Without the server, who was signed in last. */
export type Session = Me | null | undefined;

const SessionContext = createContext<Session>(undefined);

/** Asks once who is signed in and tells it to every page. */
export function SessionProvider({ children }: { children: ReactNode }) {
  const { data, error } = useMeQuery();
  const dispatch = useAppDispatch();
  const status = statusOf(error);
  const session = useMemo((): Session => {
    if (status === 401) return null;
    if (data) return data;
    return error ? kept() : undefined;
  }, [data, error, status]);
  useEffect(() => {
    if (data && status === null) {
      localStorage.setItem(STORAGE_KEY, JSON.stringify(data));
      dispatch(retried());
    }
    if (status === 401) {
      localStorage.removeItem(STORAGE_KEY);
    }
  }, [data, status, dispatch]);
  const id = session === undefined ? undefined : (session?.id ?? null);
  useEffect(() => {
    if (id !== undefined) dispatch(personIs(id));
  }, [id, dispatch]);
  return <SessionContext.Provider value={session}>{children}</SessionContext.Provider>;
}

/** Who is signed in. */
export function useSession(): Session {
  return useContext(SessionContext);
}

/** The name of the person who works on this device. */
export function usePerson(): string {
  return useSession()?.name ?? "";
}

/** The id of the person who works on this device; empty for nobody. */
export function usePersonId(): string {
  return useSession()?.id ?? "";
}

/** Forgets everything that belonged to the session before, and asks again who is signed in. */
export function useFreshSession(): () => void {
  const dispatch = useAppDispatch();
  return () => {
    localStorage.removeItem(STORAGE_KEY);
    dispatch(api.util.resetApiState());
  };
}
