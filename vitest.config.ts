import { availableParallelism } from "node:os";
import { defineConfig } from "vitest/config";

export default defineConfig({
  test: {
    include: ["src/**/*.test.ts"],
    exclude: ["src/e2e/**"],
    globalSetup: ["src/test/temporary-folder.ts"],
    setupFiles: ["src/test/seed.ts"],
    testTimeout: 180_000,
    hookTimeout: 180_000,
    pool: "forks",
    // Left to itself it leaves one processor idle, which is half of a machine with two.
    maxWorkers: availableParallelism(),
  },
});
