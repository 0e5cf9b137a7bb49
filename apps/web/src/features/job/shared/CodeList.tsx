import { genericCode } from "@fox-lamp/core";
import type { Code } from "@fox-lamp/language";
import { X } from "lucide-react";
import { messages } from "../../../messages";
import { printed } from "./entry-text";

const t = messages.codes;
const j = messages.job;

/** Codes with their status and freeze frame. @param onRemove takes a code away that was typed wrongly */
export function CodeList({ codes, onRemove }: { codes: readonly Code[]; onRemove?: (code: string) => void }) {
  return (
    <ul className="m-0 list-none space-y-2 p-0">
      {codes.map((code) => (
        <li key={code.code} className="rounded-lg border border-line px-3 py-2">
          <div className="flex flex-wrap items-baseline gap-x-3">
            <span className="readout text-lg font-bold">{code.code}</span>
            {code.status && <span className="text-sm text-soft">{code.status}</span>}
            <span className="min-w-0 flex-1">{typeof code["text"] === "string" ? code["text"] : (genericCode(code.code)?.title ?? j.unknownCode)}</span>
            {onRemove && (
              <button
                type="button"
                aria-label={t.remove(code.code)}
                onClick={() => onRemove(code.code)}
                className="grid size-11 place-items-center text-soft hover:text-ink"
              >
                <X size={18} aria-hidden="true" />
              </button>
            )}
          </div>
          {code.freezeFrame && (
            <dl className="m-0 mt-1 flex flex-wrap gap-x-5 gap-y-0.5 text-sm">
              <dt className="text-soft">{j.freeze}</dt>
              {Object.entries(code.freezeFrame).map(([name, value]) => (
                <dd key={name} className="m-0">
                  {name} <span className="readout font-bold">{printed(value)}</span>
                </dd>
              ))}
            </dl>
          )}
        </li>
      ))}
    </ul>
  );
}
