import { INSTRUMENTS, type ShopSettings } from "@fox-lamp/language";
import { reasonOf, useChangeSettingsMutation } from "../../app/api";
import { messages } from "../../messages";
import { toast } from "../../ui/toast";
import { Amount } from "./Amount";
import { PolicyPart } from "./PolicyPart";
import { ReportPart } from "./ReportPart";
import { Row } from "./rows";

const t = messages.settings;

const CURRENCIES = ["AUD", "CAD", "CHF", "CZK", "DKK", "EUR", "GBP", "HUF", "INR", "JPY", "NOK", "NZD", "PLN", "RON", "SEK", "USD", "ZAR"] as const;

/** Whole months; null for ever. */
const monthsOf = (typed: number): number | null => (Math.round(typed) < 1 ? null : Math.round(typed));

interface Part {
  readonly settings: ShopSettings;
  readonly change: (part: Partial<ShopSettings>) => void;
}

/** What the shop has decided; only a foreman changes it. */
export function ShopPart({ settings, locked }: { settings: ShopSettings; locked: boolean }) {
  const [save] = useChangeSettingsMutation();
  const change = async (part: Partial<ShopSettings>): Promise<void> => {
    const answer = await save({ ...settings, ...part });
    if ("error" in answer) toast.error(reasonOf(answer.error) ?? messages.states.failed);
    else toast.success(t.saved);
  };
  const own: Part = { settings, change: (part) => void change(part) };
  return (
    <section aria-labelledby="shop-settings">
      <h2 id="shop-settings" className="mb-2 mt-8 text-lg font-bold">
        {t.shop}
      </h2>
      {locked && <p className="text-soft">{t.foremanDecides}</p>}
      <fieldset disabled={locked} className="m-0 min-w-0 border-0 p-0">
        <Tools {...own} />
        <PolicyPart now={settings.policy} policy={(part) => own.change({ policy: { ...settings.policy, ...part } })} />
        <Money {...own} />
        <Air {...own} />
        <ReportPart report={settings.report} onChange={(report) => own.change({ report })} />
        <Kept {...own} />
      </fieldset>
    </section>
  );
}

/** What hangs on the bench. */
function Tools({ settings, change }: Part) {
  const tools = settings.bench ?? [...INSTRUMENTS];
  const toggle = (tool: (typeof INSTRUMENTS)[number]): void => {
    const next = tools.includes(tool) ? tools.filter((other) => other !== tool) : [...tools, tool];
    change({ bench: next.length === INSTRUMENTS.length ? null : next });
  };
  return (
    <Row label={t.tools} hint={t.toolsHint}>
      {INSTRUMENTS.map((tool) => (
        <label
          key={tool}
          className={`flex h-11 cursor-pointer items-center gap-2 rounded-lg border px-3 ${tools.includes(tool) ? "border-lamp text-ink" : "border-edge text-soft"}`}
        >
          <input type="checkbox" checked={tools.includes(tool)} onChange={() => toggle(tool)} className="size-5 accent-[var(--lamp)]" />
          {t.tool[tool]}
        </label>
      ))}
    </Row>
  );
}

/** What an hour costs, and in what. */
function Money({ settings, change }: Part) {
  return (
    <Row label={t.money}>
      <Amount label={t.money} value={settings.moneyPerHour} unit="/ h" min={0} max={1000} onChange={(moneyPerHour) => change({ moneyPerHour })} />
      <label className="flex items-center gap-2">
        <span className="text-sm text-soft">{t.currency}</span>
        <select
          value={settings.currency ?? ""}
          onChange={(event) => change({ currency: event.target.value === "" ? null : event.target.value })}
          className="h-11 rounded-lg border border-edge bg-panel px-2 text-ink"
        >
          <option value="">{t.noCurrency}</option>
          {CURRENCIES.map((code) => (
            <option key={code} value={code}>
              {code}
            </option>
          ))}
        </select>
      </label>
    </Row>
  );
}

/** Where the shop stands, and its weather: what an open manifold reads. */
function Air({ settings, change }: Part) {
  return (
    <>
      <Row label={t.altitude} hint={t.altitudeHint}>
        <Amount label={t.altitude} value={settings.altitudeMetres} unit="m" min={-400} max={5000} onChange={(altitudeMetres) => change({ altitudeMetres })} />
      </Row>
      <Row label={t.weather} hint={t.weatherHint}>
        <Amount
          label={t.weather}
          value={Number((10 * settings.seaLevelKPa).toFixed(1))}
          unit="hPa"
          min={900}
          max={1100}
          onChange={(hectopascal) => change({ seaLevelKPa: hectopascal / 10 })}
        />
      </Row>
    </>
  );
}

/** How long photographs and closed jobs stay. */
function Kept({ settings, change }: Part) {
  return (
    <>
      {(
        [
          ["keepPhotosMonths", t.photosKept],
          ["keepClosedJobsMonths", t.closedKept],
        ] as const
      ).map(([kept, label]) => (
        <Row key={kept} label={label} hint={t.keptHint}>
          <Amount label={label} value={settings[kept] ?? 0} unit={t.months} min={0} max={600} onChange={(months) => change({ [kept]: monthsOf(months) })} />
        </Row>
      ))}
    </>
  );
}
