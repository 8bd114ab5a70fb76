import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react()],
  build: {
    outDir: "../src/DashSprout.Server/wwwroot",
    emptyOutDir: true,
    assetsInlineLimit: 0,
    chunkSizeWarningLimit: 1500,
  },
  // Long enough for a machine that is busy with other things: a wait that is over early costs nothing.
  test: { testTimeout: 300_000, hookTimeout: 300_000 },
  server: {
    proxy: {
      "/api": { target: "http://localhost:5270" },
      "/hub": { target: "http://localhost:5270", ws: true },
    },
  },
});
