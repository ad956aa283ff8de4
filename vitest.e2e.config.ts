import { defineConfig } from "vitest/config";

export default defineConfig({
  test: {
    include: ["src/e2e/**/*.test.ts"],
    globalSetup: ["src/e2e/demo-setup.ts"],
    testTimeout: 120_000,
    hookTimeout: 120_000,
    // On a busy machine an answer takes its time; what is never so fails all the same.
    expect: { poll: { timeout: 20_000 } },
    maxWorkers: 2,
    pool: "forks",
  },
});
