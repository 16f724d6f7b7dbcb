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
  },
  server: {
    // The server answers its own page only: what comes through here says that it is it.
    proxy: {
      "/api": {
        target: "http://127.0.0.1:8420",
        changeOrigin: true,
        configure: (proxy) => proxy.on("proxyReq", (request) => request.setHeader("origin", "http://127.0.0.1:8420")),
      },
    },
  },
});
