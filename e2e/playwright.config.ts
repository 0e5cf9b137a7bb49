import { defineConfig } from "@playwright/test";
import { CHROMIUM, CHROMIUM_FLAGS } from "./browser";
import { WREN } from "./sign-in";

export default defineConfig({
  testDir: "./tests",
  outputDir: "./test-results",
  globalSetup: "./sign-in.ts",
  workers: 1,
  fullyParallel: false,
  retries: 0,
  timeout: 300_000,
  expect: { timeout: 60_000 },
  reporter: [["list"]],
  use: {
    baseURL: process.env["BASE_URL"] ?? "http://127.0.0.1:4680",
    // What is kept for offline use has a test of its own; elsewhere every request goes to the server.
    serviceWorkers: "block",
    storageState: WREN,
    viewport: { width: 1280, height: 800 },
    colorScheme: "dark",
    trace: "retain-on-failure",
    launchOptions: { executablePath: CHROMIUM, args: [...CHROMIUM_FLAGS] },
  },
});
