import { compareVariants, type PartInHand } from "@fox-lamp/core";
import type { SpecVariant } from "@fox-lamp/language";
import { messages } from "../messages";
import { unitsAsWritten } from "../ui/display";
import { isWinding } from "./winding";

const t = messages.specs;

/** Which of the shelf's look-alikes a part in the hand can be, and by what the others are out. */
export function VariantMatches({ family, variants, hand }: { family: string; variants: readonly SpecVariant[]; hand: PartInHand }) {
  const matches = compareVariants(variants, hand, isWinding(family));
  return (
    <ul aria-label={t.matches} className="m-0 list-none p-0">
      {matches.map(({ part, fits, agrees, differs }) => (
        <li key={part} className="flex flex-wrap justify-between gap-x-4 border-b border-line py-1.5 last:border-0">
          <span className="font-bold">{part}</span>
          <span className={fits === false ? "text-ember" : fits === true ? "text-ink" : "text-soft"}>
            {fits === null ? t.nothingKnown : fits ? t.canBe : t.isNot}
            {agrees.length + differs.length > 0 && `: ${unitsAsWritten([...differs, ...agrees].join("; "))}`}
          </span>
        </li>
      ))}
    </ul>
  );
}
