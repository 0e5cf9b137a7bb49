import { execFile } from "node:child_process";
import { randomUUID } from "node:crypto";
import { mkdtempSync, rmSync, statSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join, resolve } from "node:path";
import { fileOfJob } from "@fox-lamp/core";
import { emptyDatabase, entry, newJob, newServer, newShop, reading, rules, serverOn, type TestServer } from "./house";

const SCRIPTS = resolve(__dirname, "../../../scripts");

/** Runs a script on a database as somebody at the machine does. */
function run(script: string, words: string[], database: string, data: string): Promise<{ code: number; said: string }> {
  return new Promise((done) => {
    const env = { ...process.env, DATABASE_URL: database, FOX_LAMP_DATA: data, INIT_CWD: data };
    execFile(process.execPath, [`${SCRIPTS}/${script}.mjs`, ...words], { env }, (error, stdout, stderr) =>
      done({ code: error === null ? 0 : Number(error.code ?? 1), said: `${stdout}${stderr}` }),
    );
  });
}

let folder: string;
beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), "kept-"));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

/** Every job of a shop as a file, and the shop with its people: all that somebody would miss. */
async function everything({ jobs, attachments, people }: TestServer, { shopId, id, role }: Awaited<ReturnType<typeof newShop>>["foreman"]): Promise<unknown> {
  const who = { shopId, id, role };
  const list = await jobs.list(who, {});
  const files = await Promise.all(
    list.map(async (summary) => {
      const [job, header] = [await jobs.find(who, summary.id), await jobs.header(who, summary.id)];
      if (job === null || header === null) throw new Error("a job is gone");
      const file = fileOfJob({ ...job, circuits: header.circuits, simulated: header.simulated }, job.entries, await attachments.all({ shopId, jobId: job.id }));
      return { summary, file, entries: job.entries };
    }),
  );
  return { files, shop: await people.shop(shopId) };
}

it("a backup restored into an empty database has every job, photo, recording and person, and work goes on", async () => {
  const server = await newServer();
  const shop = await newShop(server);
  const ids = [await newJob(server, shop.technician), await newJob(server, shop.technician), await newJob(server, shop.trainee)];
  const key = { shopId: shop.foreman.shopId, jobId: ids[0] ?? "" };
  await server.attachments.putPhoto(key, randomUUID(), { type: "image/png", content: Buffer.from([1, 2, 3]) });
  await server.attachments.putRecording(key, randomUUID(), { title: "t", seconds: [0], channels: [{ name: "a", circuit: null, unit: "V", values: [1.5] }] });
  for (const id of ids) await server.entries.append(shop.technician, id, [reading(4.9), entry("note", { text: "\u00e4\u00f6 \u2126" })], rules);
  for (const jobId of ids) await server.projection.follow({ ...key, jobId });

  const made = await run("backup", ["shop.backup"], server.url, folder);
  expect(made).toMatchObject({ code: 0 });
  expect(statSync(join(folder, "shop.backup")).mode & 0o077).toBe(0);
  expect((await run("backup", ["shop.backup"], server.url, folder)).said).toContain("is there already");
  // What comes after is not in it.
  const before = await everything(server, shop.foreman);
  await server.entries.append(shop.technician, ids[0] ?? "", [reading(1)], rules);

  const url = await emptyDatabase();
  expect(await run("restore", ["shop.backup"], url, folder)).toMatchObject({ code: 0 });
  const restored = serverOn(url);
  expect(await everything(restored, shop.foreman)).toEqual(before);
  expect(await restored.entries.append(shop.technician, ids[0] ?? "", [reading(2)], rules)).toMatchObject([{ seq: 4 }]);
  expect((await restored.jobs.header(shop.foreman, await newJob(restored, shop.technician)))?.number).toBe(4);
  await restored.projection.follow(key);

  // Where shops are, nothing is put over them unless that is asked for; then they are saved first.
  expect((await run("restore", ["shop.backup"], url, folder)).said).toContain("--replace");
  const changed = await everything(restored, shop.foreman);
  const replaced = await run("restore", ["shop.backup", "--replace"], url, folder);
  expect(replaced.code).toBe(0);
  expect(await everything(restored, shop.foreman)).toEqual(before);
  const saved = /What was there is in (\S+)\.\n/u.exec(replaced.said)?.[1] ?? "";
  expect(await run("restore", [saved, "--replace"], url, folder)).toMatchObject({ code: 0 });
  expect(await everything(restored, shop.foreman)).toEqual(changed);
  await Promise.all([server.close(), restored.close()]);
});

it("a file that is no backup changes nothing", async () => {
  const server = await newServer();
  const shop = await newShop(server);
  await newJob(server, shop.technician);
  const before = await everything(server, shop.foreman);
  writeFileSync(join(folder, "letter.txt"), "Dear shop");
  for (const [words, said] of [
    [["letter.txt", "--replace"], "is no backup of Fox Lamp"],
    [["nowhere.backup"], "There is no file"],
    [[], "Type: npm run restore"],
  ] as const) {
    const answer = await run("restore", [...words], server.url, folder);
    expect([answer.code, answer.said]).toEqual([1, expect.stringContaining(said)]);
  }
  expect(await everything(server, shop.foreman)).toEqual(before);
  await server.close();
});
