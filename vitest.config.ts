import { defineConfig } from "vitest/config";

export default defineConfig({
  test: { include: ["src/**/*.test.ts"], exclude: ["src/e2e/**"], testTimeout: 60_000, pool: "forks" },
});
