import { type Analysis, analyse, FAMILIES, Session, viewsOf } from "@fox-lamp/core";
import { awayName, elsewhere } from "./Instruments";
import { layoutCircuit } from "./layout";

const cache = new Session();
const analysis = (family: string): Analysis =>
  analyse(
    {
      circuits: [{ id: "x", family, colours: { sig: "grey" }, cavities: { sig: 2 } }],
      readings: [
        family === "thermistor-2w"
          ? { id: "r1", meter: "scan", red: "sig@module", value: 4.9 }
          : { id: "r1", meter: "volts-dc", red: "bat+", black: "bat-", value: 12.4 },
      ],
      conditions: { temperature: 18, pressure: 100 },
    },
    cache,
  );

describe.each(
  FAMILIES.flatMap(
    ({ id }) =>
      [
        [id, 680],
        [id, 374],
        [id, 300],
      ] as const,
  ),
)("%s at %i pixels", (family, width) => {
  const [circuit] = viewsOf([{ id: "x", family, inline: width > 500 ? ["C1"] : [] }]);
  if (!circuit) throw new Error("no circuit");
  const layout = layoutCircuit(circuit, width);

  it("keeps everything inside", () => {
    expect(layout.module.x).toBeGreaterThanOrEqual(0);
    expect(layout.sensor.x + layout.sensor.width).toBeLessThanOrEqual(width);
    expect(layout.meter.y + layout.meter.height).toBeLessThanOrEqual(layout.height);
  });
  it("lets nothing overlap along a row", () => {
    for (const { x } of layout.connectors) {
      expect(x).toBeGreaterThan(layout.module.x + layout.module.width);
      expect(x).toBeLessThan(layout.sensor.x);
    }
    for (const part of layout.parts) if (part.kind === "wire") expect(part.to.x - part.from.x).toBeGreaterThan(30);
  });
  it("keeps the labels clear of the leads, which drop straight from where they touch", () => {
    // Labels stand in the middle of the last stretch of wire; fifteen pixels hold "12.5 V" half on either side at the smallest size.
    for (const row of layout.rows) {
      const spot = layout.spotOf(`${row.pin.pin}@sensor`);
      if (spot === null || row.pin.role === "car-ground") continue;
      for (const other of layout.rows) if (other.y > row.y && other.pin.places.length > 0) expect(Math.abs(spot.x - other.label.x)).toBeGreaterThan(15);
    }
  });
  it("keeps rows apart and inside the boxes", () => {
    for (const [index, row] of layout.rows.slice(1).entries()) expect(row.y - (layout.rows[index]?.y ?? 0)).toBeGreaterThanOrEqual(48);
    for (const { y } of layout.rows) {
      expect(y).toBeGreaterThan(layout.module.y + 40);
      expect(y).toBeLessThan(layout.module.y + layout.module.height - 12);
    }
  });
  it("has a spot for every point a test can touch", () => {
    for (const { pin, places, role } of circuit.pins)
      if (role !== "car-ground") for (const place of places) expect(layout.spotOf(`${pin}@${place}`)).not.toBeNull();
    for (const post of ["bat+", "bat-", "chassis", "engine"]) expect(layout.spotOf(post)).not.toBeNull();
    for (const { pin, contacts } of circuit.pins) {
      if (!contacts.includes("C1")) continue;
      // Either half of an inline connector is touched on its own side of it.
      const [inner, outer] = [layout.spotOf(`${pin}@C1`), layout.spotOf(`${pin}@C1.out`)];
      const middle = layout.connectors.find(({ place }) => place === "C1")?.x ?? 0;
      expect(inner?.x).toBeLessThan(middle);
      expect(outer?.x).toBeGreaterThan(middle);
    }
    // A lead on another circuit is on no wire of this one: it is drawn below, in the place of a post nobody has a lead on.
    const [pin] = circuit.pins;
    const place = pin?.places[0] ?? "module";
    expect(layout.spotOf(`y:${pin?.pin}@${place}`)).toBeNull();
    if (pin !== undefined && pin.role !== "car-ground" && pin.places.length > 0)
      expect(layout.spotOf(`x:${pin.pin}@${place}`)).toEqual(layout.spotOf(`${pin.pin}@${place}`));
    const away = elsewhere(layout, ["bat-", "y:gnd@sensor", "y:sig@sensor"]);
    expect([...away.keys()]).toEqual(["y:gnd@sensor", "y:sig@sensor"]);
    expect(new Set([layout.posts["bat-"], ...away.values()]).size).toBe(3);
    // Its name ends before the meter.
    for (const [point, spot] of away) {
      const name = awayName(point, spot, layout, [{ id: "y", title: "Exhaust recirculation lift, second bank" }]);
      const room = spot.x < layout.meter.x ? layout.meter.x - spot.x : spot.x - layout.meter.x - layout.meter.width;
      expect(7 * name.length).toBeLessThanOrEqual(Math.max(42, room));
      expect(name).toMatch(/^(?:ground|signal|groun|signa)/u);
    }
    expect(layout.spotOf("sig@moon")).toBeNull();
    expect(layout.spotOf("nonsense@sensor")).toBeNull();
  });
});

describe("the analysis the bench draws", () => {
  const { diagnosis, windows, engineering, volts, circuits } = analysis("thermistor-2w");
  it("has windows for readings and offered tests", () => {
    expect(windows["r1"]).toMatchObject({ unit: "V" });
    const scan = diagnosis.next.find(({ meter }) => meter === "scan");
    if (scan) expect(engineering[scan.test]).toMatchObject({ unit: "degC" });
  });
  it("has healthy volts for every offered test", () => {
    for (const { test } of diagnosis.next) expect(Object.keys(volts[test] ?? {})).toContain("sig@sensor");
  });
  it("carries colours, cavities and module stages", () => {
    expect(circuits[0]?.pins.find(({ pin }) => pin === "sig")).toMatchObject({ pin: "sig", colour: "grey", cavity: "2", places: ["module", "sensor"] });
    expect(circuits[0]?.stages).toEqual(["module:pull", "module:gnd", "module:input"]);
  });
});

describe("branches of a shared reference", () => {
  const branch = (id: string) => ({ id, family: "pressure-3w", title: `Sensor ${id}`, shares: { ref: "bus", join: id === "map" ? "S1" : "S2" } });
  const [bus, map, oil] = viewsOf([{ id: "bus", family: "reference-bus" }, branch("map"), branch("oil")]);
  if (!bus || !map || !oil) throw new Error("no circuits");
  it("start at the splice of the bus, whose own stretch is nobody else's to blame", () => {
    const { parts, spotOf } = layoutCircuit(map, 680);
    const wires = parts.flatMap((part) => (part.kind === "wire" && part.pin === "ref" ? [part.unit] : []));
    expect(wires).toEqual([null, "wire:ref"]);
    expect(parts.filter(({ kind }) => kind === "splice")).toHaveLength(1);
    expect(spotOf("map:ref@S1")).not.toBeNull();
  });
  it("stand in the order of the splices on the bus, with the sensors named", () => {
    expect(bus.members).toEqual(["Sensor map", "Sensor oil"]);
    const splices = layoutCircuit(bus, 680).parts.flatMap((part) => (part.kind === "splice" ? [part.at.x] : []));
    expect(splices).toHaveLength(2);
    expect(splices[0]).toBeLessThan(splices[1] ?? 0);
  });
});
