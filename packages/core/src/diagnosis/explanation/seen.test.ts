import type { Reading } from "@fox-lamp/language";
import { Session } from "../inference/session";
import { diagnoseJob } from "./diagnose";
import { movesOf, proofOf } from "./explain";
import { isSoundLikely } from "./words";

const scan = (value: number, setup: object = {}): Reading => ({ circuit: "maf", meter: "scan", red: "sig@module", unit: "Hz", setup, value }) as never;
const moved = (at: string): object => ({ stimulus: { kind: "wiggle", at } });
/** An air flow that could be anybody's, on lines that are in order, and a part that looks dirty. */
const job = {
  circuits: [{ id: "maf", family: "maf-freq", title: "Air flow" }],
  readings: [
    scan(3595, { key: "idle" }),
    scan(2650, { key: "crank" }),
    { meter: "volts-dc", red: "chassis", black: "bat-", value: 0.02 },
    scan(2213, moved("sensor")),
    { circuit: "maf", meter: "volts-dc", red: "sig@sensor", black: "bat-", setup: { key: "crank" }, value: 1.83 },
    scan(2230, moved("sensor")),
    { circuit: "maf", meter: "look", red: "sensor", setup: { key: "off", open: ["sensor"] }, value: "contaminated" },
    {
      circuit: "maf",
      meter: "capture",
      red: "sig@sensor",
      black: "bat-",
      record: "min-max",
      setup: { key: "crank" },
      value: { min: 0.34, max: 5.09, avg: 1.82 },
    },
    scan(2213, moved("module")),
    // Without it some ohms in the feed would be open as well.
    { circuit: "maf", meter: "volts-dc", red: "feed@sensor", black: "bat-", value: 12.2 },
    { circuit: "maf", meter: "volts-dc", red: "gnd@sensor", black: "bat-", value: 0.02 },
  ].map((reading, index) => ({ ...reading, id: `r${index + 1}` })),
} as unknown as Parameters<typeof diagnoseJob>[0];

describe("a part that only looks bad", () => {
  const session = new Session();
  const { verdict, suspects } = diagnoseJob(job, session);
  it("is named, and not proven, and nobody says that the circuit is sound", () => {
    expect(verdict.status).toBe("nothing-found");
    expect(verdict.seen).toEqual(["maf/sensor"]);
    expect(isSoundLikely(verdict)).toBe(false);
    expect(proofOf(job, session).headline).toMatch(/^All that was measured is sound; not excluded: .* \d\d %$/u);
  });
  it("stands beside whoever else the measurements do not exclude, however much likelier the look makes it", () => {
    const { units } = diagnoseJob(job, session);
    expect(verdict.open[0]).toBe("maf/sensor");
    const refuted = verdict.refuted.map(({ unit }) => unit);
    for (const unit of verdict.open) expect(refuted).not.toContain(unit);
    for (const { unit, probability } of units) if (probability > 0.03 && unit !== "maf/outside") expect(verdict.open).toContain(unit);
  });
  it("is cleaned first", () => {
    expect(verdict.steps?.[0]).toMatch(/^Looks bad, and all that was measured there is as it should be: .*Clean it/u);
  });
  it("is suspected for how much likelier the look is with it, not for what it would most likely look like", () => {
    expect(suspects[0]?.why).toMatch(/"contaminated" at r7 is [\d.]+ times likelier with it than without\./u);
  });
  it("was moved by a flow that a sound circuit fits as well, and nobody says that nothing else fits it", () => {
    for (const { sentence } of movesOf(job, session)) expect(sentence).not.toContain("everything else");
  });
});
