import { unitSymbol } from "@fox-lamp/core";
import { INSTRUMENTS, type ShopSettings } from "@fox-lamp/language";
import { Link } from "react-router";
import { reasonOf, useChangeSettingsMutation, useShopQuery } from "../../app/api";
import { useSession } from "../../app/session";
import { settingsChanged, TEXT_SCALES } from "../../app/settings";
import { PageHead } from "../../app/shell";
import { useAppDispatch, useAppSelector } from "../../app/store";
import { messages } from "../../messages";
import { PRESSURE_UNITS, TEMPERATURE_UNITS } from "../../ui/display";
import { Plain } from "../../ui/states";
import { toast } from "../../ui/toast";
import { ReportPart } from "./ReportPart";
import { Options, Row } from "./rows";

const t = messages.settings;

const CURRENCIES = ["AUD", "CAD", "CHF", "CZK", "DKK", "EUR", "GBP", "HUF", "INR", "JPY", "NOK", "NZD", "PLN", "RON", "SEK", "USD", "ZAR"] as const;

/** A number that is saved when it is left, kept as typed while it cannot be. */
function Amount({
  label,
  value,
  unit,
  onChange,
  min,
  max,
}: {
  label: string;
  value: number;
  unit: string;
  onChange: (value: number) => void;
  min: number;
  max: number;
}) {
  return (
    <label className="flex items-center gap-2">
      <span className="sr-only">{label}</span>
      <input
        type="number"
        key={value}
        defaultValue={value}
        min={min}
        max={max}
        step="any"
        onBlur={(event) => {
          const typed = event.target.valueAsNumber;
          if (Number.isFinite(typed) && typed !== value) onChange(typed);
        }}
        onKeyDown={(event) => event.key === "Enter" && event.currentTarget.blur()}
        className="readout h-11 w-28 rounded-lg border border-edge bg-well px-3 text-right text-ink"
      />
      <span className="text-soft">{unit}</span>
    </label>
  );
}

/** Whole months; null for ever. */
const monthsOf = (typed: number): number | null => (Math.round(typed) < 1 ? null : Math.round(typed));

/** What the shop has decided; only a foreman changes it. */
function ShopPart({ settings, locked }: { settings: ShopSettings; locked: boolean }) {
  const [change] = useChangeSettingsMutation();
  const save = async (next: ShopSettings): Promise<void> => {
    const answer = await change(next);
    if ("error" in answer) toast.error(reasonOf(answer.error) ?? messages.states.failed);
    else toast.success(t.saved);
  };
  const policy = (part: Partial<ShopSettings["policy"]>): void => void save({ ...settings, policy: { ...settings.policy, ...part } });
  const tools = settings.bench ?? [...INSTRUMENTS];
  const toggle = (tool: (typeof INSTRUMENTS)[number]): void => {
    const next = tools.includes(tool) ? tools.filter((other) => other !== tool) : [...tools, tool];
    void save({ ...settings, bench: next.length === INSTRUMENTS.length ? null : next });
  };
  const { policy: now } = settings;
  return (
    <section aria-labelledby="shop-settings">
      <h2 id="shop-settings" className="mb-2 mt-8 text-lg font-bold">
        {t.shop}
      </h2>
      {locked && <p className="text-soft">{t.foremanDecides}</p>}
      <fieldset disabled={locked} className="m-0 min-w-0 border-0 p-0">
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
        <h3 className="mb-1 mt-6 text-sm font-bold text-soft">{t.policy}</h3>
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
        <Row label={t.money}>
          <Amount
            label={t.money}
            value={settings.moneyPerHour}
            unit="/ h"
            min={0}
            max={1000}
            onChange={(moneyPerHour) => void save({ ...settings, moneyPerHour })}
          />
          <label className="flex items-center gap-2">
            <span className="text-sm text-soft">{t.currency}</span>
            <select
              value={settings.currency ?? ""}
              onChange={(event) => void save({ ...settings, currency: event.target.value === "" ? null : event.target.value })}
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
        <Row label={t.altitude} hint={t.altitudeHint}>
          <Amount
            label={t.altitude}
            value={settings.altitudeMetres}
            unit="m"
            min={-400}
            max={5000}
            onChange={(altitudeMetres) => void save({ ...settings, altitudeMetres })}
          />
        </Row>
        <Row label={t.weather} hint={t.weatherHint}>
          <Amount
            label={t.weather}
            value={Number((10 * settings.seaLevelKPa).toFixed(1))}
            unit="hPa"
            min={900}
            max={1100}
            onChange={(hectopascal) => void save({ ...settings, seaLevelKPa: hectopascal / 10 })}
          />
        </Row>
        <ReportPart report={settings.report} onChange={(report) => void save({ ...settings, report })} />
        {(
          [
            ["keepPhotosMonths", t.photosKept],
            ["keepClosedJobsMonths", t.closedKept],
          ] as const
        ).map(([kept, label]) => (
          <Row key={kept} label={label} hint={t.keptHint}>
            <Amount
              label={label}
              value={settings[kept] ?? 0}
              unit={t.months}
              min={0}
              max={600}
              onChange={(months) => void save({ ...settings, [kept]: monthsOf(months) })}
            />
          </Row>
        ))}
      </fieldset>
    </section>
  );
}

