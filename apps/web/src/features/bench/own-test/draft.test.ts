import { measurementSchema } from "@fox-lamp/language";
import { circuitView } from "../../../../test/views";
import { type Draft, draftFor, measurementOfDraft, plugsOf, pointsOf, seenOptions, stimulusPlaces, withMeter } from "./draft";

const CAM = circuitView("cam", "Cam");
const MAP = circuitView("map", "Manifold pressure");
const made = (part: Partial<Draft>) => measurementOfDraft({ ...draftFor(CAM), ...part });
const measurement = (part: Partial<Draft>) => {
  const answer = made(part);
  if (!answer.ok) throw new Error(answer.problem.message);
  // Whatever is put together is a measurement of the language.
  return measurementSchema.parse(answer.measurement);
};

describe("a test of one's own", () => {
  it("starts with the signal at the sensor against battery negative, key on, everything plugged", () => {
    expect(measurement({})).toEqual({ circuit: "cam", meter: "volts-dc", red: "sig@sensor", black: "bat-", setup: { key: "on" } });
  });
  it("takes a resistor of any ohms between any two points, and other circuits' plugs", () => {
    expect(
      measurement({ add: [{ kind: "resistor", from: "sig@sensor", to: "map:gnd@sensor", ohms: "3k3" }], open: ["sensor", "map:sensor", "module"] }).setup,
    ).toEqual({
      key: "on",
      open: ["sensor", "map:sensor", "module"],
      add: [{ kind: "resistor", from: "sig@sensor", to: "map:gnd@sensor", ohms: 3300 }],
    });
    expect(measurement({ add: [{ kind: "jumper", from: "sig@sensor", to: "gnd@sensor", ohms: "rest of what was typed" }] }).setup?.add).toEqual([
      { kind: "jumper", from: "sig@sensor", to: "gnd@sensor" },
    ]);
  });
  it("keeps lowest and highest while something is moved at its place", () => {
    expect(measurement({ stimulus: "wiggle", at: "C1", record: true })).toMatchObject({ record: "min-max", setup: { stimulus: { kind: "wiggle", at: "C1" } } });
    // A place belongs to what is done somewhere.
    expect(measurement({ stimulus: "snap", at: "C1" }).setup?.stimulus).toEqual({ kind: "snap" });
  });
  it("says what is known of the moment", () => {
    expect(measurement({ key: "rev", rpm: "2500", steel: "at", level: "low", position: "40 %" }).setup).toEqual({
      key: "rev",
      rpm: 2500,
      steel: "at",
      truth: { position: 40, level: "low" },
    });
    // An engine speed belongs to a running engine.
    expect(measurement({ key: "on", rpm: "2500" }).setup).toEqual({ key: "on" });
  });
  it("counts changes while the engine is turned by hand, and touches what is put in on and off", () => {
    expect(measurement({ meter: "count", stimulus: "hand-turn" })).toMatchObject({ meter: "count", black: "bat-", setup: { stimulus: { kind: "hand-turn" } } });
    expect(measurement({ meter: "scan", stimulus: "touch", add: [{ kind: "lamp", from: "sig@sensor", to: "bat-", ohms: "" }] }).setup).toMatchObject({
      add: [{ kind: "lamp", from: "sig@sensor", to: "bat-" }],
      stimulus: { kind: "touch" },
    });
  });
  it("has no second lead with a clamp, and none at all with eyes, ears and the module's data", () => {
    expect(measurement({ meter: "amps-dc" })).not.toHaveProperty("black");
    expect(measurement({ meter: "scan" })).toMatchObject({ circuit: "cam", red: "sig@module" });
    expect(measurement({ meter: "scan", red: "map:sig@sensor" })).toMatchObject({ red: "map:sig@module" });
    expect(measurement({ meter: "notice", seen: "spark", key: "crank" })).toEqual({ circuit: "cam", meter: "notice", red: "spark", setup: { key: "crank" } });
    expect(measurement({ meter: "look", seen: "C1" })).toMatchObject({ red: "C1" });
  });
  it.each<[string, Partial<Draft>, string]>([
    ["a resistor without ohms", { add: [{ kind: "resistor", from: "sig@sensor", to: "gnd@sensor", ohms: "" }] }, "ohms0"],
    ["a resistor of nothing", { add: [{ kind: "resistor", from: "sig@sensor", to: "gnd@sensor", ohms: "0" }] }, "ohms0"],
    ["volts for ohms", { add: [{ kind: "resistor", from: "sig@sensor", to: "gnd@sensor", ohms: "5 V" }] }, "ohms0"],
    ["a jumper from a point to itself", { add: [{ kind: "jumper", from: "sig@sensor", to: "sig@sensor", ohms: "" }] }, "ohms0"],
    ["an engine speed that is none", { key: "rev", rpm: "fast" }, "rpm"],
    ["a position that is none", { position: "open" }, "position"],
    ["both leads on one point", { black: "sig@sensor" }, "leads"],
  ])("%s is said by its field", (_name, part, field) => {
    const answer = made(part);
    expect(answer.ok ? null : answer.problem.field).toBe(field);
  });
  it("puts right what does not go with another instrument", () => {
    const recorded = { ...draftFor(CAM), record: true };
    expect(withMeter(recorded, "lamp", CAM)).toMatchObject({ meter: "lamp", record: false, key: "on" });
    expect(withMeter(recorded, "ohms", CAM)).toMatchObject({ record: true, key: "off" });
    expect(withMeter(recorded, "notice", CAM)).toMatchObject({ seen: "spark" });
    expect(withMeter(withMeter(recorded, "notice", CAM), "look", CAM)).toMatchObject({ seen: "module" });
  });
});

describe("what can be chosen", () => {
  it("names points by wire, place and colour, those of other circuits with theirs", () => {
    const points = pointsOf(CAM, [CAM, MAP]);
    expect(points.find(({ value }) => value === "sig@sensor")).toEqual({ value: "sig@sensor", label: "Signal at the sensor, green", group: "Cam" });
    expect(points.find(({ value }) => value === "map:sig@C1")).toEqual({
      value: "map:sig@C1",
      label: "Signal at C1, green, Manifold pressure",
      group: "Manifold pressure",
    });
    // An inline connector has two halves.
    expect(points.find(({ value }) => value === "sig@C1.out")?.label).toBe("Signal at C1, the sensor's half, green");
    expect(points.some(({ value }) => value === "sig@sensor.out")).toBe(false);
    expect(points.filter(({ value }) => value === "bat-")).toHaveLength(1);
    expect(new Set(points.map(({ value }) => value)).size).toBe(points.length);
  });
  it("has every connector once, the module's for all circuits together", () => {
    expect(plugsOf(CAM, [CAM, MAP]).map(({ value }) => value)).toEqual(["module", "C1", "sensor", "map:C1", "map:sensor"]);
  });
  it("knows where things are moved, looked at and noticed", () => {
    expect(stimulusPlaces(CAM).map(({ value }) => value)).toEqual(["module", "C1", "sensor", "loom", "part"]);
    expect(seenOptions("look", CAM).map(({ value }) => value)).toEqual(["module", "C1", "sensor", "loom", "target", "part"]);
    expect(seenOptions("notice", CAM).map(({ value }) => value)).toContain("fuel-pump");
  });
});
