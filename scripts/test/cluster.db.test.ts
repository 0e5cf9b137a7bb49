import { execFile } from "node:child_process";
import { chmodSync, cpSync, existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync } from "node:fs";
import { resolve } from "node:path";

/** A checkout of its own with the scripts in it, and a folder for the shop's data beside it: both open to the cluster's user. */
let place: string;
const checkout = (): string => `${place}/checkout`;
beforeAll(() => {
  place = mkdtempSync("/var/tmp/fox-lamp-test-");
  mkdirSync(checkout(), { recursive: true });
  chmodSync(place, 0o755);
  cpSync(resolve(__dirname, "../lib"), `${checkout()}/scripts/lib`, { recursive: true });
});
afterAll(() => rmSync(place, { recursive: true, force: true }));

/** What a program with the scripts at hand prints and says. */
function script(source: string, env: Record<string, string>): Promise<string> {
  const program = `
    import { dataFolder, startCluster } from ${JSON.stringify(`${checkout()}/scripts/lib/cluster.mjs`)};
    import { ensurePostgres } from ${JSON.stringify(`${checkout()}/scripts/lib/machine.mjs`)};
    const bin = await ensurePostgres();
    ${source}`;
  return new Promise((done) =>
    execFile(
      process.execPath,
      ["--input-type=module", "-e", program],
      { env: { PATH: process.env["PATH"] ?? "", HOME: `${place}/home`, ...env } },
      (_error, stdout, stderr) => done(`${stdout}${stderr}`.trim()),
    ),
  );
}
const MARK = `console.log(JSON.stringify((await import("node:fs")).readdirSync(dataFolder()).sort()));`;

describe("where a shop's data lies", () => {
  it.each([
    [{ FOX_LAMP_DATA: "/elsewhere/data" }, "/elsewhere/data"],
    [{ XDG_DATA_HOME: "/home/ann/.data" }, process.getuid?.() === 0 ? "/var/lib/fox-lamp" : "/home/ann/.data/fox-lamp"],
  ])("%j", async (env, folder) => {
    expect(await script("console.log(dataFolder());", env)).toBe(folder);
  });

  it("moves there from where an earlier version kept it in the checkout, with all that is in it, and only once", async () => {
    const start = `const cluster = await startCluster(bin, "postgres"); await cluster.stop();`;
    const [old, now] = [{ FOX_LAMP_DATA: `${checkout()}/.data` }, { FOX_LAMP_DATA: `${place}/data` }];
    expect(await script(`${start}${MARK}`, old)).toBe('["postgres","postgres.password"]');
    const password = readFileSync(`${checkout()}/.data/postgres.password`, "utf8");
    const moved = await script(`${start}${MARK}`, now);
    expect(moved).toContain('["postgres","postgres.password"]');
    expect(moved).toContain(`The data has moved from ${checkout()}/.data/postgres to ${place}/data/postgres.`);
    expect(existsSync(`${checkout()}/.data/postgres`)).toBe(false);
    expect(readFileSync(`${place}/data/postgres.password`, "utf8")).toBe(password);
    // What is made in the checkout afterwards is another's, and stays.
    expect(await script(`${start}${MARK}`, old)).toBe('["postgres","postgres.password"]');
    expect(await script(`${start}${MARK}`, now)).toBe('["postgres","postgres.password"]');
    expect(existsSync(`${checkout()}/.data/postgres/PG_VERSION`)).toBe(true);
  });

  it("is not moved away under somebody who works on it", async () => {
    const said = await script(
      `const cluster = await startCluster(bin, "postgres");
       process.env.FOX_LAMP_DATA = ${JSON.stringify(`${place}/third`)};
       try { await startCluster(bin, "postgres"); console.log("started"); } catch (error) { console.log(error.message); }
       await cluster.stop();`,
      { FOX_LAMP_DATA: `${checkout()}/.data` },
    );
    expect(said).toBe(`Fox Lamp runs on the data in ${checkout()}/.data/postgres, which is to move to ${place}/third: stop it first.`);
    expect(existsSync(`${place}/third/postgres`)).toBe(false);
  });
});
