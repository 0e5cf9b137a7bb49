import type { Circuit } from "@fox-lamp/language";
import { captureOf, sampled, seededRandom } from "../../test/waveforms";
import { buildModel, type CircuitModel } from "../circuit";
import { traceOf } from "../vehicle";
import { analyseCapture, type Capture } from "./index";

const VALVE: Circuit = { id: "inj", family: "solenoid-2w", with: { coil: [10, 14], hertz: 25, duty: 85 } };

function analysed(capture: Capture, given: Circuit = VALVE) {
  const own = buildModel([given]).circuits[0] as CircuitModel;
  const { channels, findings, facts } = analyseCapture(capture, { circuitOf: () => own, engine: "runs" }).file;
  return { coil: channels[0]?.coil, codes: findings.map(({ code }) => code), facts: facts ?? [] };
}

/** i' = (V - i R) / L by hand, in small steps, with a pintle that moves when the current reaches `pulls`. */
function current(volts: number, ohms: number, henries: number, hertz: number, onSeconds: number, pulls: number | null) {
  const step = 2e-6;
  const moments = new Map<number, number>();
  let [amps, since] = [0, -1];
  for (let at = 0; at < Math.ceil(1 / hertz / step); at += 1) {
    const on = at * step < onSeconds;
    amps += (step * ((on ? volts : 0) - amps * ohms)) / henries;
    if (on && pulls !== null && since < 0 && amps >= pulls) since = at * step;
    const gone = since < 0 || !on ? 0 : (at * step - since) / 0.0002;
    moments.set(at, amps - 0.1 * (volts / ohms) * gone * Math.exp(1 - gone));
  }
  return (seconds: number): number => moments.get(Math.floor(((seconds + 0.6 / hertz) % (1 / hertz)) / step)) ?? 0;
}

describe("the current of a winding", () => {
  it.each([
    [20_000, 0.004],
    [50_000, 0.01],
    [200_000, 0.02],
  ])("says how long, how far and how fast, and where its pintle moves, at %i samples a second", (rate, noise) => {
    const course = current(13.5, 12, 0.015, 30, 0.012, 0.6);
    const samples = sampled(course, 1, rate, seededRandom(rate), { noise, bits: 12, range: 5, offset: 0 });
    const { coil, codes, facts } = analysed(captureOf(rate, { "inj:current": samples }, "A"));
    expect(codes).toEqual([]);
    expect(Math.abs((coil?.plateau ?? 0) - 1.125)).toBeLessThan(0.03);
    expect(Math.abs((coil?.widthMs ?? 0) - 12)).toBeLessThan(0.4);
    // Between a tenth and four tenths of the plateau the slope has fallen to three quarters of V / L.
    expect(Math.abs((coil?.slope ?? 0) / (0.74 * (13.5 / 0.015)) - 1)).toBeLessThan(0.1);
    // 0.6 A of 1.125 A is reached after 1.25 ms x ln(1 / (1 - 0.533)) = 0.95 ms.
    expect(Math.abs((coil?.kinkMs ?? 0) - 1.05)).toBeLessThan(0.25);
    expect(facts[0]?.sentence).toMatch(/^inj:current: \d+ pulses of 1[12](\.\d)? ms up to 1\.1\d A, rising .* with a kink/u);
  });
  it.each([1, 2, 3, 4, 5, 6])("shows a pintle that does not move, and only that, seed %i", (seed) => {
    const random = seededRandom(seed);
    const [ohms, henries] = [8 + 8 * random.uniform(), 0.008 + 0.012 * random.uniform()];
    const taken = (pulls: number | null) =>
      analysed(
        captureOf(
          50_000,
          {
            "inj:current": sampled(current(13.8, ohms, henries, 25, 0.016, pulls), 1, 50_000, random, {
              noise: 0.006,
              bits: seed % 2 === 0 ? 12 : null,
              range: 5,
              offset: 0,
            }),
          },
          "A",
        ),
      );
    expect(taken(null).codes).toEqual(["no-kink"]);
    expect(taken(0.6 * (13.8 / ohms)).codes).toEqual([]);
  });
  it("is not judged where the capture is too coarse to show a kink", () => {
    const course = current(13.5, 12, 0.015, 30, 0.012, null);
    const coarse = analysed(captureOf(2000, { "inj:current": sampled(course, 1, 2000, seededRandom(1), { noise: 0.02, bits: 8, range: 5, offset: 0 }) }, "A"));
    const noisy = analysed(
      captureOf(50_000, { "inj:current": sampled(course, 0.2, 50_000, seededRandom(2), { noise: 0.15, bits: 8, range: 20, offset: 0 }) }, "A"),
    );
    expect([coarse.codes, noisy.codes]).toEqual([[], []]);
  });
  it("is seen by the virtual car's clamp, and a seized valve with it", () => {
    const model = buildModel([VALVE]);
    const own = model.circuits[0] as CircuitModel;
    const taken = (seized: string[]) => {
      const channels = [
        { name: "inj:current", red: "inj:ctl@sensor", black: null },
        { name: "inj:ctl", red: "inj:ctl@sensor", black: "bat-" },
      ];
      return { start: 0, ...traceOf(model, own, { key: "idle" }, [], { channels, seconds: 1, rate: 50_000, seed: 3, bits: 12, range: 20, seized }) };
    };
    const sound = analysed(taken([]));
    expect(sound.codes).toEqual([]);
    // 85 % of 40 ms is off.
    expect(Math.abs((sound.coil?.widthMs ?? 0) - 6)).toBeLessThan(0.3);
    expect(sound.coil?.kinkMs).toBeGreaterThan(0.3);
    expect(sound.facts.find(({ code }) => code === "pulse-width")?.sentence).toBe("inj:ctl is pulled low for 6 ms at a time, 25 times.");
    expect(analysed(taken(["inj"])).codes).toEqual(["no-kink"]);
  });
});
