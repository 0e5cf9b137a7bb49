import type { ShopSettings } from "@fox-lamp/language";
import { messages } from "../../messages";
import { Amount } from "./Amount";
import { Options, Row } from "./rows";

const t = messages.settings;

type Policy = ShopSettings["policy"];

interface Props {
  readonly now: Policy;
  readonly policy: (part: Partial<Policy>) => void;
}

/** How this shop measures and repairs. */
export function PolicyPart(props: Props) {
  return (
    <>
      <h3 className="mb-1 mt-6 text-sm font-bold text-soft">{t.policy}</h3>
      <MeasuringPart {...props} />
      <RepairPart {...props} />
    </>
  );
}

function MeasuringPart({ now, policy }: Props) {
  return (
    <>
      <Row label={t.ground} card="school-ground">
        <Amount label={t.ground} value={now.groundMillivolts} unit="mV" min={10} max={500} onChange={(groundMillivolts) => policy({ groundMillivolts })} />
      </Row>
      <Row label={t.cranking}>
        <Amount
          label={t.cranking}
          value={now.crankingMillivolts}
          unit="mV"
          min={50}
          max={1000}
          onChange={(crankingMillivolts) => policy({ crankingMillivolts })}
        />
      </Row>
      <Row label={t.piercing} card="school-piercing">
        <Options
          label={t.piercing}
          value={now.piercing}
          options={[
            ["last", t.piercings.last],
            ["never", t.piercings.never],
          ]}
          onChange={(piercing) => policy({ piercing })}
        />
      </Row>
      <Row label={t.bypass} card="school-bypass">
        <Options
          label={t.bypass}
          value={now.bypass}
          options={[
            ["resistor", t.bypasses.resistor],
            ["wire", t.bypasses.wire],
            ["both", t.bypasses.both],
          ]}
          onChange={(bypass) => policy({ bypass })}
        />
      </Row>
      <Row label={t.resistance} card="school-resistance">
        <Options
          label={t.resistance}
          value={now.resistance ? "yes" : "no"}
          options={[
            ["yes", t.resistances.yes],
            ["no", t.resistances.no],
          ]}
          onChange={(answer) => policy({ resistance: answer === "yes" })}
        />
      </Row>
    </>
  );
}

function RepairPart({ now, policy }: Props) {
  return (
    <>
      <Row label={t.loom} card="school-loom">
        <Amount label={t.loom} value={now.changeLoomFrom} unit="" min={1} max={20} onChange={(changeLoomFrom) => policy({ changeLoomFrom })} />
      </Row>
      <Row label={t.clean} card="school-clean">
        <Options
          label={t.clean}
          value={now.cleanFirst ? "yes" : "no"}
          options={[
            ["yes", t.cleans.yes],
            ["no", t.cleans.no],
          ]}
          onChange={(answer) => policy({ cleanFirst: answer === "yes" })}
        />
      </Row>
      <Row label={t.part} card="school-part">
        <Options
          label={t.part}
          value={now.part}
          options={[
            ["either", t.parts.either],
            ["original", t.parts.original],
          ]}
          onChange={(part) => policy({ part })}
        />
      </Row>
      <Row label={t.learnt}>
        <Options
          label={t.learnt}
          value={now.learnt}
          options={[
            ["full", t.learnts.full],
            ["half", t.learnts.half],
            ["off", t.learnts.off],
          ]}
          onChange={(learnt) => policy({ learnt })}
        />
      </Row>
    </>
  );
}
