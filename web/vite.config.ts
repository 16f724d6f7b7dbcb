import tailwindcss from "@tailwindcss/vite";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vite";

export default defineConfig({
  plugins: [react(), tailwindcss()],
  build: {
    outDir: "dist/page",
    emptyOutDir: true,
    // The content security policy allows no data: in scripts or styles.
    assetsInlineLimit: 0,
    modulePreload: { polyfill: false },
    // One script, from this very machine: nothing is won by cutting it.
    chunkSizeWarningLimit: 800,
  },
  server: { proxy: { "/api": "http://127.0.0.1:8420" } },
});
