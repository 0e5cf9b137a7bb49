import { type Measurement, pinWord } from "@fox-lamp/language";
import type { Model } from "../circuit";
import { PROVES, simulateReading } from "../instruments";
import { type Bench, type Draft, ohms } from "./drafts";

/**
 * An ohmmeter on a track while it is swept: a worn spot lifts it far above all the track has, also where the module's data only dip a little. What is
 * entered is the highest, which a sound track has at one of its stops.
 */
export function sweptOhms(model: Model, { circuit, connectors, part, path, policy }: Bench): Draft[] {
  const { built } = circuit;
  const { low, high, quantity } = built.world;
  if (!policy.resistance || quantity !== "position" || !connectors.includes("sensor") || built.faults.every(({ during }) => during !== "sweep")) return [];
  return built.partOhms.flatMap(([red, black]): Draft[] => {
    if (path(red).role !== "signal") return [];
    const at = (position: number): Measurement => ({
      circuit: circuit.id,
      meter: "ohms",
      red: `${red}@part`,
      black: `${black}@part`,
      setup: { key: "off", open: ["sensor"], truth: { position } },
    });
    const shown = (position: number): number => {
      const value = simulateReading(model, at(position), [], "measurement");
      return typeof value === "number" ? value : 0;
    };
    const stop = shown(high) >= shown(low) ? high : low;
    const { setup } = at(stop);
    const draft = ohms(
      `Highest resistance of the ${part} during a slow sweep, ${pinWord(red)} to ${pinWord(black)}`,
      `${red}@part`,
      `${black}@part`,
      { ...setup, stimulus: { kind: "sweep" } },
      ["sensor"],
      PROVES.sweepOhms,
    );
    return [{ ...draft, technique: "T9", minutes: 1.2 }];
  });
}
