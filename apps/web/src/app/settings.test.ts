import type { Settings } from "./settings";

const kept = new Map<string, string>();
const page = { dataset: {} as Record<string, string>, style: {} as Record<string, string> };

async function opened(light = false): Promise<typeof import("./settings")> {
  Object.assign(globalThis, {
    localStorage: { getItem: (key: string) => kept.get(key) ?? null, setItem: (key: string, value: string) => void kept.set(key, value) },
    matchMedia: () => ({ matches: light }),
    document: { documentElement: page },
  });
  jest.resetModules();
  return import("./settings");
}

const first = ({ settingsReducer }: typeof import("./settings")): Settings => settingsReducer(undefined, { type: "opened" });

describe("settings of this device", () => {
  beforeEach(() => kept.clear());

  it("follow the device's own light until somebody chooses", async () => {
    expect(first(await opened(true)).theme).toBe("day");
    expect(first(await opened(false)).theme).toBe("night");
    const { settingsReducer, themeToggled, applySettings } = await opened(true);
    const night = settingsReducer(undefined, themeToggled());
    applySettings(night);
    expect(page.dataset["theme"]).toBe("night");
    expect(first(await opened(true)).theme).toBe("night");
  });

  it("are kept, and written to the page", async () => {
    const { settingsReducer, settingsChanged, applySettings } = await opened();
    const changed = settingsReducer(
      undefined,
      settingsChanged({ textScale: 1.3, leftHand: true, letters: true, units: { temperature: "degF", pressure: "psi" }, guided: true }),
    );
    applySettings(changed);
    expect(page.style["fontSize"]).toBe("130%");
    expect(first(await opened())).toEqual(changed);
  });

  it("fall back one by one where what was kept cannot be", async () => {
    kept.set("fox-lamp/settings", JSON.stringify({ theme: "dusk", textScale: 7, leftHand: "yes", units: { temperature: "K", pressure: "psi" }, guided: true }));
    expect(first(await opened())).toEqual({
      theme: "night",
      textScale: 1,
      leftHand: false,
      letters: true,
      units: { temperature: "degC", pressure: "psi" },
      guided: true,
    });
    kept.set("fox-lamp/settings", "{ broken");
    expect(first(await opened(true))).toMatchObject({ theme: "day", textScale: 1, guided: false });
  });
});
