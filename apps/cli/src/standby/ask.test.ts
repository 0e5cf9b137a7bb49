import { spawnSync } from "node:child_process";
import { chmodSync, mkdirSync, mkdtempSync, readdirSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { askStandby } from "./ask";
import { inputOf } from "./input-of";
import { placeOf } from "./place";

const folder = mkdtempSync(join(tmpdir(), "fox-lamp-"));
const kept = { ...process.env };
const PERL = join(__dirname, "../../ask.pl");
const given = new TextEncoder().encode("{}");

/** A bundle's folder whose standby answers "by PID" to whatever it is asked, or hangs up. */
function standbyThat(does: "answers" | "hangs up" | "fails to start"): string {
  const dist = mkdtempSync(join(folder, "dist-"));
  writeFileSync(join(dist, "fox-lamp.cjs"), does);
  writeFileSync(
    join(dist, "start.cjs"),
    `process.stdout.write("by node " + process.argv.slice(2).join(" ") + " " + (process.argv[3] === "-" ? require("node:fs").readFileSync(0, "utf8") : ""));`,
  );
  const answer = does === "answers" ? `socket.end("2 " + said.length + " 4\\n" + said + "note")` : "socket.destroy()";
  writeFileSync(
    join(dist, "standby.cjs"),
    does === "fails to start"
      ? "process.exit(1);"
      : `const said = "by " + process.pid;
         const server = require("node:net").createServer((socket) => socket.once("data", () => ${answer}));
         server.listen(process.argv[2], () => process.stdout.write("ready\\n"));
         setTimeout(() => process.exit(0), 1500);`,
  );
  return dist;
}

/** The words asked by the lines of Perl. */
function perl(dist: string, words: readonly string[], input = "", env: Record<string, string> = {}): { code: number | null; stdout: string; stderr: string } {
  const { status, stdout, stderr } = spawnSync("perl", [PERL, dist, ...words], { input, encoding: "utf8", env: { ...process.env, ...env } });
  return { code: status, stdout, stderr };
}

beforeEach(() => {
  process.env["TMPDIR"] = mkdtempSync(join(folder, "tmp-"));
  process.env["FOX_LAMP_STANDBY"] = "";
});
afterAll(() => {
  process.env = kept;
  rmSync(folder, { recursive: true, force: true });
});

describe("asking the standby", () => {
  it("starts it once and asks it again, from Node and from Perl alike", async () => {
    const dist = standbyThat("answers");
    const words = ["diagnose", "-"];
    expect(perl(dist, words, "{}")).toEqual({ code: 0, stdout: "by node diagnose - {}", stderr: "" });
    const first = await askStandby(dist, words, given);
    expect(first).toMatchObject({ code: 2, stderr: "note" });
    expect(first?.stdout).toMatch(/^by \d+$/u);
    expect(await askStandby(dist, words, given)).toEqual(first);
    expect(perl(dist, words, "{}")).toEqual(first);
    expect(perl(dist, ["diagnose", join(dist, "start.cjs")])).toEqual(first);
  });
  it("answers by itself where the standby hangs up, and keeps what was read", async () => {
    const dist = standbyThat("hangs up");
    expect(await askStandby(dist, ["diagnose", "-"], given)).toBeNull();
    expect(perl(dist, ["diagnose", "-"], "{ }").stdout).toBe("by node diagnose - { }");
    expect(await askStandby(standbyThat("fails to start"), ["diagnose", "-"], given)).toBeNull();
  });
  it("leaves to Node what the standby is not for", async () => {
    const dist = standbyThat("answers");
    await askStandby(dist, ["diagnose", "-"], given);
    expect(perl(dist, ["trial", "--jobs"]).stdout).toBe("by node trial --jobs ");
    expect(perl(dist, ["explain", "-", "--unit", "ect/sensor"], "x").stdout).toBe("by node explain - --unit ect/sensor x");
    expect(perl(dist, ["diagnose", join(dist, "none.json")]).stdout).toBe(`by node diagnose ${join(dist, "none.json")} `);
    expect(perl(dist, ["diagnose", "-"], "{}", { FOX_LAMP_STANDBY: "off" }).stdout).toBe("by node diagnose - {}");
  });
  it("reads for commands of one file alone", () => {
    const file = join(standbyThat("answers"), "fox-lamp.cjs");
    expect(inputOf(["diagnose", file])?.length).toBe("answers".length);
    expect(inputOf(["diagnose", `${file}.none`])).toBeNull();
    expect(inputOf(["trial", file])).toBeNull();
    expect(inputOf(["explain", file, "--unit", "ect/sensor"])).toBeNull();
    expect(inputOf([])).toBeNull();
  });
});

describe("the place of a standby", () => {
  it("lies in a folder nobody else may enter, and is of one build", () => {
    const [one, other] = [standbyThat("answers"), standbyThat("answers")].map((dist) => placeOf(join(dist, "fox-lamp.cjs")));
    expect(one).not.toBeNull();
    expect(one).not.toBe(other);
    const [own = ""] = readdirSync(process.env["TMPDIR"] ?? "");
    chmodSync(join(process.env["TMPDIR"] ?? "", own), 0o755);
    expect(placeOf(join(standbyThat("answers"), "fox-lamp.cjs"))).toBeNull();
  });
  it("is none where it is not wanted, has no room or no bundle", () => {
    const bundle = join(standbyThat("answers"), "fox-lamp.cjs");
    expect(placeOf(`${bundle}.none`)).toBeNull();
    process.env["FOX_LAMP_STANDBY"] = "off";
    expect(placeOf(bundle)).toBeNull();
    process.env["FOX_LAMP_STANDBY"] = "";
    const long = join(process.env["TMPDIR"] ?? "", "a".repeat(100));
    mkdirSync(long);
    process.env["TMPDIR"] = long;
    expect(placeOf(bundle)).toBeNull();
  });
});
