import tailwind from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  plugins: [react(), tailwind()],
  build: {
    outDir: "../dist/web",
    emptyOutDir: true,
    target: "es2022",
    // The chart library is one large file, loaded when the first curve is drawn.
    chunkSizeWarningLimit: 1500,
    modulePreload: { polyfill: false },
    // Fonts stay files: the page may load none that is written into a style sheet.
    assetsInlineLimit: 0,
    reportCompressedSize: false,
  },
  server: { proxy: { "/api": "http://127.0.0.1:8418" } },
});
