import { createSlice, type PayloadAction } from "@reduxjs/toolkit";

export type Theme = "night" | "day";

interface Settings {
  readonly theme: Theme;
  readonly person: string | null;
}

const STORAGE_KEY = "fox-lamp/settings";

function restore(): Settings {
  const preferred: Theme = matchMedia("(prefers-color-scheme: light)").matches ? "day" : "night";
  try {
    const kept = JSON.parse(localStorage.getItem(STORAGE_KEY) ?? "{}") as Partial<Settings>;
    return { theme: kept.theme === "day" || kept.theme === "night" ? kept.theme : preferred, person: kept.person ?? null };
  } catch {
    return { theme: preferred, person: null };
  }
}

const settingsSlice = createSlice({
  name: "settings",
  initialState: restore,
  reducers: {
    themeToggled: (state) => {
      state.theme = state.theme === "day" ? "night" : "day";
    },
    personChosen: (state, { payload }: PayloadAction<string>) => {
      state.person = payload;
    },
  },
});

export const { themeToggled, personChosen } = settingsSlice.actions;
export const settingsReducer = settingsSlice.reducer;

/** Writes the theme to the page and keeps the settings on this device. */
export function applySettings(settings: Settings): void {
  document.documentElement.dataset["theme"] = settings.theme;
  localStorage.setItem(STORAGE_KEY, JSON.stringify(settings));
}
