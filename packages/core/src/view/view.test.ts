import type { Circuit, Reading } from "@fox-lamp/language";
import { FAMILIES } from "../circuit";
import { Session } from "../diagnosis";
import { analyse, analysing, sceneOf, viewsOf, windowsOf } from "./index";

const one = (family: string): Circuit[] => [{ id: "x", family }];
const SENSING = FAMILIES.map(({ id }) => id);

describe("a circuit as it is drawn", () => {
  it.each(SENSING)("%s: every conductor once, from its origin outwards, and whatever can be condemned has a place", (family) => {
    for (const view of viewsOf(one(family))) {
      const pins = view.pins.map(({ pin }) => pin);
      expect(new Set(pins).size).toBe(pins.length);
      for (const { places, contacts } of view.pins) {
        expect(new Set(places).size).toBe(places.length);
        for (const contact of contacts) expect(places.length === 0 || places.includes(contact)).toBe(true);
      }
      expect(view.title).not.toBe("");
      expect(view.part).not.toBe("");
      for (const stage of view.stages) expect(stage).toMatch(/^module:/u);
    }
  });

  it("takes colours, cavities, inline connectors and names from the circuit's sheet", () => {
    const [view] = viewsOf([
      { id: "ect", family: "thermistor-2w", title: "Coolant", inline: ["C1"], colours: { sig: "green-white" }, cavities: { sig: "23", gnd: "7" } },
    ]);
    expect(view?.title).toBe("Coolant");
    const signal = view?.pins.find(({ pin }) => pin === "sig");
    expect(signal).toMatchObject({ colour: "green-white", cavity: "23" });
    expect(signal?.places).toContain("C1");
    expect(view?.pins.find(({ pin }) => pin === "gnd")?.colour).toBeNull();
  });

  it("of a shared reference tells who hangs on it, and each branch where it leaves", () => {
    const views = viewsOf([
      { id: "bus", family: "reference-bus", title: "5 V A" },
      { id: "map", family: "pressure-3w", title: "Manifold", shares: { ref: "bus", join: "S1" } },
      { id: "tps", family: "potentiometer-3w", title: "Throttle", shares: { ref: "bus", join: "module" } },
    ]);
    expect(views.find(({ id }) => id === "bus")?.members).toEqual(["Manifold", "Throttle"]);
    expect(views.find(({ id }) => id === "map")?.pins.find(({ pin }) => pin === "ref")?.joins).toEqual({ bus: "bus", at: "S1" });
  });
});

describe("what the bench shows for a test", () => {
  it("comes to the same in pieces, and each piece leaves the next less to do", () => {
    const job = { circuits: one("thermistor-2w"), readings: [{ meter: "volts-dc", red: "sig@sensor", black: "bat-", value: 0.02 } as Reading] };
    const session = new Session();
    const steps = analysing(job, session);
    let pieces = 0;
    let last = steps.next();
    for (; last.done !== true; last = steps.next()) pieces += 1;
    expect(pieces).toBeGreaterThan(1);
    expect(last.value).toEqual(analyse(job, new Session()));
  });
  it("says of a job that cannot be, in the first piece, what is wrong", () => {
    expect(() => analysing({ circuits: [{ id: "x", family: "no-such" }] }, new Session()).next()).toThrow(/no-such/u);
  });
  it.each(SENSING)("%s: volts of every place, and windows that a sound circuit is in", (family) => {
    const { diagnosis, volts, circuits, engineering } = analyse({ circuits: one(family), conditions: { temperature: 20, pressure: 100 } }, new Session());
    expect(diagnosis.next.length).toBeGreaterThan(0);
    for (const { test } of diagnosis.next) {
      const scene = volts[test];
      if (scene === undefined) continue;
      for (const value of Object.values(scene)) expect(Number.isFinite(value)).toBe(true);
      // The battery's own circuit is read with the car's grounds as its conductors.
      for (const { pin, places } of circuits[0]?.pins ?? []) for (const place of places) expect(scene[`${pin}@${place}`]).toBeDefined();
    }
    for (const expect_ of Object.values(engineering)) {
      expect(expect_.unit).not.toBe("V");
      expect((expect_.low ?? 0) <= (expect_.high ?? 0)).toBe(true);
    }
  });

  it("is the same whether it is computed with the advice or for a test of one's own", () => {
    const circuits = one("pressure-3w");
    const job = { circuits, conditions: { pressure: 100 } };
    const { diagnosis, volts, engineering } = analyse(job, new Session());
    for (const test of diagnosis.next) {
      const scene = sceneOf(job, test, new Session());
      expect(scene.volts).toEqual(volts[test.test]);
      expect(scene.engineering ?? undefined).toEqual(engineering[test.test]);
    }
    expect(Object.keys(engineering).length).toBeGreaterThan(0);
  });

  it("gives each reading the window of a sound circuit in its own setup", () => {
    const readings: Reading[] = [
      { id: "r1", meter: "volts-dc", red: "ref@sensor", black: "gnd@sensor", setup: {}, value: 5.01 },
      { id: "r2", meter: "volts-dc", red: "ref@sensor", black: "gnd@sensor", setup: { open: ["sensor"] }, value: 5.02 },
    ];
    const circuits = one("potentiometer-3w");
    const { windows } = analyse({ circuits, readings }, new Session());
    expect(windows["r1"]).toEqual(windowsOf(circuits, readings.slice(0, 1), new Session())[0]);
    for (const window of Object.values(windows)) {
      expect(window?.low).toBeLessThan(5);
      expect(window?.high).toBeGreaterThan(5);
    }
  });

  it("says where a circuit cannot be", () => {
    expect(() => viewsOf([{ id: "x", family: "no-such-family" }])).toThrow(/no-such-family/u);
    expect(() => windowsOf(one("switch"), [{ meter: "volts-dc", red: "nothing@nowhere", black: "bat-", setup: {} }], new Session())).toThrow();
  });
});
