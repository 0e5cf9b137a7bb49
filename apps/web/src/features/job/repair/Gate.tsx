import { formatPercent } from "@fox-lamp/core";
import { useState } from "react";
import { useNavigate } from "react-router";
import { namerOf } from "../../../circuit/names-of";
import { useAnalysis } from "../../../circuit/use-analysis";
import { messages } from "../../../messages";
import { Block, Button, Select } from "../../../ui/form";
import type { Work } from "../shared/JobFrame";
import { useDiagnosed } from "../shared/use-diagnosed";
import { oddsOf, oddsText } from "./units";

const t = messages.repair;

/** A part may be fitted before proof, but not by accident: which one is asked, its odds are shown, and kept for that part alone. */
export function Gate({ work }: { work: Work }) {
  const { job, enter } = work;
  const navigate = useNavigate();
  const [chosen, setChosen] = useState<string | null>(null);
  const diagnosed = useDiagnosed(work);
  const { analysis } = useAnalysis(diagnosed);
  const nameOf = namerOf(job.circuits);
  const units = (analysis?.diagnosis.units ?? []).filter(({ unit }) => unit !== "none" && !unit.endsWith("/outside"));
  const unit = chosen ?? units[0]?.unit ?? null;
  const odds = unit === null || !analysis ? null : oddsOf(unit, analysis.diagnosis);
  const fit = (): void => {
    if (unit === null || odds === null) return;
    const { probability, lossMinutes } = odds;
    enter({ kind: "decision", body: { decision: "override", unit, probability, ...(lossMinutes === null ? {} : { lossMinutes }) } });
  };
  return (
    <Block title={t.gateTitle}>
      <p className="m-0 mb-2 font-bold">{t.unproven}</p>
      {unit !== null && <Select label={t.gateWhich} value={unit} options={units.map((each) => [each.unit, nameOf(each.unit)] as const)} onChange={setChosen} />}
      {unit !== null && odds !== null && (
        <p role="status" className="mb-0 mt-2">
          {oddsText(nameOf(unit), odds, formatPercent)}
        </p>
      )}
      <p className="mb-3 mt-2 text-sm text-soft">{t.gateRisk}</p>
      <div className="flex flex-wrap gap-2">
        <Button weight="next" onClick={() => void navigate(`/jobs/${job.id}/bench`)}>
          {t.gateBack}
        </Button>
        <Button disabled={odds === null} onClick={fit} className="border-ember">
          {t.gateGo}
        </Button>
      </div>
    </Block>
  );
}
