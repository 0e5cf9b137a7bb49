import { conflictsIn } from "@fox-lamp/core";
import type { StoredSpec } from "@fox-lamp/language";
import { useShelfQuery } from "../../../app/api";
import { messages } from "../../../messages";
import { unitsAsWritten } from "../../../ui/display";
import { sourceText } from "./words";

const t = messages.specs;

/** What other limits of the same reading on the same vehicles say instead, each with what that means and which one is used. */
export function conflictsWith(spec: StoredSpec, others: readonly StoredSpec[]): string[] {
  const limits = [spec, ...others.filter(({ id }) => id !== spec.id)].flatMap(({ item, problems }) =>
    item.kind === "limit" && problems.length === 0 ? [{ name: sourceText(item), limit: item.record }] : [],
  );
  return conflictsIn(limits)
    .filter(({ places }) => places[0] === 0)
    .map(({ limits: [, other], consequence, used }) => unitsAsWritten(t.conflict(other, consequence, t.used(used))));
}

/** The limits that contradict one, asked for when it is opened: they need not be among what was searched for. */
export function Conflicts({ spec }: { spec: StoredSpec }) {
  const { item } = spec;
  const at = item.kind === "limit" ? `${item.record.meter} ${item.record.red}` : "";
  const { data } = useShelfQuery({ kind: "limit", family: item.record.family, q: at }, { skip: item.kind !== "limit" || spec.problems.length > 0 });
  return conflictsWith(spec, data?.items ?? []).map((sentence) => (
    <p key={sentence} className="m-0 mb-2 rounded-lg bg-caution px-3 py-2 text-sm">
      {sentence}
    </p>
  ));
}
