import { defineConfig } from "vitest/config";

export default defineConfig({
  test: {
    include: ["*/src/**/*.test.ts"],
    setupFiles: ["./core/src/testing/seeded-properties.ts"],
    testTimeout: 120_000,
    hookTimeout: 120_000,
    // Two cores: more files at once only make each slower.
    maxWorkers: 2,
  },
});
