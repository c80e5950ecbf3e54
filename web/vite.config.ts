import tailwind from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";
import { VitePWA } from "vite-plugin-pwa";

export default defineConfig({
  plugins: [
    react(),
    tailwind(),
    VitePWA({
      // A newer version waits until it is asked for: half of one and half of another never run together.
      registerType: "prompt",
      injectRegister: null,
      manifest: {
        name: "Upright Gusher",
        short_name: "Gusher",
        description:
          "Pump lines sized, pumps chosen, and what was measured held against the curve.",
        display: "standalone",
        start_url: "/",
        background_color: "#f1ebdd",
        theme_color: "#f1ebdd",
        icons: [{ src: "/icon.svg", sizes: "any", type: "image/svg+xml" }],
      },
      workbox: {
        globPatterns: ["**/*.{js,css,html,svg,woff2}"],
        // The chart library is one large file.
        maximumFileSizeToCacheInBytes: 4_000_000,
        clientsClaim: true,
        navigateFallback: "/index.html",
        navigateFallbackDenylist: [/^\/api\//, /^\/sign-in/, /^\/authority/, /\.txt$/],
        runtimeCaching: [
          {
            // What was read once can be read without a network; backups are taken from the server alone, and what
            // instruments stream has no end to keep.
            urlPattern: ({ url, sameOrigin }) =>
              sameOrigin && /^\/api\/(?!backups|streams)/.test(url.pathname),
            handler: "NetworkFirst",
            options: {
              cacheName: "answers",
              networkTimeoutSeconds: 8,
              cacheableResponse: { statuses: [200] },
              expiration: { maxEntries: 1000, purgeOnQuotaError: true },
            },
          },
        ],
      },
    }),
  ],
  build: {
    outDir: "../dist/web",
    emptyOutDir: true,
    // The server tells a page beforehand what its own scripts are.
    manifest: true,
    target: "es2022",
    // The chart library is one large file, loaded when the first curve is drawn.
    chunkSizeWarningLimit: 1500,
    // What a page of its own needs is found in it: naming it all beforehand costs more than it saves.
    modulePreload: false,
    // Fonts stay files: the page may load none that is written into a style sheet.
    assetsInlineLimit: 0,
    reportCompressedSize: false,
  },
  server: { proxy: { "/api": "http://127.0.0.1:8418" } },
});
