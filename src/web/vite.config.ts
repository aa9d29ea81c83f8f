import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react()],
  // A bound for a machine that is busy with other work, not a measure.
  test: { setupFiles: ["shared/seed.ts"], testTimeout: 60_000 },
  build: { outDir: "../GoldenRule.Server/wwwroot", emptyOutDir: true, sourcemap: false },
  server: {
    proxy: {
      "/api": "http://127.0.0.1:5480",
      "/pictures": "http://127.0.0.1:5480",
      "/live": { target: "http://127.0.0.1:5480", ws: true },
    },
  },
});
