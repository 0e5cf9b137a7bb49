import type { SharedPage } from "@fox-lamp/language";
import { Copy } from "lucide-react";
import { reasonOf, useEndShareMutation, useShareMutation, useSharesQuery } from "../../../app/api";
import { messages } from "../../../messages";
import { AskFirst } from "../../../ui/AskFirst";
import { dayIn } from "../../../ui/dates";
import { Block, Button } from "../../../ui/form";
import { toast } from "../../../ui/toast";

const t = messages.report;

const addressOf = (code: string): string => `${location.origin}/report/${code}`;

/** Shares the customer's page by an address that expires; what is shared stands here and can be ended. @param page null while the report is not whole */
export function ShareBlock({ job, page, language }: { job: string; page: SharedPage | null; language: Parameters<typeof dayIn>[0] }) {
  const { data: shares = [] } = useSharesQuery(job);
  const [share, { isLoading }] = useShareMutation();
  const [end] = useEndShareMutation();
  const copy = async (code: string): Promise<void> => {
    // Over plain HTTP browsers give no clipboard: the address stands there to be copied by hand.
    await navigator.clipboard?.writeText(addressOf(code)).then(
      () => toast.success(messages.people.copied),
      () => undefined,
    );
  };
  const make = async (): Promise<void> => {
    if (page === null) return;
    const answer = await share({ job, page });
    if ("error" in answer) toast.error(reasonOf(answer.error) ?? messages.states.failed);
    else await copy(answer.data.code);
  };
  const stop = async (code: string): Promise<void> => {
    const answer = await end({ job, code });
    if ("error" in answer) toast.error(reasonOf(answer.error) ?? messages.states.failed);
  };
  return (
    <div className="print:hidden">
      <Block title={t.share}>
        <p className="mb-2 mt-0 text-sm text-soft">{t.shareLead}</p>
        <ul className="m-0 list-none p-0">
          {shares.map(({ code, by, expiresAt }) => (
            <li key={code} className="flex flex-wrap items-center gap-x-3 gap-y-1 border-t border-line py-2 first:border-t-0">
              <span className="min-w-0 flex-1">
                <a href={addressOf(code)} className="readout text-ink [overflow-wrap:anywhere]">
                  {addressOf(code)}
                </a>
                <span className="block text-sm text-soft">{t.shareUntil(dayIn(language, expiresAt), by)}</span>
              </span>
              <Button aria-label={messages.people.copy} title={messages.people.copy} onClick={() => void copy(code)}>
                <Copy size={18} aria-hidden="true" />
              </Button>
              <AskFirst weight="quiet" label={t.shareEnd} title={t.shareEndTitle} lead={t.shareEndLead} onYes={() => void stop(code)} />
            </li>
          ))}
        </ul>
        <Button disabled={page === null || isLoading} onClick={() => void make()} className="mt-2">
          {t.shareMake}
        </Button>
      </Block>
    </div>
  );
}
