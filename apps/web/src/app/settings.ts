import { createSlice, type PayloadAction } from "@reduxjs/toolkit";
import { type DisplayUnits, PRESSURE_UNITS, showIn, TEMPERATURE_UNITS } from "../ui/display";

export type Theme = "night" | "day";

/** How large everything is written. */
export const TEXT_SCALES = [1, 1.15, 1.3, 1.5] as const;
export type TextScale = (typeof TEXT_SCALES)[number];

export interface Settings {
  readonly theme: Theme;
  readonly textScale: TextScale;
  /** The panel one works with stands on the left. */
  readonly leftHand: boolean;
  /** Single letters on the keyboard do things. */
  readonly letters: boolean;
  readonly units: DisplayUnits;
  /** The first visit's guided job was finished or left. */
  readonly guided: boolean;
}

const STORAGE_KEY = "fox-lamp/settings";

function restore(): Settings {
  const preferred: Theme = matchMedia("(prefers-color-scheme: light)").matches ? "day" : "night";
  try {
    const kept = JSON.parse(localStorage.getItem(STORAGE_KEY) ?? "{}") as Partial<Settings>;
    return {
      theme: kept.theme === "day" || kept.theme === "night" ? kept.theme : preferred,
      textScale: TEXT_SCALES.find((scale) => scale === kept.textScale) ?? 1,
      leftHand: kept.leftHand === true,
      letters: kept.letters !== false,
      units: {
        temperature: TEMPERATURE_UNITS.find((unit) => unit === kept.units?.temperature) ?? "degC",
        pressure: PRESSURE_UNITS.find((unit) => unit === kept.units?.pressure) ?? "kPa",
      },
      guided: kept.guided === true,
    };
  } catch {
    return { ...PLAIN, theme: preferred };
  }
}

const PLAIN: Omit<Settings, "theme"> = { textScale: 1, leftHand: false, letters: true, units: { temperature: "degC", pressure: "kPa" }, guided: false };

const settingsSlice = createSlice({
  name: "settings",
  initialState: restore,
  reducers: {
    themeToggled: (state) => {
      state.theme = state.theme === "day" ? "night" : "day";
    },
    settingsChanged: (state, { payload }: PayloadAction<Partial<Settings>>) => Object.assign(state, payload),
  },
});

export const { themeToggled, settingsChanged } = settingsSlice.actions;
export const settingsReducer = settingsSlice.reducer;

/** Makes layouts look anew how many letters fit: a browser that knows a container's width does not ask again when letters grow. */
function measureRoom(): void {
  const { body } = document;
  if (!body) return;
  body.style.setProperty("container-type", "normal");
  void body.offsetWidth;
  body.style.removeProperty("container-type");
}

/** Writes the theme to the page and keeps the settings on this device. */
export function applySettings(settings: Settings): void {
  showIn(settings.units);
  document.documentElement.dataset["theme"] = settings.theme;
  const letters = `${100 * settings.textScale}%`;
  if (document.documentElement.style.fontSize !== letters) {
    document.documentElement.style.fontSize = letters;
    measureRoom();
  }
  localStorage.setItem(STORAGE_KEY, JSON.stringify(settings));
}
