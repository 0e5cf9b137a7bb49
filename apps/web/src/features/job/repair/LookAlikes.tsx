import { type Circuit, circuitOfUnit, unitKindOf } from "@fox-lamp/language";
import { useShelfQuery } from "../../../app/api";
import { VariantMatches } from "../../../circuit/VariantMatches";
import { messages } from "../../../messages";
import { handOf, type PartDraft } from "./compare";

interface Props {
  readonly unit: string;
  readonly vehicle: string;
  readonly circuits: readonly Circuit[];
  readonly draft: PartDraft;
}

/** The shelf's look-alikes for a part that is about to be fitted: which one it can be, by what was measured of it. */
export function LookAlikes({ unit, vehicle, circuits, draft }: Props) {
  const family = circuits.find(({ id }) => id === circuitOfUnit(unit))?.family;
  const whole = unitKindOf(unit) === "sensor" || unitKindOf(unit) === "coil";
  const { data } = useShelfQuery({ vehicle, kind: "variant", family: family ?? "" }, { skip: family === undefined || !whole });
  const variants = whole ? (data?.items ?? []).flatMap(({ item }) => (item.kind === "variant" ? [item.record] : [])) : [];
  if (family === undefined || variants.length === 0) return null;
  return (
    <div className="sm:col-span-2">
      <p className="m-0 text-sm text-soft">{messages.specs.lookAlikes}</p>
      <VariantMatches family={family} variants={variants} hand={handOf(draft)} />
    </div>
  );
}
