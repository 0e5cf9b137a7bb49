import { randomUUID } from "node:crypto";
import fc from "fast-check";

/** As much of a JSON schema as the interface's description uses. */
export interface Schema {
  readonly type?: string | readonly string[];
  readonly properties?: Readonly<Record<string, Schema>>;
  readonly items?: Schema;
  readonly enum?: readonly unknown[];
  readonly const?: unknown;
  readonly anyOf?: readonly Schema[];
  readonly oneOf?: readonly Schema[];
  readonly allOf?: readonly Schema[];
  readonly format?: string;
  readonly minimum?: number;
  readonly maximum?: number;
}

/** Values nobody would send: each was, or might be, somebody's undoing. */
const ODD: readonly unknown[] = [
  null,
  "",
  "\u0000",
  "\ud800",
  "__proto__",
  "0000-01-01T00:00:00Z",
  "2026-03-02T09:14:00+24:00",
  "'; drop table jobs; --",
  "<img src=x onerror=alert(1)>",
  "x".repeat(3000),
  -1,
  0.1,
  -0,
  2 ** 31,
  1e308,
  Number.MAX_SAFE_INTEGER,
  true,
  [],
  {},
  [[[[[[]]]]]],
  { __proto__: null, constructor: {} },
];
const DEEPEST = 7;

const odd = fc.constantFrom(...ODD);

function text(schema: Schema): fc.Arbitrary<string> {
  if (schema.format === "uuid") return fc.constant(null).map(() => randomUUID());
  if (schema.format === "date-time")
    return fc.date({ min: new Date("2020-01-01"), max: new Date("2030-01-01"), noInvalidDate: true }).map((date) => date.toISOString());
  return fc.oneof(
    fc.string({ maxLength: 30 }),
    fc.constantFrom("ect", "sig@sensor", "bat-", "thermistor-2w", "P0118", "on", "volts-dc"),
    fc.string({ unit: "binary", maxLength: 20 }),
  );
}

/** What a schema allows, now and then with something in it that it does not. */
export function sent(schema: Schema | undefined, depth = 0): fc.Arbitrary<unknown> {
  const usual = allowed(schema ?? {}, depth);
  return fc.oneof({ weight: 14, arbitrary: usual }, { weight: 1, arbitrary: odd });
}

function allowed(schema: Schema, depth: number): fc.Arbitrary<unknown> {
  if (schema.const !== undefined) return fc.constant(schema.const);
  if (schema.enum !== undefined) return fc.constantFrom(...schema.enum);
  const choices = schema.anyOf ?? schema.oneOf;
  if (choices !== undefined && choices.length > 0) return fc.oneof(...choices.map((one) => sent(one, depth + 1)));
  if (schema.allOf !== undefined)
    return fc.tuple(...schema.allOf.map((one) => allowed(one, depth))).map((parts) => Object.assign({}, ...parts.filter((part) => typeof part === "object")));
  const type = typeof schema.type === "string" ? schema.type : schema.type?.[0];
  switch (type) {
    case "object": {
      if (depth > DEEPEST) return fc.constant({});
      const parts = Object.fromEntries(Object.entries(schema.properties ?? {}).map(([name, one]) => [name, sent(one, depth + 1)]));
      return fc.record(parts, { requiredKeys: Object.keys(parts).filter((_, index) => index % 4 !== 3) });
    }
    case "array":
      return depth > DEEPEST ? fc.constant([]) : fc.array(sent(schema.items, depth + 1), { maxLength: 3 });
    case "number":
    case "integer":
      return fc.oneof(
        fc.integer({ min: Math.ceil(Math.max(schema.minimum ?? -1000, -1e6)), max: Math.floor(Math.min(schema.maximum ?? 1000, 1e6)) }),
        fc.double({ noNaN: true, noDefaultInfinity: true }),
      );
    case "boolean":
      return fc.boolean();
    case "string":
      return text(schema);
    case "null":
      return fc.constant(null);
    default:
      return fc.oneof(odd, fc.jsonValue({ maxDepth: 4 }));
  }
}
