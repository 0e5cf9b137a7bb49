/** Where a parameter comes from; `family` is what is usual for circuits of its kind, never this car's value. */
export type ParameterOrigin = "measured" | "specified" | "sister" | "family";

export interface Provenance {
  readonly from: ParameterOrigin;
  /** Half of the stretch that holds 95 of 100 such cars, in the parameter's own unit, of a curve as a share of what it shows; null where nobody says. */
  readonly spread: number | null;
}

/** A circuit's parameters as bare values, with where each that is there comes from. */
export interface StatedParameters {
  readonly values: Readonly<Record<string, unknown>>;
  readonly origins: ReadonlyMap<string, Provenance>;
}

const ORIGINS: readonly string[] = ["measured", "specified", "sister", "family"] satisfies ParameterOrigin[];

function isRecord(value: unknown): value is Readonly<Record<string, unknown>> {
  return typeof value === "object" && value !== null && !Array.isArray(value);
}

function originOf(from: unknown): ParameterOrigin {
  return ORIGINS.includes(String(from)) ? (from as ParameterOrigin) : "specified";
}

/** Takes the parameters of a sheet apart: a bare value is this car's own, `{ value, from, spread }` says where it comes from. */
export function statedParameters(given: Readonly<Record<string, unknown>> = {}): StatedParameters {
  const values: Record<string, unknown> = {};
  const origins = new Map<string, Provenance>();
  for (const [name, stated] of Object.entries(given)) {
    const wrapped = isRecord(stated) && "value" in stated;
    values[name] = wrapped ? stated["value"] : stated;
    const spread = wrapped && typeof stated["spread"] === "number" ? stated["spread"] : null;
    origins.set(name, wrapped ? { from: originOf(stated["from"]), spread } : { from: "specified", spread: null });
  }
  return { values, origins };
}
