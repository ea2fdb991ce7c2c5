import path from "node:path";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  base: "/static/",
  plugins: [react()],
  resolve: { alias: { languages: process.env.DRY_LANGUAGES ?? path.resolve(import.meta.dirname, "languages") } },
  build: {
    chunkSizeWarningLimit: 1200,
    assetsInlineLimit: 0,
    rolldownOptions: { output: { codeSplitting: { groups: [{ name: "frame", minShareCount: 20 }] } } },
  },
  test: {
    include: ["tests/*.test.{ts,tsx}"],
    environment: "happy-dom",
    coverage: { include: ["src/**"], reporter: ["text-summary"] },
  },
  server: { proxy: { "/api": "http://127.0.0.1:8750" } },
});
