import { BadInput, depthOf, MOST_DEPTH } from "@fox-lamp/language";
import type { Context, MiddlewareHandler } from "hono";
import { bodyLimit } from "hono/body-limit";
import { secureHeaders } from "hono/secure-headers";

/** Bytes a body may have: of anybody at the front door, of somebody signed in, and where more is right. */
const AT_THE_DOOR = 16_000;
const USUAL = 1_000_000;
const LARGER: readonly (readonly [route: RegExp, bytes: number, what: string])[] = [
  [/^\/api\/jobs\/import$/u, 60_000_000, "file"],
  [/^\/api\/shelf\/(?:look|imports)$/u, 4_000_000, "list of records"],
  [/^\/api\/jobs\/[^/]+\/photos\//u, 3_000_000, "photo"],
  [/^\/api\/jobs\/[^/]+\/recordings\//u, 8_000_000, "recording"],
  [/^\/api\/jobs\/[^/]+\/captures\//u, 2_000_000, "part of a capture"],
];
const CHANGING = new Set(["POST", "PUT", "PATCH"]);

function megabytes(bytes: number): string {
  return bytes >= 1_000_000 ? `${bytes / 1_000_000} MB` : `${bytes / 1000} kB`;
}

type Incoming = AsyncIterable<Buffer> & { readonly readableEnded: boolean };

/** What a request's body comes from: its socket; null where there is none, as in a test. */
function socketOf(context: Context): Incoming | null {
  const incoming = (context.env as { incoming?: Incoming } | undefined)?.incoming;
  return incoming === undefined || incoming.readableEnded ? null : incoming;
}

/**
 * A body as text, taken from the socket for whoever reads it later: a request object of the web's kind, made only to be read, costs more than
 * storing a reading.
 */
async function textFrom(incoming: Incoming, maxSize: number, onError: () => never): Promise<string> {
  const chunks: Buffer[] = [];
  let size = 0;
  for await (const chunk of incoming) {
    size += chunk.length;
    if (size > maxSize) onError();
    chunks.push(chunk);
  }
  return Buffer.concat(chunks).toString("utf8");
}

/** Refuses a body that is larger than its route takes, before it is read. @param atDoor whether nobody needs to be signed in here */
export function limitBodies(atDoor: (method: string, path: string) => boolean): MiddlewareHandler {
  return async (context, next) => {
    const { method, path } = context.req;
    const [, bytes = USUAL, what = "body"] = LARGER.find(([pattern]) => pattern.test(path)) ?? [];
    const maxSize = atDoor(method, path) ? AT_THE_DOOR : bytes;
    const onError = (): never => {
      throw new BadInput({ code: "body:too-large", where: what, message: `is larger than ${megabytes(maxSize)}; expected a smaller one` });
    };
    if (Number(context.req.header("content-length") ?? 0) > maxSize) onError();
    const incoming = readsJson(context) ? socketOf(context) : null;
    if (incoming === null) return bodyLimit({ maxSize, onError })(context, next);
    const text = await textFrom(incoming, maxSize, onError);
    // What is kept there is a promise, whatever its type says.
    context.req.bodyCache.text = Promise.resolve(text) as unknown as string;
    return next();
  };
}

/** Whether a body of this request is read as JSON: photos are pictures, parts of captures are packed, and sign-in reads its own. */
function readsJson({ req: { method, path } }: Context): boolean {
  return CHANGING.has(method) && !/\/(photos|parts)\//u.test(path) && !path.startsWith("/api/auth/");
}

/** Bodies are JSON, say so, are not nested beyond reason and hold no NUL: everything else is refused by name. */
export const onlyPlainJson: MiddlewareHandler = async (context, next) => {
  if (!readsJson(context)) return next();
  const type = context.req.header("content-type") ?? "";
  if (!/^application\/json\s*(;|$)/iu.test(type))
    return context.json({ code: "body:type", where: "content-type", message: `is "${type.slice(0, 60)}"; expected application/json` }, 415);
  const text = await context.req.text();
  if (depthOf(text, MOST_DEPTH + 1) > MOST_DEPTH)
    throw new BadInput({ code: "body:too-deep", where: "body", message: `is nested deeper than ${MOST_DEPTH} levels` });
  if (/\\u0000/u.test(text) || text.includes("\0")) throw new BadInput({ code: "text:character", where: "body", message: "holds a NUL; no text can have one" });
  return next();
};

/** What browsers are told: no script but our own files, no framing, no guessing of types, nothing kept of answers. */
export const headers: MiddlewareHandler = secureHeaders({
  contentSecurityPolicy: {
    defaultSrc: ["'self'"],
    // The PDF's layout engine is WebAssembly of our own files; no text is ever run as a script.
    scriptSrc: ["'self'", "'wasm-unsafe-eval'"],
    // Charts set the style of their parts.
    styleSrc: ["'self'", "'unsafe-inline'"],
    imgSrc: ["'self'", "data:", "blob:"],
    fontSrc: ["'self'", "data:"],
    // The PDF reads its fonts from addresses that hold them.
    connectSrc: ["'self'", "data:", "blob:"],
    workerSrc: ["'self'", "blob:"],
    objectSrc: ["'none'"],
    baseUri: ["'none'"],
    formAction: ["'self'"],
    frameAncestors: ["'none'"],
  },
  xFrameOptions: "DENY",
  referrerPolicy: "same-origin",
  crossOriginEmbedderPolicy: false,
  strictTransportSecurity: false,
});

const YEAR_SECONDS = 31_536_000;

/** Answers of the interface are kept by nobody; behind TLS the browser is told to stay there. @param trusted whether proxies in front say how the client came */
export function privateAnswers(trusted: boolean): MiddlewareHandler {
  return async (context, next) => {
    await next();
    const { path } = context.req;
    // Set on the answer itself: through the context it would be made anew, and sent as a stream.
    const { headers } = context.res;
    if (path.startsWith("/api/") && headers.get("cache-control") === null) headers.set("cache-control", "no-store");
    if (trusted && context.req.header("x-forwarded-proto") === "https") headers.set("strict-transport-security", `max-age=${YEAR_SECONDS}; includeSubDomains`);
  };
}
