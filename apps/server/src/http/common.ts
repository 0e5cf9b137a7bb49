import { problemOf, problemSchema } from "@fox-lamp/language";
import { OpenAPIHono, z } from "@hono/zod-openapi";
import type { Context } from "hono";
import { streamSSE } from "hono/streaming";
import type { Auth } from "../accounts/auth";
import type { Who } from "../accounts/who";
import type { Attachments } from "../database/attachments";
import type { CalloutRepository } from "../database/callouts";
import type { CaptureTables } from "../database/captures";
import type { Change, Changes } from "../database/changes";
import type { EntryRepository } from "../database/entries";
import type { FiguresRepository } from "../database/figures";
import type { JobRepository } from "../database/jobs";
import type { PeopleRepository } from "../database/people";
import type { RemovalRepository } from "../database/removals";
import type { ShareRepository } from "../database/shares";
import type { ShelfRepository } from "../database/shelf";
import type { VehicleRepository } from "../database/vehicles";
import type { Work } from "../work/pool";

export interface Env {
  Variables: { who: Who };
}
export type App = OpenAPIHono<Env>;

/** Everything routes need; made once by the server. */
export interface House {
  readonly auth: Auth;
  readonly jobs: JobRepository;
  readonly entries: EntryRepository;
  readonly people: PeopleRepository;
  readonly vehicles: VehicleRepository;
  readonly attachments: Attachments;
  readonly captures: CaptureTables;
  readonly callouts: CalloutRepository;
  readonly shares: ShareRepository;
  readonly shelf: ShelfRepository;
  readonly removals: RemovalRepository;
  readonly figures: FiguresRepository;
  readonly changes: Pick<Changes, "listen">;
  readonly work: Pick<Work, "run">;
  /** How many proxies stand in front, each of which adds where a request came from. */
  readonly trustedProxies: number;
  /** Whether the demo's people and how they enter are told at the front door. */
  readonly demo: boolean;
}

/** An application whose routes answer what does not fit their schema with one problem. */
export function newApp(): App {
  return new OpenAPIHono<Env>({
    defaultHook: (result, context) => {
      if (!result.success) return context.json(problemOf(result.error as z.ZodError, undefined), 400);
    },
  });
}

export const json = <S extends z.ZodType>(schema: S, description: string) => ({ content: { "application/json": { schema } }, description });
export const body = <S extends z.ZodType>(schema: S) => ({ body: { content: { "application/json": { schema } }, required: true } });
export const idParam = z.object({ id: z.uuid().openapi({ param: { name: "id", in: "path" } }) });
export const problem = (description: string) => json(problemSchema, description);
/** What every route behind the front door may answer. */
export const closed = { 401: problem("Nobody is signed in"), 403: problem("This person may not do that") };

export const noJob = { code: "job:not-found", where: "id", message: "there is no such job in this shop" };
export const noVehicle = { code: "vehicle:not-found", where: "id", message: "there is no such vehicle in this shop" };
export const notAllowed = { code: "role:not-allowed", where: "", message: "only a foreman of this shop may do that" };
export const ownerOnly = { code: "role:not-owner", where: "", message: "only who set up this installation may do that" };
export const tooManyCodes = { code: "code:too-many", where: "code", message: "too many codes that open nothing came from here; wait some minutes" };
export const signIn = { code: "session:none", where: "", message: "sign in first" };

/** A line nobody reads, so that proxies keep an event stream open. */
const HEARTBEAT_MS = 20_000;

/** Sends an event whenever something that concerns the client changed, until it goes away. @param mayStill whether the client may still listen */
export function streamChanges(
  context: Context,
  changes: Pick<Changes, "listen">,
  concerns: (change: Change) => boolean,
  mayStill: () => Promise<boolean> = () => Promise.resolve(true),
): Response {
  return streamSSE(context, async (stream) => {
    let gone: () => void = () => undefined;
    const away = new Promise<void>((resolve) => {
      gone = resolve;
    });
    const stop = changes.listen((change) => {
      if (change === null || concerns(change)) void stream.writeSSE({ event: "changed", data: JSON.stringify(change) });
    });
    const beat = setInterval(() => {
      // Access that was taken back ends what is open too.
      mayStill().then(
        (may) => (may ? void stream.writeSSE({ event: "beat", data: "" }) : gone()),
        () => undefined,
      );
    }, HEARTBEAT_MS);
    stream.onAbort(gone);
    await stream.writeSSE({ event: "open", data: "" });
    await away;
    clearInterval(beat);
    stop();
  });
}
