import type { NewEntry } from "@fox-lamp/language";
import type { discarded as Discarded, entered as Entered, Outbox, retried as Retried } from "./outbox";

/** What the server answers to the next calls, the oldest first; a status for refusals, null for no connection, else it takes everything. */
type Answer = number | null | "takes";
const sent: { job: string; ids: string[] }[] = [];
let answers: Answer[] = [];
const kept = new Map<string, string>();

globalThis.localStorage = {
  getItem: (key: string) => kept.get(key) ?? null,
  setItem: (key: string, value: string) => void kept.set(key, value),
  removeItem: (key: string) => void kept.delete(key),
} as Storage;
globalThis.fetch = async (input: RequestInfo | URL) => {
  const request = input as Request;
  const { entries } = (await request.clone().json()) as { entries: NewEntry[] };
  sent.push({ job: /jobs\/([^/]+)\//u.exec(request.url)?.[1] ?? "", ids: entries.map(({ id }) => id) });
  const answer = answers.length > 0 ? answers.shift() : "takes";
  if (answer === null) throw new TypeError("no connection");
  if (typeof answer === "number") return Response.json({ code: "x", where: "entries[0]", message: "it cannot be" }, { status: answer });
  return Response.json(entries.map((entry, index) => ({ ...entry, seq: index + 1 })));
};
// Relative addresses need a page; here there is none.
const PlainRequest = globalThis.Request;
globalThis.Request = class extends PlainRequest {
  constructor(input: RequestInfo | URL, init?: RequestInit) {
    super(typeof input === "string" && input.startsWith("/") ? `http://fox.lamp${input}` : input, init);
  }
} as typeof Request;

const note = (id: string): NewEntry => ({ id, at: "2026-03-02T09:00:00Z", by: "Wren", kind: "note", body: { text: id } }) as NewEntry;

interface Device {
  readonly outbox: () => Outbox;
  readonly enter: (job: string, ...ids: string[]) => void;
  readonly dispatch: (action: ReturnType<typeof Discarded | typeof Retried | typeof Entered>) => void;
  readonly actions: { readonly discarded: typeof Discarded; readonly retried: typeof Retried };
}

/** A page that was just opened on the device. */
async function opened(): Promise<Device> {
  jest.resetModules();
  const { configureStore } = await import("@reduxjs/toolkit");
  const { api } = await import("./api");
  const { outboxMiddleware, outboxReducer, entered, discarded, retried } = await import("./outbox");
  const store = configureStore({
    reducer: { [api.reducerPath]: api.reducer, outbox: outboxReducer },
    middleware: (defaults) => defaults().prepend(outboxMiddleware.middleware).concat(api.middleware),
  });
  return {
    outbox: () => store.getState().outbox,
    enter: (job, ...ids) => void store.dispatch(entered({ job, entries: ids.map(note) })),
    dispatch: (action) => void store.dispatch(action),
    actions: { discarded, retried },
  };
}

/** Lets everything that is under way come to rest. */
async function settled(milliseconds = 0): Promise<void> {
  await jest.advanceTimersByTimeAsync(milliseconds);
  for (let turn = 0; turn < 40; turn += 1) await new Promise<void>((resolve) => process.nextTick(resolve));
  await jest.advanceTimersByTimeAsync(0);
}

describe("the outbox", () => {
  beforeEach(() => {
    jest.useFakeTimers({ doNotFake: ["nextTick", "setImmediate", "queueMicrotask"] });
    sent.length = 0;
    answers = [];
    kept.clear();
  });
  afterEach(() => {
    jest.useRealTimers();
  });

  async function until(device: Device, holds: (outbox: Outbox) => boolean): Promise<void> {
    for (let turn = 0; turn < 200 && !holds(device.outbox()); turn += 1) {
      await new Promise<void>((resolve) => setImmediate(resolve));
      await settled();
    }
    expect(holds(device.outbox())).toBe(true);
  }

  it("sends what is entered, a job at a time, and forgets what the server has", async () => {
    const device = await opened();
    device.enter("a", "1", "2");
    device.enter("b", "3");
    await until(device, ({ waiting }) => waiting.length === 0);
    expect(sent[0]?.job).toBe("a");
    expect(sent.flatMap(({ ids }) => ids).filter((id, index, all) => all.indexOf(id) === index)).toEqual(["1", "2", "3"]);
    expect(sent.at(-1)?.job).toBe("b");
    expect(JSON.parse(kept.get("fox-lamp/outbox") ?? "[]")).toEqual([]);
  });

  it("keeps entries while nobody answers, says so, and sends them again by itself", async () => {
    answers = [null];
    const device = await opened();
    device.enter("a", "1");
    await until(device, ({ failing }) => failing);
    expect(device.outbox()).toMatchObject({ refused: null });
    expect(device.outbox().waiting.map(({ entry }) => entry.id)).toEqual(["1"]);
    await settled(5000);
    await until(device, ({ waiting, failing }) => waiting.length === 0 && !failing);
    expect(sent).toHaveLength(2);
  });

  it("holds back what the server refuses for good, with its reason, until it is discarded", async () => {
    answers = [400];
    const device = await opened();
    device.enter("a", "1");
    await until(device, ({ refused }) => refused !== null);
    expect(device.outbox().refused).toBe("it cannot be");
    await settled(20_000);
    expect(sent).toHaveLength(1);
    device.dispatch(device.actions.discarded());
    await until(device, ({ waiting, failing, refused }) => waiting.length === 0 && !failing && refused === null);
  });

  it("waits for somebody to sign in again: signed out is no refusal", async () => {
    answers = [401];
    const device = await opened();
    device.enter("a", "1");
    await until(device, ({ failing }) => failing);
    expect(device.outbox().refused).toBeNull();
    await settled(5000);
    await until(device, ({ waiting }) => waiting.length === 0);
  });

  it("survives a reload: a page opened later has what waited, and sends it when it is told to try", async () => {
    answers = [400];
    const before = await opened();
    before.enter("a", "1", "2");
    await until(before, ({ refused }) => refused !== null);
    answers = [];
    sent.length = 0;
    const after = await opened();
    expect(after.outbox().waiting.map(({ entry }) => entry.id)).toEqual(["1", "2"]);
    after.dispatch(after.actions.retried());
    await until(after, ({ waiting }) => waiting.length === 0);
    expect(sent).toEqual([{ job: "a", ids: ["1", "2"] }]);
  });

  it("starts empty where what was kept cannot be read", async () => {
    kept.set("fox-lamp/outbox", "{ broken");
    expect((await opened()).outbox().waiting).toEqual([]);
    kept.set("fox-lamp/outbox", '{"not":"a list"}');
    expect((await opened()).outbox().waiting).toEqual([]);
  });
});
