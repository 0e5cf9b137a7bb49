import { spawn, spawnSync } from "node:child_process";
import { randomUUID } from "node:crypto";
import { mkdtempSync, readdirSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { fileURLToPath } from "node:url";
import { expect, test } from "@playwright/test";

const COMMAND = fileURLToPath(new URL("../../bin/fox-lamp", import.meta.url));
const SERVER = fileURLToPath(new URL("../../apps/server/dist/server.mjs", import.meta.url));
const command = (words: string[], input = "") => spawnSync(COMMAND, words, { input, encoding: "utf8" });

/** A second server process on the same database, as after a restart. */
async function anotherServer(): Promise<{ url: string; stop: () => Promise<number | null> }> {
  const child = spawn(process.execPath, [SERVER], { env: { ...process.env, PORT: "0", LOG_LEVEL: "silent" }, stdio: ["ignore", "ignore", "inherit", "ipc"] });
  const ended = new Promise<number | null>((resolve) => child.on("exit", resolve));
  const port = await new Promise<number>((resolve, reject) => {
    child.on("message", (message: { port: number }) => resolve(message.port));
    child.on("exit", (code) => reject(new Error(`the server ended with ${code}`)));
  });
  return {
    url: `http://127.0.0.1:${port}`,
    stop: () => {
      child.kill("SIGTERM");
      return ended;
    },
  };
}

test("what one server stored, a server started later has, and it stops gracefully", async ({ request }) => {
  const [job] = await (await request.get("/api/jobs")).json();
  const id = randomUUID();
  const entry = { id, at: "2026-03-02T09:14:00Z", by: "Wren", kind: "note", body: { text: "seal missing, ordered" } };
  expect((await request.post(`/api/jobs/${job.id}/entries`, { data: { entries: [entry] } })).ok()).toBe(true);
  const later = await anotherServer();
  try {
    const stored = await (await request.get(`${later.url}/api/jobs/${job.id}`)).json();
    expect(stored.entries.find((candidate: { id: string }) => candidate.id === id)).toMatchObject({
      kind: "note",
      body: { text: "seal missing, ordered" },
      by: "Wren Halloran",
    });
    expect((await (await request.get(`${later.url}/api/jobs`)).json()).length).toBe((await (await request.get("/api/jobs")).json()).length);
  } finally {
    expect(await later.stop()).toBe(0);
  }
});

test("a database that cannot be reached gets one clear sentence", () => {
  const { status, stderr } = spawnSync(process.execPath, [SERVER], {
    env: { ...process.env, DATABASE_URL: "postgres://nobody:x@127.0.0.1:1/none", PORT: "0" },
    encoding: "utf8",
  });
  expect(status).toBe(3);
  expect(stderr).toMatch(/^The database cannot be used: .+\n$/u);
});

test.describe("the command line as a process", () => {
  test("answers JSON on standard output and nothing else", () => {
    const { status, stdout, stderr } = command(["families"]);
    expect(status).toBe(0);
    expect(stderr).toBe("");
    expect(JSON.parse(stdout)).toHaveLength(16);
  });
  test("ends with 2 and one line for bad input", () => {
    for (const [words, input] of [
      [["diagnose", "-"], "{ broken"],
      [["diagnose", "-"], '{"circuits":[{"id":"a","family":"warp"}]}'],
      [["measure", "/nowhere.json"], ""],
      [["trial", "--jobs", "0", "--seed", "1"], ""],
      [["sing"], ""],
    ] as const) {
      const { status, stdout, stderr } = command([...words], input);
      expect(status).toBe(2);
      expect(stdout).toBe("");
      expect(stderr.trimEnd().split("\n")).toHaveLength(1);
      expect(stderr).not.toMatch(/ {4}at /u);
    }
  });
  test("keeps quiet when its reader goes away", () => {
    const { status, stderr } = spawnSync("sh", ["-c", `"${COMMAND}" families | head -c 10`], { encoding: "utf8" });
    expect(status).toBe(0);
    expect(stderr).toBe("");
  });
});

test("a command says the same by itself, through the standby it starts and through the one that is there", async () => {
  const TMPDIR = mkdtempSync(join(tmpdir(), "fox-lamp-standby-"));
  const asked = (words: string[], standby: "on" | "off", input = "") => {
    const { status, stdout, stderr } = spawnSync(COMMAND, words, { input, encoding: "utf8", env: { ...process.env, TMPDIR, FOX_LAMP_STANDBY: standby } });
    return { status, stdout, stderr };
  };
  const sockets = () => readdirSync(TMPDIR).flatMap((folder) => readdirSync(join(TMPDIR, folder)));
  try {
    for (const [words, input] of [
      [["diagnose", fileURLToPath(new URL("../../apps/cli/warm-up/hall.json", import.meta.url))], ""],
      [["measure", "-"], JSON.stringify({ circuits: [{ id: "a", family: "hall-3w" }], faults: [], measurements: [{ meter: "volts-dc", red: "sig@sensor" }] })],
      [["diagnose", "-"], "{ no JSON"],
      [["triage", join(TMPDIR, "none.json")], ""],
    ] as const) {
      const alone = asked([...words], "off", input);
      for (let again = 0; again < 3; again += 1) expect(asked([...words], "on", input)).toEqual(alone);
    }
    expect(sockets()).toHaveLength(1);
    // It ends by itself and leaves nothing.
    await expect.poll(() => sockets().length, { timeout: 60_000 }).toBe(0);
  } finally {
    rmSync(TMPDIR, { recursive: true });
  }
});

test("decks agree with an independent circuit simulator", () => {
  test.skip(spawnSync("ngspice", ["--version"]).error !== undefined, "no circuit simulator on this machine");
  const folder = mkdtempSync(join(tmpdir(), "fox-lamp-deck-"));
  try {
    for (const [circuit, fault, measurement] of [
      [
        { id: "a", family: "thermistor-2w" },
        { id: "a/wire:sig/resistance", ohms: 8500 },
        { meter: "volts-dc", red: "sig@sensor", black: "bat-" },
      ],
      [
        { id: "a", family: "potentiometer-3w" },
        { id: "a/wire:ref/short-ground", ohms: 9 },
        { meter: "volts-dc", red: "ref@module", black: "gnd@module" },
      ],
      [{ id: "a", family: "pressure-3w" }, { id: "a/wire:gnd/open" }, { meter: "volts-dc", red: "sig@module", black: "bat-" }],
      [
        { id: "a", family: "thermistor-2w" },
        { id: "a/wire:gnd/resistance", ohms: 12 },
        { meter: "volts-dc", red: "gnd@sensor", black: "bat-", setup: { open: ["sensor"], add: [{ kind: "lamp", from: "bat+", to: "gnd@sensor" }] } },
      ],
    ] as const) {
      const input = JSON.stringify({ circuits: [circuit], faults: [fault], measurements: [measurement] });
      const ours = JSON.parse(command(["measure", "-"], input).stdout).measurements[0].value as number;
      const deck = command(["netlist", "-"], input).stdout;
      const path = join(folder, "deck.cir");
      writeFileSync(path, deck);
      const { stdout } = spawnSync("ngspice", ["-b", path], { encoding: "utf8" });
      const at = (node: string): number => (node === "0" ? 0 : Number(new RegExp(`^\\s*${node}\\s+(\\S+)\\s*$`, "imu").exec(stdout)?.[1] ?? Number.NaN));
      const [, red = "", black = ""] = /\* red=(\S+) black=(\S+)/u.exec(deck) ?? [];
      expect(Math.abs(at(red) - at(black) - ours)).toBeLessThan(1e-4 * Math.max(1, Math.abs(ours)));
    }
  } finally {
    rmSync(folder, { recursive: true, force: true });
  }
});
