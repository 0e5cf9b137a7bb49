import { configureStore } from "@reduxjs/toolkit";
import { setupListeners } from "@reduxjs/toolkit/query";
import { useDispatch, useSelector } from "react-redux";
import { openOutbox, outboxMiddleware, outboxReducer, retried } from "../outbox";
import { api } from "./api";
import { applySettings, settingsReducer } from "./settings";

export const store = configureStore({
  reducer: { [api.reducerPath]: api.reducer, outbox: outboxReducer, settings: settingsReducer },
  middleware: (defaults) => defaults().prepend(outboxMiddleware.middleware).concat(api.middleware),
});

type RootState = ReturnType<typeof store.getState>;
export const useAppSelector = useSelector.withTypes<RootState>();
export const useAppDispatch = useDispatch.withTypes<typeof store.dispatch>();

setupListeners(store.dispatch);
applySettings(store.getState().settings);
let settings = store.getState().settings;
store.subscribe(() => {
  const now = store.getState().settings;
  if (now === settings) return;
  settings = now;
  applySettings(now);
});
void openOutbox((action) => store.dispatch(action));
// A connection that is back is worth a try at once.
globalThis.addEventListener?.("online", () => store.dispatch(retried()));
