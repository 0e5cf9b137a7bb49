import { randomUUID } from "node:crypto";
import { request as ask, createServer, type Server } from "node:http";
import { expect, request, test } from "@playwright/test";
import { newDatabase, type OwnServer, startServer } from "../servers";

/** A small balancer: one server after another, the next one where one does not answer. */
function balancer(servers: readonly OwnServer[]): Promise<{ server: Server; url: string }> {
  let turn = 0;
  const server = createServer((incoming, outgoing) => {
    const chunks: Buffer[] = [];
    incoming.on("data", (chunk: Buffer) => chunks.push(chunk));
    incoming.on("end", () => {
      // Each request goes round the servers by itself: what others do meanwhile never brings it back to the one that does not answer.
      turn += 1;
      const first = turn;
      const attempt = (tried: number): void => {
        const { port } = servers[(first + tried) % servers.length] as OwnServer;
        const headers = { ...incoming.headers, "x-forwarded-for": incoming.headers["x-forwarded-for"] ?? "10.5.0.1" };
        // A connection of its own: one kept from before may be closed by its server just as it is used again.
        const onward = ask({ agent: false, port, host: "127.0.0.1", path: incoming.url ?? "/", method: incoming.method ?? "GET", headers }, (answer) => {
          outgoing.writeHead(answer.statusCode ?? 502, answer.headers);
          answer.pipe(outgoing);
          answer.on("error", () => outgoing.destroy());
        });
        onward.on("error", () => {
          if (outgoing.headersSent) outgoing.destroy();
          else if (tried + 1 < servers.length) attempt(tried + 1);
          else outgoing.writeHead(502).end();
        });
        onward.end(Buffer.concat(chunks));
      };
      attempt(0);
    });
  });
  return new Promise((resolve) => {
    server.listen(0, "127.0.0.1", () => {
      const address = server.address();
      resolve({ server, url: `http://127.0.0.1:${typeof address === "object" && address !== null ? address.port : 0}` });
    });
  });
}

const note = (text: string) => ({ id: randomUUID(), at: "2026-03-02T09:14:00Z", by: "x", kind: "note", body: { text } });

test("three servers on one database are one: streams and call-outs cross between them, and one is killed at will", async ({ browser }) => {
  const database = await newDatabase();
  const servers = [await startServer(database)];
  servers.push(...(await Promise.all([startServer(database), startServer(database)])));
  const { server, url } = await balancer(servers);
  try {
    const device = await request.newContext({ baseURL: url, extraHTTPHeaders: { origin: url }, storageState: { cookies: [], origins: [] } });
    expect((await device.post("/api/auth/sign-in/username", { data: { username: "wren", password: "lamp-on-the-bench" } })).ok()).toBe(true);
    const cookie = (await device.storageState()).cookies.map(({ name: key, value }) => `${key}=${value}`).join("; ");
    const [job] = await (await device.get("/api/jobs?q=904")).json();
    const id = (job ?? (await (await device.get("/api/jobs")).json())[0]).id as string;
    const before = (await (await device.get(`/api/jobs/${id}`)).json()).entries.length as number;

    // A stream on the first server hears of what the others store, and of a call-out the second opened and the third wrote.
    const heard: string[] = [];
    const { code } = await (await device.post("/api/callouts", { data: { job: id } })).json();
    const listen = (path: string): Promise<void> =>
      new Promise((resolve, reject) => {
        const stream = ask({ port: servers[0]?.port, host: "127.0.0.1", path, headers: { cookie } }, (answer) => {
          answer.setEncoding("utf8");
          answer.on("data", (chunk: string) => {
            heard.push(chunk);
            if (chunk.includes("open")) resolve();
          });
          answer.on("error", () => undefined);
        });
        stream.on("error", reject);
        stream.end();
      });
    await listen(`/api/jobs/${id}/events`);
    await listen(`/api/callouts/${code}/events`);
    const to = (index: number) =>
      request.newContext({
        baseURL: `http://127.0.0.1:${servers[index]?.port}`,
        extraHTTPHeaders: { cookie, origin: `http://127.0.0.1:${servers[index]?.port}` },
        storageState: { cookies: [], origins: [] },
      });
    const [second, third] = await Promise.all([to(1), to(2)]);
    const [stored] = await (await second.post(`/api/jobs/${id}/entries`, { data: { entries: [note("from the second")] } })).json();
    await expect.poll(() => heard.join("")).toContain(`"seq":${stored.seq}`);
    const state = { job: id, vehicle: "v", title: "t", how: "h", low: 0, high: 1, unit: "V", word: null, value: 0.5, taken: false, fits: true };
    expect((await third.put(`/api/callouts/${code}`, { data: state })).status()).toBe(200);
    await expect.poll(() => heard.join("")).toContain(code);

    // Work through the balancer goes on while one of them is killed; what was acknowledged is there once.
    const kept: string[] = [];
    for (let round = 0; round < 60; round += 1) {
      if (round === 20) servers[1]?.child.kill("SIGKILL");
      const entry = note(`round ${round}`);
      const answer = await device.post(`/api/jobs/${id}/entries`, { data: { entries: [entry] } });
      if (answer.ok()) kept.push(entry.id);
    }
    expect(kept.length).toBeGreaterThan(55);
    const ids = (await (await device.get(`/api/jobs/${id}`)).json()).entries.map((entry: { id: string }) => entry.id);
    expect(kept.filter((entry) => !ids.includes(entry))).toEqual([]);
    expect(ids).toHaveLength(before + 1 + new Set(ids.slice(before + 1)).size);

    // Two browsers on different servers see one another's readings.
    const context = await browser.newContext({ baseURL: url, storageState: { cookies: [], origins: [] }, extraHTTPHeaders: { origin: url } });
    await context.request.post(`${url}/api/auth/sign-in/username`, { data: { username: "odette", password: "keys-to-the-yard" } });
    const page = await context.newPage();
    await page.goto(`${url}/jobs/${id}`);
    await expect(page.getByText("round 59")).toBeVisible();
    await third.post(`/api/jobs/${id}/entries`, { data: { entries: [note("seen across")] } });
    await expect(page.getByText("seen across")).toBeVisible();
    await context.close();
    await Promise.all([device.dispose(), second.dispose(), third.dispose()]);
  } finally {
    server.closeAllConnections();
    server.close();
    for (const { child } of servers) child.kill("SIGKILL");
  }
});
