import type { NewEntry } from "@fox-lamp/language";
import { IDBFactory } from "fake-indexeddb";
import "fake-indexeddb/auto";
import type { KeptEntries as Kept, Waiting } from "./kept";
import type { Outbox } from "./state";

/** What the server answers to the next calls, the oldest first; a status for refusals, null for no connection, else it takes everything. */
type Answer = number | null | "takes" | { readonly refuses: string };
const sent: { job: string; ids: string[] }[] = [];
let answers: Answer[] = [];
/** Jobs whose entries meet trouble however often they are sent. */
const troubled = new Set<string>();
const old = new Map<string, string>();

globalThis.localStorage = {
  getItem: (key: string) => old.get(key) ?? null,
  setItem: (key: string, value: string) => void old.set(key, value),
  removeItem: (key: string) => void old.delete(key),
} as Storage;
globalThis.fetch = async (input: RequestInfo | URL) => {
  const request = input as Request;
  const { entries } = (await request.clone().json()) as { entries: NewEntry[] };
  const job = /jobs\/([^/]+)\//u.exec(request.url)?.[1] ?? "";
  sent.push({ job, ids: entries.map(({ id }) => id) });
  if (troubled.has(job)) return Response.json({ code: "database:busy", where: "", message: "busy" }, { status: 503 });
  const answer = answers.length > 0 ? answers.shift() : "takes";
  if (answer === null) throw new TypeError("no connection");
  if (typeof answer === "number") return Response.json({ code: "x", where: "entries[0]", message: "it cannot be" }, { status: answer });
  if (typeof answer === "object") {
    const at = entries.findIndex(({ id }) => id === answer.refuses);
    return Response.json({ code: "x", where: `entries[${at}].body`, message: "it cannot be" }, { status: 400 });
  }
  return Response.json(entries.map((entry, index) => ({ ...entry, seq: index + 1 })));
};
// Pages that are never closed would keep the test alive.
const PlainChannel = globalThis.BroadcastChannel;
globalThis.BroadcastChannel = class extends PlainChannel {
  constructor(name: string) {
    super(name);
    (this as unknown as { unref: () => void }).unref();
  }
};
// Relative addresses need a page; here there is none.
const PlainRequest = globalThis.Request;
globalThis.Request = class extends PlainRequest {
  constructor(input: RequestInfo | URL, init?: RequestInit) {
    super(typeof input === "string" && input.startsWith("/") ? `http://fox.lamp${input}` : input, init);
  }
} as typeof Request;

const note = (id: string): NewEntry => ({ id, at: "2026-03-02T09:00:00Z", by: "Wren", kind: "note", body: { text: id } }) as NewEntry;

/** A page that was just opened on the device, by somebody. */
async function opened(person: string | null = "wren") {
  jest.resetModules();
  const { configureStore } = await import("@reduxjs/toolkit");
  const { api } = await import("../app/api");
  const { discarded, entered, openOutbox, outboxMiddleware, outboxReducer, personIs, triedAgain } = await import("./index");
  const { KeptEntries } = await import("./kept");
  const store = configureStore({
    reducer: { [api.reducerPath]: api.reducer, outbox: outboxReducer },
    // The checks of development warn by the clock: on a slow machine after the test is over.
    middleware: (defaults) => defaults({ serializableCheck: false, immutableCheck: false }).prepend(outboxMiddleware.middleware).concat(api.middleware),
  });
  await openOutbox((action) => store.dispatch(action));
  const outbox = (): Outbox => store.getState().outbox;
  const signIn = (id: string | null): void => void store.dispatch(personIs(id));
  signIn(person);
  return {
    outbox,
    signIn,
    enter: (job: string, ...ids: string[]) => void store.dispatch(entered({ job, person: person ?? "", entries: ids.map(note) })),
    discard: (id: string) => void store.dispatch(discarded(id)),
    tryAgain: (id: string) => void store.dispatch(triedAgain(id)),
    onDisk: async (): Promise<readonly Waiting[]> => {
      const kept: Kept = await KeptEntries.open();
      const all = await kept.all();
      kept.close();
      return all;
    },
  };
}
type Device = Awaited<ReturnType<typeof opened>>;

const idsOf = (items: readonly Waiting[]): string[] => items.map(({ entry }) => entry.id);

async function until(holds: () => boolean | Promise<boolean>): Promise<void> {
  for (let turn = 0; turn < 400 && !(await holds()); turn += 1) {
    await new Promise<void>((resolve) => setImmediate(resolve));
    await jest.advanceTimersByTimeAsync(1);
  }
  expect(await holds()).toBe(true);
}

