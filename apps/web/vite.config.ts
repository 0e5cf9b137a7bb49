import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { VitePWA } from "vite-plugin-pwa";

/** What the server says of jobs and people is asked for anew each time; the last answer serves while it cannot be reached. */
const LATEST = "fox-lamp-latest";

export default defineConfig({
  plugins: [
    react(),
    tailwindcss(),
    VitePWA({
      registerType: "autoUpdate",
      injectRegister: null,
      manifest: {
        name: "Fox Lamp",
        short_name: "Fox Lamp",
        description: "Finds the fault before any part is replaced",
        theme_color: "#14120e",
        background_color: "#14120e",
        display: "standalone",
        icons: [{ src: "/lamp.svg", sizes: "any", type: "image/svg+xml", purpose: "any" }],
      },
      workbox: {
        globPatterns: ["**/*.{js,css,html,svg,woff2}"],
        // The typefaces of the PDF and scripts of Latin's neighbours are fetched when they are needed.
        globIgnores: ["**/*-ext-*.woff2", "**/report-pdf-*.js"],
        maximumFileSizeToCacheInBytes: 3_000_000,
        navigateFallback: "/index.html",
        navigateFallbackDenylist: [/^\/api\//u],
        cleanupOutdatedCaches: true,
        runtimeCaching: [
          {
            urlPattern: ({ url, request }) =>
              url.pathname.startsWith("/api/") && !url.pathname.endsWith("/events") && request.method === "GET" && !url.pathname.startsWith("/api/auth/"),
            handler: "NetworkFirst",
            options: {
              cacheName: LATEST,
              networkTimeoutSeconds: 8,
              expiration: { maxEntries: 200, maxAgeSeconds: 7 * 86_400 },
              cacheableResponse: { statuses: [200] },
            },
          },
        ],
      },
    }),
  ],
  worker: { format: "es" },
  build: { target: "es2022", sourcemap: false, chunkSizeWarningLimit: 700 },
  server: { proxy: { "/api": process.env["API"] ?? "http://127.0.0.1:4680" } },
});
