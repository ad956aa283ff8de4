import { defineConfig } from "vitest/config";

export default defineConfig({
  test: {
    include: ["src/e2e/**/*.test.ts"],
    // What is on the screens of a test that failed is told before the test closes them.
    sequence: { hooks: "list" },
    globalSetup: ["src/test/temporary-folder.ts", "src/e2e/demo-setup.ts"],
    setupFiles: ["src/e2e/tell-failed.ts"],
    testTimeout: 180_000,
    hookTimeout: 120_000,
    // On a busy machine an answer takes its time; what is never so fails all the same.
    expect: { poll: { timeout: 40_000 } },
    maxWorkers: 2,
    pool: "forks",
  },
});
