import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { answerTo } from "./answer";

const folder = mkdtempSync(join(tmpdir(), "fox-lamp-"));
afterAll(() => rmSync(folder, { recursive: true, force: true }));
const bytes = (content: unknown): Uint8Array => new TextEncoder().encode(JSON.stringify(content));

const FILE = { circuits: [{ id: "ect", family: "thermistor-2w" }], faults: [], measurements: [{ id: "a", meter: "volts-dc", red: "bat+", black: "bat-" }] };

describe("answers of the command line", () => {
  it("says how it is used, for nothing and for help", async () => {
    const nothing = await answerTo([]);
    expect(nothing).toMatchObject({ code: 2, stdout: "" });
    expect(nothing.stderr).toMatch(/^Usage:\n {2}fox-lamp families\n/u);
    expect(await answerTo(["--help"])).toEqual({ ...nothing, code: 0 });
  });
  it("refuses what is no command", async () => {
    const { code, stdout, stderr } = await answerTo(["mesure", "a.json"]);
    expect([code, stdout]).toEqual([2, ""]);
    expect(stderr).toMatch(/^"mesure" is not a command; expected one of families, .*trial\n$/u);
  });
  it("answers from a file and from what was read already alike", async () => {
    const path = join(folder, "measure.json");
    writeFileSync(path, bytes(FILE));
    const read = await answerTo(["measure", path]);
    expect(read).toMatchObject({ code: 0, stderr: "" });
    expect(read.stdout).toMatch(/"id": "a"/u);
    expect(await answerTo(["measure", "-"], bytes(FILE))).toEqual(read);
  });
  it("says bad input in one line that names the file, whatever the file holds", async () => {
    const { code, stdout, stderr } = await answerTo(["measure", "-"], bytes({ ...FILE, circuits: [{ id: "a\nb", family: "thermistor-2w" }] }));
    expect([code, stdout]).toEqual([2, ""]);
    expect(stderr.trimEnd()).not.toContain("\n");
    expect((await answerTo(["measure", "-"], new TextEncoder().encode("{"))).stderr).toMatch(/^standard input: is not JSON/u);
    expect((await answerTo(["measure", join(folder, "none.json")])).stderr).toMatch(/none\.json: there is no such file\n$/u);
  });
});
