import { captureOf, sampled, seededRandom, toothed } from "../../test/waveforms";
import type { Run } from "./edges";
import { gapsOf, type Wheel } from "./gaps";
import { analyseCapture } from "./index";
import { rowOf } from "./rows";

const TOOTH = 20;

/** The runs of a wheel over some turns: teeth that are there high for half of their room. @param absent numbers of teeth, over all turns */
function runsOfWheel(teeth: number, turns: number, absent: (tooth: number, turn: number) => boolean, stretch: (from: number) => number = () => 0): Run[] {
  const edges: number[] = [];
  let moved = 0;
  for (let turn = 0; turn < turns; turn += 1) {
    for (let tooth = 0; tooth < teeth; tooth += 1) {
      if (absent(tooth, turn)) continue;
      const at = (turn * teeth + tooth) * TOOTH;
      moved += stretch(at);
      edges.push(at + moved, at + moved + TOOTH / 2);
    }
  }
  return edges.slice(1).map((to, index) => ({ from: edges[index] as number, to, high: index % 2 === 0 }));
}
const read = (runs: Run[], wheel: Wheel | null) => gapsOf(runs, rowOf(runs), wheel);

describe("gaps in a row of teeth", () => {
  it("are the wheel's own where it is designed to lack as many, one a turn", () => {
    const { gaps, stands } = read(
      runsOfWheel(36, 4, (tooth) => tooth >= 34),
      { teeth: 36, missing: 2 },
    );
    expect(gaps).toHaveLength(3);
    expect(gaps.every(({ designed, count }) => designed && count === 2)).toBe(true);
    expect(stands).toEqual([]);
    // The middle of the two teeth that are not there.
    expect(gaps[0]?.at).toBe((34 + 35) * 0.5 * TOOTH + TOOTH / 4);
  });
  it("are broken teeth where they come back at a place of their own, even if as wide as the designed one", () => {
    const { gaps } = read(
      runsOfWheel(36, 5, (tooth) => tooth === 35 || tooth === 12),
      { teeth: 36, missing: 1 },
    );
    const designed = gaps.filter((gap) => gap.designed);
    expect(gaps.length).toBe(9);
    expect(designed.length === 4 || designed.length === 5).toBe(true);
    // One place a turn is the wheel's, the other is not.
    for (const gap of designed) expect(((gap.at - (designed[0]?.at ?? 0)) / TOOTH) % 36).toBe(0);
  });
  it("that come only once are a signal that stood still", () => {
    const { gaps, stands } = read(
      runsOfWheel(36, 5, (tooth, turn) => tooth === 35 || (turn === 2 && (tooth === 7 || tooth === 8))),
      { teeth: 36, missing: 1 },
    );
    expect(gaps.every(({ designed }) => designed)).toBe(true);
    expect(stands).toHaveLength(1);
  });
  it("longer than teeth break out side by side, or off the teeth, are a signal that stood still", () => {
    const long = read(
      runsOfWheel(60, 2, (tooth, turn) => tooth >= 58 || (turn === 1 && tooth >= 10 && tooth < 19)),
      { teeth: 60, missing: 2 },
    );
    expect(long.stands).toHaveLength(1);
    expect(long.stands[0]?.high).toBe(false);
    const off = read(
      runsOfWheel(
        36,
        1,
        () => false,
        (from) => (from === 12 * TOOTH ? 1.5 * TOOTH : 0),
      ),
      { teeth: 36, missing: 0 },
    );
    expect(off.gaps).toEqual([]);
    expect(off.stands).toHaveLength(1);
  });
  it("of a train of pulses without a wheel are no teeth", () => {
    const { gaps, stands } = read(
      runsOfWheel(100, 1, (tooth) => tooth >= 40 && tooth < 45),
      null,
    );
    expect(gaps).toEqual([]);
    expect(stands).toHaveLength(1);
    // Pulses may come a little late.
    expect(
      read(
        runsOfWheel(100, 1, (tooth) => tooth === 40),
        null,
      ).stands,
    ).toEqual([]);
  });
});

describe("a channel nobody has said anything of", () => {
  const read = (absent: readonly number[], turns = 6, lost: { from: number; to: number } | null = null) => {
    const course = toothed((seconds) => 0.1 + turns * seconds, 60, absent, 0.5, 0.1, 5);
    const samples = sampled((seconds) => (lost !== null && seconds >= lost.from && seconds < lost.to ? 5 : course(seconds)), 1, 50_000, seededRandom(9));
    return analyseCapture(captureOf(50_000, { "channel 1": samples }), { circuitOf: () => null, engine: "runs" }).file;
  };
  it("keeps the gap of its wheel, and is accused of nothing", () => {
    for (const absent of [[58, 59], [59], [57, 58, 59], []]) {
      const { findings, channels } = read(absent);
      expect(findings).toEqual([]);
      expect(channels[0]?.missing.every(({ designed }) => designed)).toBe(true);
    }
  });
  it("that stands still for many teeth is told", () => {
    const { findings } = read([58, 59], 6, { from: 0.4, to: 0.48 });
    expect(findings.map(({ code }) => code)).toEqual(["dropout"]);
  });
  it("of a wheel with a broken tooth besides its gap is told so", () => {
    expect(read([58, 59, 20]).findings.map(({ code }) => code)).toEqual(["missing-teeth"]);
  });
});
