import type { Circuit } from "@fox-lamp/language";
import { CircuitEngine, type EngineOptions } from "./engine";

/** Keeps circuit engines between diagnoses; one per set of circuits and what is known about them. */
export class EngineCache {
  private readonly engines = new Map<string, CircuitEngine>();

  constructor(private readonly most = 12) {}

  get(circuits: readonly Circuit[], options: EngineOptions, where: string): CircuitEngine {
    const { conditions, open, hints, policy, carId } = options;
    const parts = circuits.map(({ id, family, with: parameters, inline, title, shares, access, alike, codes }) => [
      id,
      family,
      parameters,
      inline,
      title,
      shares,
      access,
      alike,
      codes,
    ]);
    const key = JSON.stringify([parts, conditions, [...open].sort(), hints, policy, carId]);
    let engine = this.engines.get(key);
    if (!engine) {
      engine = new CircuitEngine(circuits, options, where);
      if (this.engines.size >= this.most) this.engines.delete(this.engines.keys().next().value ?? "");
      this.engines.set(key, engine);
    }
    return engine;
  }
}
