import { buildModel, completeSheets } from "../circuit";
import { probeOf } from "./probe";

const model = buildModel(completeSheets([{ id: "tps", family: "potentiometer-3w" }]));
const setupOf = (setup: object): string => {
  const probe = probeOf(model, { circuit: "tps", meter: "volts-dc", red: "sig@sensor", black: "bat-", setup }, "m");
  if (probe === null) throw new Error("no probe");
  return JSON.stringify(probe.setup);
};

describe("the setup of a probe", () => {
  it.each([
    [{}, { key: "on" }],
    [{ open: [], add: [] }, { key: "on" }],
    [
      { truth: { position: 0 }, key: "on", open: ["sensor"] },
      { open: ["tps:sensor"], key: "on", truth: { position: 0 } },
    ],
    [
      { stimulus: { kind: "sweep" }, rpm: undefined, truth: { position: 0 } },
      { key: "on", truth: { position: 0 }, stimulus: { kind: "sweep" } },
    ],
  ])("%j is that of %j", (one, other) => {
    expect(setupOf(one)).toBe(setupOf(other));
  });
  it.each([
    [{ key: "off" }, {}],
    [{ open: ["sensor"] }, { open: ["module"] }],
    [{ truth: { position: 0 } }, { truth: { position: 100 } }],
  ])("%j is another one than %j", (one, other) => {
    expect(setupOf(one)).not.toBe(setupOf(other));
  });
});
