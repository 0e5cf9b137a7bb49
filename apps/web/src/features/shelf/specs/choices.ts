import { FAMILY_NAMES, SPEC_UNITS } from "@fox-lamp/core";
import { CURVE_KINDS, KEY_STATES, LOADS, METERS, SPEC_SOURCES } from "@fox-lamp/language";
import { messages } from "../../../messages";
import { unitsAsWritten } from "../../../ui/display";

const t = messages.specs;

/** What a column's cell may be, where it is one of several; null where it is free. */
export function choicesOf(name: string): readonly (readonly [string, string])[] | null {
  const words = (list: readonly string[]): readonly (readonly [string, string])[] => list.map((word) => [word, unitsAsWritten(word)] as const);
  switch (name) {
    case "family":
      return FAMILY_NAMES.map(({ id, title }) => [id, title] as const);
    case "meter":
      return METERS.map((meter) => [meter, messages.bench.meter[meter]] as const);
    case "key":
      return [["", t.anyState], ...words(KEY_STATES)];
    case "load":
      return [["", t.anyLoad], ...LOADS.map((load) => [load, t.loads[load]] as const)];
    case "unit":
      return words(SPEC_UNITS);
    case "kind":
      return CURVE_KINDS.map((kind) => [kind, t.kinds[kind]] as const);
    case "source kind":
      return SPEC_SOURCES.map((kind) => [kind, t.sources[kind]] as const);
    default:
      return null;
  }
}
