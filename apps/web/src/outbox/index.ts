export { openOutbox, outboxMiddleware } from "./sender";
export { discarded, entered, outboxReducer, personIs, retried, triedAgain } from "./state";
