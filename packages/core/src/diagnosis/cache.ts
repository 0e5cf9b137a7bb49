import type { Circuit } from "@fox-lamp/language";
import { CircuitEngine, type EngineOptions } from "./engine";

/** Weighed jobs that are kept: the present one and the one before its last reading are asked for several times. */
const KEPT_JOBS = 6;

/** Keeps circuit engines between diagnoses, one per set of circuits and what is known about them, and the last jobs as they were weighed. */
export class EngineCache {
  private readonly engines = new Map<string, CircuitEngine>();
  private readonly jobs = new Map<string, unknown>();

  constructor(private readonly most = 12) {}

  /** What was made of a job before, or is made of it now. @param job all that it depends on; @param make always for the same purpose */
  of<T>(job: object, make: () => T): T {
    const key = JSON.stringify(job);
    const found = this.jobs.has(key) ? (this.jobs.get(key) as T) : make();
    // What was asked for last is forgotten last.
    this.jobs.delete(key);
    this.jobs.set(key, found);
    if (this.jobs.size > KEPT_JOBS) this.jobs.delete(this.jobs.keys().next().value ?? "");
    return found;
  }

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
