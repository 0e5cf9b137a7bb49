import { type CodeRole, formatPercent, type Tree, type Triage } from "@fox-lamp/core";
import { messages } from "../../../messages";

const t = messages.job;

const TONES: Readonly<Record<CodeRole, string>> = {
  cause: "border-ember text-ember font-bold",
  "same-line": "border-lamp text-ink",
  consequence: "border-line text-soft",
  apart: "border-dashed border-line text-ink",
};

/** A code as a tag, drawn by what it is. */
export function CodeTag({ code, role }: { code: string; role: CodeRole }) {
  return <span className={`readout inline-block rounded border px-1.5 py-0.5 text-sm ${TONES[role]}`}>{code}</span>;
}

/** How likely something is, as the length of a bar; the number stands beside it. */
function Bar({ share }: { share: number }) {
  return (
    <span className="block h-1.5 w-full overflow-hidden rounded-full bg-line" aria-hidden="true">
      <span className="block h-full rounded-full bg-ember" style={{ width: `${Math.max(2, 100 * share)}%` }} />
    </span>
  );
}

/** What circuits share as a trunk, each of them as a branch: odds, minutes to reach, codes. */
export function TreePicture({ tree, codes }: { tree: Tree; codes: Triage["codes"] }) {
  const roleOf = (code: string): CodeRole => codes.find((candidate) => candidate.code === code)?.role ?? "apart";
  const { trunk, branches } = tree;
  return (
    <div className="grid items-center gap-x-0 gap-y-3 sm:grid-cols-[minmax(10rem,15rem)_1fr]">
      {trunk !== null && (
        <div className="relative rounded-xl border-2 border-lamp bg-panel px-3 py-2.5">
          <p className="m-0 font-bold leading-tight">{trunk.title}</p>
          <p className="mb-1.5 mt-0.5 text-sm text-soft">{t.likely(formatPercent(trunk.probability))}</p>
          <Bar share={trunk.probability} />
        </div>
      )}
      <ul className={`m-0 list-none p-0 ${trunk === null ? "sm:col-span-2" : "ml-4 border-l-4 border-lamp sm:ml-0"}`}>
        {branches.map(({ circuit, title, probability, minutes, codes: own }) => (
          <li key={circuit} className="flex items-center py-1.5">
            {trunk !== null && <span aria-hidden="true" className="h-1 w-6 shrink-0 bg-lamp" />}
            <div className="grid min-w-0 flex-1 grid-cols-[1fr_auto] items-center gap-x-3 gap-y-1 rounded-xl border border-line bg-panel px-3 py-2">
              <span className="font-bold leading-tight">{title}</span>
              <span className="readout text-right text-sm">{formatPercent(probability)}</span>
              <span className="col-span-2">
                <Bar share={probability} />
              </span>
              <span className="flex flex-wrap gap-1.5">
                {own.length === 0 ? (
                  <span className="text-sm text-soft">{t.noCode}</span>
                ) : (
                  own.map((code) => <CodeTag key={code} code={code} role={roleOf(code)} />)
                )}
              </span>
              <span className="whitespace-nowrap text-right text-sm text-soft">{t.reach(minutes)}</span>
            </div>
          </li>
        ))}
      </ul>
    </div>
  );
}
