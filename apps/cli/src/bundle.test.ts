import { mkdtempSync, rmSync, statSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { bundleIn } from "./bundle";

const folder = mkdtempSync(join(tmpdir(), "fox-lamp-"));
afterAll(() => rmSync(folder, { recursive: true, force: true }));

describe("the bundle of the command line", () => {
  it("loads without anything kept, with what was kept, and with what is no use", () => {
    const kept = join(folder, "fox-lamp.kept");
    writeFileSync(join(folder, "fox-lamp.cjs"), `"use strict"; module.exports = { sep: require("node:path").sep, lamp: () => "lit" };`);
    const lit = (): string => {
      const { sep, lamp } = bundleIn<{ sep: string; lamp: () => string }>(folder).load();
      return sep + lamp();
    };
    expect(lit()).toBe("/lit");
    bundleIn(folder).keep();
    expect(statSync(kept).size).toBeGreaterThan(0);
    expect(lit()).toBe("/lit");
    writeFileSync(kept, "of another version");
    expect(lit()).toBe("/lit");
  });
});