describe("the outbox", () => {
  let device: Device;
  beforeEach(() => {
    jest.useFakeTimers({ doNotFake: ["nextTick", "setImmediate", "queueMicrotask"] });
    sent.length = 0;
    answers = [];
    troubled.clear();
    old.clear();
    globalThis.indexedDB = new IDBFactory();
  });
  afterEach(() => {
    jest.useRealTimers();
  });

  it("sends what is entered, a job at a time, and forgets what the server has", async () => {
    device = await opened();
    device.enter("a", "1", "2");
    device.enter("b", "3");
    await until(() => device.outbox().waiting.length === 0);
    expect(sent.flatMap(({ ids }) => ids)).toEqual(["1", "2", "3"]);
    await until(async () => (await device.onDisk()).length === 0);
  });

  it("has it on the disk before the server answers, and a page opened later sends it", async () => {
    answers = [null];
    device = await opened();
    device.enter("a", "1", "2");
    await until(async () => idsOf(await device.onDisk()).join() === "1,2");
    await until(() => device.outbox().failing);
    sent.length = 0;
    // The page is gone, as after a kill; another one is opened.
    const later = await opened();
    await until(() => later.outbox().waiting.length === 0);
    expect(sent[0]).toEqual({ job: "a", ids: ["1", "2"] });
  });

  it("says at once that what it wrote is to stay: whoever loads another page this very moment loses nothing", async () => {
    answers = [null];
    device = await opened();
    const commit = jest.spyOn(IDBTransaction.prototype, "commit");
    const heard: string[] = [];
    const put = jest.spyOn(IDBObjectStore.prototype, "put").mockImplementation(function (this: IDBObjectStore, ...given) {
      put.mockRestore();
      const request = this.put(...given);
      request.addEventListener("success", () => heard.push(`in the store, committed ${commit.mock.calls.length}`));
      return request;
    });
    device.enter("a", "1");
    await until(() => heard.length > 0);
    expect(heard).toEqual(["in the store, committed 1"]);
    commit.mockRestore();
    await until(async () => idsOf(await device.onDisk()).join() === "1");
  });

  it("keeps entries while nobody answers, says so, and sends them again by itself", async () => {
    answers = [null];
    device = await opened();
    device.enter("a", "1");
    await until(() => device.outbox().failing);
    expect(idsOf(device.outbox().waiting)).toEqual(["1"]);
    await jest.advanceTimersByTimeAsync(5000);
    await until(() => device.outbox().waiting.length === 0 && !device.outbox().failing);
    expect(sent).toHaveLength(2);
  });

  it("sets aside what the server refuses for good, whole, and sends what stands behind it", async () => {
    answers = [{ refuses: "2" }];
    device = await opened();
    device.enter("a", "1", "2", "3");
    await until(() => device.outbox().waiting.length === 0);
    expect(device.outbox().setAside.map(({ entry, refused }) => [entry.id, refused])).toEqual([["2", "it cannot be"]]);
    expect(sent.at(-1)).toEqual({ job: "a", ids: ["1", "3"] });
    // It is still there after the page was opened anew, until somebody tries again or throws it away.
    const later = await opened();
    await until(() => later.outbox().setAside.length === 1);
    later.tryAgain("2");
    await until(() => later.outbox().setAside.length === 0 && later.outbox().waiting.length === 0);
    expect(sent.at(-1)).toEqual({ job: "a", ids: ["2"] });
    answers = [400];
    later.enter("a", "4");
    await until(() => later.outbox().setAside.length === 1);
    later.discard("4");
    await until(async () => (await later.onDisk()).length === 0);
  });

  it("lets no job in trouble hold up another", async () => {
    troubled.add("a");
    device = await opened();
    device.enter("a", "1");
    device.enter("b", "2");
    await until(() => idsOf(device.outbox().waiting).join() === "1");
    expect(sent.some(({ job }) => job === "b")).toBe(true);
    troubled.clear();
    await jest.advanceTimersByTimeAsync(5000);
    await until(() => device.outbox().waiting.length === 0);
  });

  it("sends many entries in chunks, each once", async () => {
    device = await opened();
    const ids = Array.from({ length: 210 }, (_, index) => String(index));
    device.enter("a", ...ids);
    await until(() => device.outbox().waiting.length === 0);
    expect(sent.flatMap((one) => one.ids)).toEqual(ids);
    expect(Math.max(...sent.map((one) => one.ids.length))).toBeLessThanOrEqual(50);
  });

  it("sends only what the person who is signed in has entered", async () => {
    answers = [401];
    device = await opened("wren");
    device.enter("a", "1");
    await until(() => sent.length === 1);
    device.signIn("perrin");
    await jest.advanceTimersByTimeAsync(5000);
    expect(sent).toHaveLength(1);
    expect(idsOf(device.outbox().waiting)).toEqual(["1"]);
    device.signIn("wren");
    await until(() => device.outbox().waiting.length === 0);
  });

  it("loses nothing between two pages of one device", async () => {
    answers = [null, null];
    const one = await opened();
    one.enter("a", "1");
    await until(async () => (await one.onDisk()).length === 1);
    const other = await opened();
    other.enter("a", "2");
    await until(async () => idsOf(await other.onDisk()).length === 2 || other.outbox().waiting.length === 0);
    await jest.advanceTimersByTimeAsync(9000);
    await until(() => one.outbox().waiting.length === 0 && other.outbox().waiting.length === 0);
    expect(new Set(sent.flatMap(({ ids }) => ids))).toEqual(new Set(["1", "2"]));
  });

  it("moves over what waited where entries were kept before", async () => {
    old.set("fox-lamp/outbox", JSON.stringify([{ job: "a", entry: note("1") }]));
    device = await opened();
    await until(() => device.outbox().waiting.length === 0 && sent.length === 1);
    expect(sent[0]).toEqual({ job: "a", ids: ["1"] });
    expect(old.has("fox-lamp/outbox")).toBe(false);
    old.set("fox-lamp/outbox", "{ broken");
    expect((await opened()).outbox().waiting).toEqual([]);
  });

  it("says so where the device keeps nothing, and sends what is entered all the same", async () => {
    globalThis.indexedDB = {
      open: () => {
        throw new Error("switched off");
      },
    } as unknown as IDBFactory;
    answers = [null];
    device = await opened();
    device.enter("a", "1");
    await until(() => device.outbox().storage === "full" && device.outbox().failing);
    expect(idsOf(device.outbox().waiting)).toEqual(["1"]);
    await jest.advanceTimersByTimeAsync(5000);
    await until(() => device.outbox().waiting.length === 0);
  });
});
