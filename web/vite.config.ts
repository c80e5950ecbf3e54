import { join } from "node:path";
import tailwind from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig, type Plugin } from "vite";
import { VitePWA } from "vite-plugin-pwa";

/** The application itself, and the pages that somebody begins on: the server knows their files by these names. */
const FIRST = {
  application: "main.tsx",
  JobsPage: "jobs/JobsPage.tsx",
  JobPage: "jobPage/JobPage.tsx",
  SketchPage: "new/SketchPage.tsx",
  NewPage: "new/NewPage.tsx",
  PumpsPage: "pumps/PumpsPage.tsx",
};

interface Graph {
  getModuleInfo(id: string): { importedIds: string[] } | null;
}

/**
 * A name for what belongs together: all modules that the same of the first pages need. Split any finer, by every pane
 * that may be opened later, a page would begin with sixty small files, and each costs it a moment.
 */
function firstPagesOf(id: string, graph: Graph): string | null {
  reached ??= Object.entries(FIRST).map(([name, file]) => ({
    name,
    modules: reachedFrom(join(import.meta.dirname, file), graph),
  }));
  const by = reached.filter(({ modules }) => modules.has(id)).map(({ name }) => name);
  // What the application itself needs is there whatever the page.
  const [first] = by;
  return first === "application" ? first : by.length > 0 ? by.join("-") : null;
}
let reached: { name: string; modules: Set<string> }[] | undefined;

function reachedFrom(start: string, graph: Graph): Set<string> {
  const seen = new Set([start]);
  for (const id of seen)
    for (const next of graph.getModuleInfo(id)?.importedIds ?? []) seen.add(next);
  return seen;
}

/** What shows toasts would write its styles into the page, which takes none from scripts: they come as a file. */
const stylesAsFile: Plugin = {
  name: "styles-as-file",
  transform: (code, id) =>
    /sonner\/dist\/index\.mjs$/.test(id) ? code.replace(/^__insertCSS\(".*"\);?$/m, "") : undefined,
};

export default defineConfig({
  plugins: [
    stylesAsFile,
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
        navigateFallback: null,
        navigationPreload: true,
        runtimeCaching: [
          {
            // The server sends a page with its first view in it; where it does not answer, or not soon, the application
            // that is kept here draws it.
            urlPattern: ({ request, url, sameOrigin }) =>
              sameOrigin &&
              request.mode === "navigate" &&
              !/^\/(?:api|sign-in|sign-out|authority)|\.txt$/.test(url.pathname),
            handler: "NetworkFirst",
            options: {
              networkTimeoutSeconds: 2,
              // No page is kept: one of yesterday would call for scripts that are gone.
              plugins: [{ cacheWillUpdate: async () => null }],
              precacheFallback: { fallbackURL: "/index.html" },
            },
          },
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
    rolldownOptions: {
      output: {
        codeSplitting: {
          includeDependenciesRecursively: false,
          groups: [
            // What fetches the others is there before them.
            {
              name: "fetching",
              test: /vite\/preload-helper|lib\/(?:fetchModules|early)\.ts/,
              priority: 2,
            },
            { name: "react", test: /node_modules\/(?:react|react-dom|scheduler)\//, priority: 1 },
            { name: firstPagesOf, debugName: "first pages" },
          ],
        },
      },
    },
  },
  server: { proxy: { "/api": "http://127.0.0.1:8418" } },
});
