import { mkdtempSync, readFileSync, rmSync, statSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { bundleIn } from "./bundle";

const folder = mkdtempSync(join(tmpdir(), "fox-lamp-"));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

describe("the bundle of the command line", () => {
  it("runs without anything kept, with what was kept, and with what is no use", () => {
    const [kept, said] = [join(folder, "fox-lamp.kept"), join(folder, "said.txt")];
    writeFileSync(join(folder, "fox-lamp.cjs"), `require("node:fs").appendFileSync(${JSON.stringify(said)}, "lit ");`);
    const first = bundleIn(folder);
    first.run();
    first.keep();
    expect(statSync(kept).size).toBeGreaterThan(0);
    bundleIn(folder).run();
    writeFileSync(kept, "of another version");
    bundleIn(folder).run();
    expect(readFileSync(said, "utf8")).toBe("lit lit lit ");
  });
});
