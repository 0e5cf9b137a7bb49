import { type DBSchema, type IDBPDatabase, openDB } from "idb";

/** A packed part of a capture that the server has not confirmed yet, or what is known of the capture itself (`part` "meta"). */
export interface KeptPart {
  readonly job: string;
  readonly capture: string;
  readonly part: string;
  readonly content: Uint8Array<ArrayBuffer>;
}

interface Schema extends DBSchema {
  parts: { key: string; value: KeptPart & { readonly key: string } };
}

const DATABASE = "fox-lamp-captures";
const STORE = "parts";
/** What is known of a capture goes first; its parts are refused without it. */
export const META = "meta";

/** Parts of captures that wait on this device until the server has them; gone once it has. */
export class KeptParts {
  private constructor(private readonly database: IDBPDatabase<Schema>) {}

  /** @throws where the browser keeps nothing */
  static async open(): Promise<KeptParts> {
    const database = await openDB<Schema>(DATABASE, 1, { upgrade: (made) => void made.createObjectStore(STORE, { keyPath: "key" }) });
    return new KeptParts(database);
  }

  private static keyOf({ job, capture, part }: Pick<KeptPart, "job" | "capture" | "part">): string {
    return `${job}/${capture}/${part}`;
  }

  async put(part: KeptPart): Promise<void> {
    await this.database.put(STORE, { ...part, key: KeptParts.keyOf(part) });
  }

  async get(job: string, capture: string, part: string): Promise<Uint8Array<ArrayBuffer> | null> {
    return (await this.database.get(STORE, KeptParts.keyOf({ job, capture, part })))?.content ?? null;
  }

  async remove(part: Pick<KeptPart, "job" | "capture" | "part">): Promise<void> {
    await this.database.delete(STORE, KeptParts.keyOf(part));
  }

  /** What waits, each capture's own description before its parts. */
  async waiting(): Promise<Pick<KeptPart, "job" | "capture" | "part">[]> {
    const keys = await this.database.getAllKeys(STORE);
    const parts = keys.map((key) => {
      const [job = "", capture = "", part = ""] = key.split("/");
      return { job, capture, part };
    });
    return parts.sort((a, b) => Number(b.part === META) - Number(a.part === META));
  }
}
