import path from "node:path";
import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

/** What nearly every room needs comes in two files; what speaks a language stands apart, since it is loaded before them. */
const GROUPS = [
  { name: "libraries", test: /node_modules/, minShareCount: 26 },
  { name: "frame", test: /src/, minShareCount: 26 },
  { name: "language", test: /src\/shared\/words\/(language|named)/, priority: 1 },
];

export default defineConfig({
  base: "/static/",
  plugins: [react()],
  resolve: { alias: { languages: process.env.DRY_LANGUAGES ?? path.resolve(import.meta.dirname, "languages") } },
  build: {
    chunkSizeWarningLimit: 1200,
    assetsInlineLimit: 0,
    rolldownOptions: { output: { codeSplitting: { groups: GROUPS } } },
  },
  test: {
    include: ["tests/*.test.{ts,tsx}", ...(process.env.DRY_SERVER ? ["tests/served/*.test.{ts,tsx}"] : [])],
    environment: "happy-dom",
    // Every file cleans up after itself: what is imported is imported once.
    isolate: false,
    coverage: { include: ["src/**"], reporter: ["text-summary"] },
  },
  server: { proxy: { "/api": "http://127.0.0.1:8750" } },
});
