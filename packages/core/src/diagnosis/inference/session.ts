import type { Circuit } from "@fox-lamp/language";
import { BoundedCache } from "../../numeric";
import type { InferenceOptions } from "./basis";
import { type Inference, inferenceBytes, inferenceOf, USUAL_BUDGET } from "./inference";
import type { Meanings } from "./settle";

/** A weighed job takes about so much, bytes. */
const CASE_BYTES = 4e6;
const SETTLED_BYTES = 2000;
/** A circuit's network with its columns takes about so much, bytes. */
const MEANING_BYTES = 2e5;

/**
 * All that is kept between questions about jobs: predictions, solved setups, pools of pairs, weighed jobs. One cache by canonical keys
 * with one budget; whoever works on a job opens a session and hands it along. Answers never depend on what it holds.
 */
export class Session {
  readonly cache: BoundedCache;
  private opened = 0;

  /** @param budgetBytes what may be kept */
  constructor(budgetBytes = USUAL_BUDGET) {
    this.cache = new BoundedCache(budgetBytes);
  }

  /** What was made of a job before, or is made of it now. @param job all that it depends on; @param make always for the same purpose */
  weighed<T>(job: object, make: () => T): T {
    return this.cache.keep(`job ${JSON.stringify(job)}`, make, () => CASE_BYTES);
  }

  /** What a circuit's sheet was found to mean before, or is found now. @param asked all that it depends on */
  settled(asked: readonly unknown[], make: () => Circuit): Circuit {
    return this.cache.keep(`settled ${JSON.stringify(asked)}`, make, () => SETTLED_BYTES);
  }

  /** What one meaning of a sheet's readings was worked out to before, or is from now on. */
  readonly meaning: Meanings = (name, make) => this.cache.keep(`meaning ${name}`, make, ({ said }) => MEANING_BYTES + 100 * said.size);

  /** The inference about circuits under what is known of them. @throws BadInput for circuits that cannot be */
  inference(circuits: readonly Circuit[], options: InferenceOptions, where: string): Inference {
    const { conditions, open, hints, learnt, policy, carId, others, strapOhms } = options;
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
    const key = JSON.stringify([parts, conditions, [...open].sort(), hints, learnt, policy, carId, others, strapOhms]);
    return this.cache.keep(
      `circuits ${key}`,
      () => {
        this.opened += 1;
        return inferenceOf(circuits, options, where, this.cache, `#${this.opened}`);
      },
      inferenceBytes,
    );
  }
}
