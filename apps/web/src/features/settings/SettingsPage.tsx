import { unitSymbol } from "@fox-lamp/core";
import { Link } from "react-router";
import { useShopQuery } from "../../app/api";
import { useSession } from "../../app/session";
import { settingsChanged, TEXT_SCALES } from "../../app/settings";
import { PageHead } from "../../app/shell";
import { useAppDispatch, useAppSelector } from "../../app/store";
import { messages } from "../../messages";
import { PRESSURE_UNITS, TEMPERATURE_UNITS } from "../../ui/display";
import { Plain } from "../../ui/states";
import { Options, Row } from "./rows";
import { ShopPart } from "./ShopPart";

const t = messages.settings;

/** What belongs to this device. */
function DevicePart() {
  const dispatch = useAppDispatch();
  const settings = useAppSelector((state) => state.settings);
  const set = (part: Parameters<typeof settingsChanged>[0]): void => void dispatch(settingsChanged(part));
  return (
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
  );
}

/** What belongs to this device, and what the shop has decided. */
export function SettingsPage() {
  const { data: shop, error } = useShopQuery();
  const me = useSession();
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
        <DevicePart />
        {shop ? (
          <ShopPart settings={shop.settings} locked={me?.role !== "foreman"} />
        ) : (
          <Plain>{error ? messages.states.failed : messages.states.loading}</Plain>
        )}
      </main>
    </>
  );
}
