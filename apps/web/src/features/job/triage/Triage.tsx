import type { CodeRole, Triage as TriageResult } from "@fox-lamp/core";
import { messages } from "../../../messages";
import { CodeTag, TreePicture } from "./TreePicture";

const t = messages.job;
const ROLES: readonly CodeRole[] = ["cause", "same-line", "consequence", "apart"];

/** The codes by what they are beside the tree: causes, on the same line, consequences, and those that this does not explain. */
function SortedCodes({ codes }: { codes: TriageResult["codes"] }) {
  return (
    <dl className="m-0 grid gap-x-4 gap-y-2 sm:grid-cols-[10rem_1fr]">
      {ROLES.map((role) => {
        const own = codes.filter((code) => code.role === role);
        if (own.length === 0) return null;
        return (
          <div key={role} className="contents">
            <dt className="text-sm text-soft">{t.role[role]}</dt>
            <dd className="m-0">
              <ul className="m-0 list-none space-y-1 p-0">
                {own.map(({ code, title, followsFrom, status }) => (
                  <li key={code}>
                    <CodeTag code={code} role={role} /> <span className="text-sm">{title}</span>
                    {status !== "current" && <span className="text-sm text-soft"> ({status})</span>}
                    {role === "consequence" && <span className="block text-sm text-soft">{t.follows(followsFrom.join(", "))}</span>}
                  </li>
                ))}
              </ul>
            </dd>
          </div>
        );
      })}
    </dl>
  );
}

/** What one fault could explain, as a picture, and the codes sorted by it. */
export function Triage({ triage }: { triage: TriageResult }) {
  const [first, ...others] = triage.groups;
  return (
    <section aria-label={t.tree} className="grid gap-4">
      {first && <p className="m-0 text-lg font-bold">{first.sentence}</p>}
      {triage.tree && <TreePicture tree={triage.tree} codes={triage.codes} />}
      {first && first.shared.length > 0 && <p className="m-0 text-sm text-soft">{t.shared(first.shared.join(", "))}</p>}
      <h2 className="m-0 text-sm font-bold text-soft">{t.sorted}</h2>
      <SortedCodes codes={triage.codes} />
      {others.map(({ codes, sentence }) => (
        <p key={codes.join()} className="m-0 text-sm">
          {sentence}
        </p>
      ))}
    </section>
  );
}
