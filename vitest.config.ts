import { defineConfig } from "vitest/config";

export default defineConfig({
  test: {
    include: ["*/src/**/*.test.ts"],
    setupFiles: ["./core/src/testing/seeded-properties.ts"],
    // Far beyond what anything takes: a machine with other work must not fail a test that is only slow.
    testTimeout: 240_000,
    hookTimeout: 120_000,
    // Two cores: more files at once only make each slower.
    maxWorkers: 2,
  },
});
