import type { Reading } from "@fox-lamp/language";
import { diagnoseJob } from "../explanation/diagnose";
import type { DiagnosedJob } from "./diagnosed-job";
import { isInPlug, offPlugs } from "./found-off";

const cold: Reading = { meter: "scan", red: "sig@module", setup: { key: "on" }, value: 4.98 };
const off: Reading = { meter: "look", red: "sensor", setup: { key: "off" }, value: "unplugged" };
const warm: Reading = { ...cold, value: 2.1 };

function job(...readings: Reading[]): DiagnosedJob {
  return { circuits: [{ id: "ect", family: "thermistor-2w" }], readings };
}

describe("a plug that was found off", () => {
  it("is known by its look, and by what was read since with the plug in", () => {
    const placed = (...readings: Reading[]) => readings.map((reading) => ({ reading }));
    expect(offPlugs(placed(cold, off), "ect")).toEqual([{ circuit: "ect", connector: "sensor", at: 1, readSince: false }]);
    expect(offPlugs(placed(off, { ...cold, setup: { key: "on", open: ["sensor"] } }), "ect")[0]?.readSince).toBe(false);
    expect(offPlugs(placed(off, { ...warm, circuit: "iat" }), "ect")[0]?.readSince).toBe(false);
    const [plug] = offPlugs(placed(cold, off, warm), "ect");
    expect(plug?.readSince).toBe(true);
    expect(plug !== undefined && isInPlug("ect/contact:sig@sensor", plug)).toBe(true);
    expect(plug !== undefined && isInPlug("ect/contact:sig@module", plug)).toBe(false);
  });

  it("is pushed home before the next test, which its circuit is read again for", () => {
    const { next } = diagnoseJob(job(cold, off));
    const plugged = next.filter(({ setup }) => !(setup.open ?? []).includes("sensor"));
    expect(plugged.some(({ meter, red }) => meter === "scan" && red === "sig@module")).toBe(true);
    for (const { cautions } of plugged) expect(cautions[0]).toBe("The sensor connector was found off: push it home until it latches.");
    for (const { setup, cautions } of next) if (setup.open?.includes("sensor") === true) expect(cautions.join(" ")).not.toContain("found off");
  });

  it("proves its contacts where the circuit reads right once it is home, and doubts neither reading", () => {
    const { verdict, doubtful, confirm } = diagnoseJob(job(cold, off, warm));
    expect(doubtful).toEqual([]);
    // What was read with the plug off cannot be read again.
    expect((confirm ?? []).map(({ reading }) => reading)).not.toContain("r1");
    expect(verdict).toMatchObject({ status: "proven", group: ["ect/contact:sig@sensor", "ect/contact:gnd@sensor"] });
    expect(verdict.steps?.[0]).toBe(
      "The sensor connector was found off: push it home until it latches, look at its lock and its terminals, and see whether the complaint stays away.",
    );
  });

  it("is no proof where the circuit reads as wrong as before", () => {
    const { verdict, doubtful } = diagnoseJob(job(cold, off, cold));
    expect(verdict.status).toBe("narrowing");
    expect(doubtful).toEqual([]);
  });
});
