import { existsSync, readdirSync, readFileSync, writeFileSync } from "node:fs";
import { dirname, join } from "node:path";
import { healthyPage } from "./healthy-table";
import { priorsPage } from "./priors-page";

const ROOT = join(__dirname, "../../..");
const pages = [
  "README.md",
  ...["docs", "docs/guides", "docs/decisions"].flatMap((folder) => readdirSync(join(ROOT, folder)).map((name) => `${folder}/${name}`)),
].filter((name) => name.endsWith(".md"));
const read = (path: string): string => readFileSync(join(ROOT, path), "utf8");

describe.each([
  ["docs/healthy-readings.md", healthyPage],
  ["docs/priors.md", priorsPage],
])("%s", (name, make) => {
  it("says what the code computes", () => {
    const path = join(ROOT, name);
    const page = make();
    if (process.env["UPDATE_DOCS"] === "yes") writeFileSync(path, page);
    expect(readFileSync(path, "utf8")).toBe(page);
  });
});

describe.each(pages)("%s", (page) => {
  it("links to what is there", () => {
    const links = [...read(page).matchAll(/\]\(([^)#]+)/gu)].flatMap(([, target]) => (target === undefined || /^[a-z]+:/u.test(target) ? [] : [target]));
    expect(links.filter((target) => !existsSync(join(ROOT, dirname(page), target)))).toEqual([]);
  });
  it("quotes code that stands as it is shown", () => {
    for (const [, path = "", code = ""] of read(page).matchAll(/```ts\n\/\/ (\S+)\n(.*?)\n```/gsu))
      expect([path, read(path).includes(code)]).toEqual([path, true]);
  });
});

describe("a guide", () => {
  const guides = pages.filter((page) => page.startsWith("docs/guides/"));
  it.each(guides)("%s has an example and every command", (page) => {
    expect(read(page)).toMatch(/```ts\n\/\/ \S+\n/u);
    expect(read(page)).toContain("## Commands");
    for (const [, path = ""] of read(page).matchAll(/`((?:packages|apps)\/[\w./-]+\.tsx?)`/gu))
      expect([path, existsSync(join(ROOT, path))]).toEqual([path, true]);
  });
  it("is there for each thing that is added", () => {
    expect(guides.map((page) => page.replace(/^.*\/new-(.*)\.md$/u, "$1")).sort()).toEqual(["entry-kind", "family", "fault", "instrument", "page"]);
  });
});
