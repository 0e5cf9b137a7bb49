/**
 * Property tests draw the same examples every time, so that a change is judged by itself; PROPERTY_SEED=N draws others. fast-check prints
 * the seed of a failure, and the failure is kept as an example in its test.
 */
import fc from "fast-check";

fc.configureGlobal({ seed: Number(process.env.PROPERTY_SEED ?? 2026) });
