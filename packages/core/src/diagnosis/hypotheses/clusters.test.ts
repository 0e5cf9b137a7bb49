import type { Circuit } from "@fox-lamp/language";
import { buildModel } from "../../circuit";
import { clustersOf } from "./clusters";

const bus = (id: string): Circuit => ({ id, family: "reference-bus" });
const on = (id: string, ref: string, more: Partial<Circuit> = {}): Circuit => ({ id, family: "pressure-3w", shares: { ref, join: "module" }, ...more });
const clusters = (...circuits: Circuit[]): string[][] => clustersOf(buildModel(circuits)).map((cluster) => cluster.map(({ id }) => id));

describe("sets of circuits that are one network", () => {
  it("are single circuits where nothing is shared", () => {
    expect(clusters({ id: "ect", family: "thermistor-2w" }, { id: "iat", family: "thermistor-2w" })).toEqual([["ect"], ["iat"]]);
  });
  it("hold a reference with all its branches, in the file's order", () => {
    expect(clusters(on("map", "b"), { id: "ect", family: "thermistor-2w" }, bus("b"), on("egr", "b"))).toEqual([["map", "b", "egr"], ["ect"]]);
  });
  it("stay apart for two references", () => {
    expect(clusters(bus("a"), bus("b"), on("map", "a"), on("egr", "b"))).toEqual([
      ["a", "map"],
      ["b", "egr"],
    ]);
  });
  it("join two references through connectors that can be swapped", () => {
    expect(clusters(bus("a"), bus("b"), on("map", "a", { alike: ["egr"] }), on("egr", "b"))).toEqual([["a", "b", "map", "egr"]]);
  });
});