/** What belongs to this device, and what the shop has decided. */
export function SettingsPage() {
  const dispatch = useAppDispatch();
  const settings = useAppSelector((state) => state.settings);
  const { data: shop, error } = useShopQuery();
  const me = useSession();
  const set = (part: Parameters<typeof settingsChanged>[0]): void => void dispatch(settingsChanged(part));
  return (
    <>
      <PageHead>
        <span className="text-soft">{shop?.name}</span>
      </PageHead>
      <main id="content" className="mx-auto w-full max-w-4xl flex-1 px-4 py-6">
        <div className="flex items-baseline justify-between">
          <h1 className="text-2xl font-bold">{t.title}</h1>
          <Link to="/" className="text-ink underline decoration-lamp underline-offset-4">
            {messages.shell.yard}
          </Link>
        </div>
        <section aria-labelledby="device-settings">
          <h2 id="device-settings" className="mb-2 mt-6 text-lg font-bold">
            {t.device}
          </h2>
          <Row label={t.theme}>
            <Options
              label={t.theme}
              value={settings.theme}
              options={[
                ["day", t.themes.day],
                ["night", t.themes.night],
              ]}
              onChange={(theme) => set({ theme })}
            />
          </Row>
          <Row label={t.text}>
            <Options
              label={t.text}
              value={settings.textScale}
              options={TEXT_SCALES.map((scale) => [scale, `${Math.round(100 * scale)} %`] as const)}
              onChange={(textScale) => set({ textScale })}
            />
          </Row>
          <Row label={t.hand}>
            <Options
              label={t.hand}
              value={settings.leftHand ? "left" : "right"}
              options={[
                ["right", t.hands.right],
                ["left", t.hands.left],
              ]}
              onChange={(hand) => set({ leftHand: hand === "left" })}
            />
          </Row>
          <Row label={t.letters} hint={t.lettersHint}>
            <Options
              label={t.letters}
              value={settings.letters ? "on" : "off"}
              options={[
                ["on", t.lettersAre.on],
                ["off", t.lettersAre.off],
              ]}
              onChange={(letters) => set({ letters: letters === "on" })}
            />
          </Row>
          <Row label={t.temperature}>
            <Options
              label={t.temperature}
              value={settings.units.temperature}
              options={TEMPERATURE_UNITS.map((unit) => [unit, unitSymbol(unit)] as const)}
              onChange={(temperature) => set({ units: { ...settings.units, temperature } })}
            />
          </Row>
          <Row label={t.pressure}>
            <Options
              label={t.pressure}
              value={settings.units.pressure}
              options={PRESSURE_UNITS.map((unit) => [unit, unit] as const)}
              onChange={(pressure) => set({ units: { ...settings.units, pressure } })}
            />
          </Row>
        </section>
        {shop ? (
          <ShopPart settings={shop.settings} locked={me?.role !== "foreman"} />
        ) : (
          <Plain>{error ? messages.states.failed : messages.states.loading}</Plain>
        )}
      </main>
    </>
  );
}
