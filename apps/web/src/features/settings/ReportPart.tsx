import { DATE_LANGUAGES, PAPERS, type ShopSettings } from "@fox-lamp/language";
import { useState } from "react";
import { messages } from "../../messages";
import { languageName } from "../../ui/dates";
import { FilePick } from "../../ui/FilePick";
import { Button } from "../../ui/form";
import { smallLogo } from "../../ui/picture";
import { Options, Row } from "./rows";

const t = messages.settings;
type Report = ShopSettings["report"];

/** How the shop's reports look: letterhead, logo, paper, language of dates. */
export function ReportPart({ report, onChange }: { report: Report; onChange: (report: Report) => void }) {
  const [problem, setProblem] = useState<string | null>(null);
  const change = (part: Partial<Report>): void => onChange({ ...report, ...part });
  const take = async (file: File): Promise<void> => {
    const logo = await smallLogo(file);
    setProblem(logo === null ? messages.intake.notAPicture(file.name) : null);
    if (logo !== null) change({ logo });
  };
  return (
    <>
      <h3 className="mb-1 mt-6 text-sm font-bold text-soft">{t.reports}</h3>
      <Row label={t.letterhead} hint={t.letterheadHint}>
        <textarea
          key={report.letterhead}
          aria-label={t.letterhead}
          rows={3}
          maxLength={600}
          defaultValue={report.letterhead}
          onBlur={(event) => event.target.value !== report.letterhead && change({ letterhead: event.target.value })}
          className="w-full rounded-lg border border-line bg-well px-3 py-2 text-ink"
        />
      </Row>
      <Row label={t.logo} hint={t.logoHint}>
        {report.logo !== null && <img src={report.logo} alt={t.logo} className="max-h-16 max-w-40 rounded border border-line bg-white object-contain p-1" />}
        <FilePick label={t.logoPick} accept="image/png,image/jpeg,image/webp" onFile={(file) => void take(file)}>
          {t.logoPick}
        </FilePick>
        {report.logo !== null && (
          <Button weight="quiet" onClick={() => change({ logo: null })}>
            {t.logoDrop}
          </Button>
        )}
        {problem !== null && (
          <p role="alert" className="m-0 w-full text-sm text-ember">
            {problem}
          </p>
        )}
      </Row>
      <Row label={t.paper}>
        <Options
          label={t.paper}
          value={report.paper}
          options={PAPERS.map((paper) => [paper, t.papers[paper]] as const)}
          onChange={(paper) => change({ paper })}
        />
      </Row>
      <Row label={t.dates}>
        <select
          aria-label={t.dates}
          value={report.dates}
          onChange={(event) => change({ dates: event.target.value as Report["dates"] })}
          className="h-11 rounded-lg border border-edge bg-panel px-2 text-ink"
        >
          {DATE_LANGUAGES.map((language) => (
            <option key={language} value={language}>
              {languageName(language)}
            </option>
          ))}
        </select>
      </Row>
    </>
  );
}
