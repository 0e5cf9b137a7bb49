import { symptomCauses } from "./loss";

const circuits = [
  { id: "ckp", family: "vr-2w", title: "Crankshaft position" },
  { id: "ect", family: "thermistor-2w", title: "Coolant temperature" },
  { id: "app", family: "dual-track", title: "Accelerator pedal" },
];

describe("what the engine does, and whose loss does that", () => {
  it("names the circuits of the job whose loss would do it, and no others", () => {
    const causes = Object.fromEntries(
      symptomCauses(circuits, ["does-not-start", "hard-cold-start", "pings"]).map(({ symptom, circuits: own }) => [symptom, own]),
    );
    expect(causes).toEqual({ "does-not-start": ["ckp"], "hard-cold-start": ["ect"], pings: [] });
  });
  it("says nothing of circuits it knows nothing of", () => {
    expect(symptomCauses([{ id: "x1", family: "thermistor-2w", title: "Cabin" }], ["fans-always"])[0]?.circuits).toEqual([]);
  });
});
