import { FAMILIES } from "@fox-lamp/core/circuit";
import { EngineCache } from "@fox-lamp/core/diagnosis";
import { type Analysis, analyse } from "../analysis";
import { layoutCircuit } from "./layout";

const cache = new EngineCache();
const analysis = (family: string, inline: string[] = []): Analysis =>
  analyse(
    {
      circuits: [{ id: "x", family, inline, colours: { sig: "grey" }, cavities: { sig: 2 } }],
      readings: [{ id: "r1", meter: "scan", red: "sig@module", value: 4.9 }],
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
  const { circuits } = analysis(family, width > 500 ? ["C1"] : []);
  const [circuit] = circuits;
  if (!circuit) throw new Error("no circuit");
  const layout = layoutCircuit(circuit, width);

  it("keeps everything inside", () => {
    expect(layout.module.x).toBeGreaterThanOrEqual(0);
    expect(layout.sensor.x + layout.sensor.width).toBeLessThanOrEqual(width);
    expect(layout.meter.y + layout.meter.height).toBeLessThanOrEqual(layout.height);
  });
  it("lets nothing overlap along a row", () => {
    expect(layout.connectors[0]?.x).toBeGreaterThan(layout.module.x + layout.module.width);
    expect(layout.connectors.at(-1)?.x).toBeLessThan(layout.sensor.x);
    for (const part of layout.parts) if (part.kind === "wire") expect(part.to.x - part.from.x).toBeGreaterThan(40);
  });
  it("keeps rows apart and inside the boxes", () => {
    for (const [index, row] of layout.rows.slice(1).entries()) expect(row.y - (layout.rows[index]?.y ?? 0)).toBeGreaterThanOrEqual(48);
    for (const { y } of layout.rows) {
      expect(y).toBeGreaterThan(layout.module.y + 40);
      expect(y).toBeLessThan(layout.module.y + layout.module.height - 12);
    }
  });
  it("has a spot for every point a test can touch", () => {
    for (const { pin } of circuit.pins)
      for (const place of ["module", ...circuit.inline, "sensor", "part"]) expect(layout.spotOf(`${pin}@${place}`)).not.toBeNull();
    for (const post of ["bat+", "bat-", "chassis", "engine"]) expect(layout.spotOf(post)).not.toBeNull();
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
    expect(circuits[0]?.pins.find(({ pin }) => pin === "sig")).toEqual({ pin: "sig", colour: "grey", cavity: "2" });
    expect(circuits[0]?.stages).toEqual(["module:pull", "module:gnd", "module:input"]);
  });
});
