import { mkdirSync } from "node:fs";
import { fileURLToPath } from "node:url";
import { type FullConfig, request } from "@playwright/test";

const stateOf = (name: string): string => fileURLToPath(new URL(`./.auth/${name}.json`, import.meta.url));

/** Where the signed-in technician's cookies are kept for every test, and the foreman's for those that need one. */
export const WREN = stateOf("wren");
export const ODETTE = stateOf("odette");

const KEYS = [
  ["wren", "lamp-on-the-bench"],
  ["odette", "keys-to-the-yard"],
] as const;

/** Signs the demo's technician and foreman in once, before the tests. */
export default async function signIn(config: FullConfig): Promise<void> {
  const baseURL = config.projects[0]?.use.baseURL ?? "http://127.0.0.1:4680";
  mkdirSync(fileURLToPath(new URL("./.auth", import.meta.url)), { recursive: true });
  for (const [username, password] of KEYS) {
    const context = await request.newContext({ baseURL, extraHTTPHeaders: { origin: baseURL } });
    const answer = await context.post("/api/auth/sign-in/username", { data: { username, password } });
    if (!answer.ok()) throw new Error(`${username} cannot sign in: ${answer.status()} ${await answer.text()}`);
    await context.storageState({ path: stateOf(username) });
    await context.dispose();
  }
}
