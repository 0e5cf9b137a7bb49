import { engineOf, HAND_RPM } from "../../circuit";
import type { ElectricalProbe } from "../probe";
import { COUNT } from "../scale";
import { type Rhythm, TRIGGER_VOLTS } from "../waveform-view";
import { PROVES } from "../wording";
import { edgesSeen, predictRate, swingVolts } from "./edges";
import type { ElectricalRecord } from "./record";

/** Counting by eye: transitions lost or counted twice in one turn, and where the turn was begun and ended. */
const MISCOUNTED = 0.6;
/** What counting goes wrong by where there are many, as a share. */
const MISCOUNTED_SHARE = 0.03;

/** Changes of level, both edges, in one turn of the crankshaft; two to a repetition. */
function perTurn({ hertz }: Pick<Rhythm, "hertz">, { setup }: ElectricalProbe): number {
  const { turning, rpm } = engineOf(setup);
  return (120 * hertz) / (turning ? rpm : HAND_RPM);
}

/** Somebody who watches a meter or lamp and counts how often the level changes in one turn of the crankshaft. */
export const count: ElectricalRecord = {
  choosing: { word: "changes in one turn of the crank", needs: ["meter", "helper"], minutes: 2, technique: "T9", proves: PROVES.turned },
  scale: () => COUNT,
  words: () => ["none"],
  show: (seen, probe, noise) => {
    if (swingVolts(seen, probe) < TRIGGER_VOLTS || seen.shape !== "square") return 0;
    return Math.max(0, Math.round(perTurn(seen, probe) + MISCOUNTED * 0.8 * (noise?.normal() ?? 0)));
  },
  predict: (circuit, probe, leads, columns, out) => {
    predictRate(circuit, leads, columns, circuit.shape === "square" ? edgesSeen(circuit, leads, TRIGGER_VOLTS) : 0, 0, out);
    const changes = Math.max(1, perTurn(circuit, probe));
    out.mean = Math.log(changes);
    out.noise = (MISCOUNTED / changes) ** 2 + MISCOUNTED_SHARE ** 2;
  },
  deck: null,
};
