import { defineConfig } from "vitest/config";
import { BaseSequencer, type TestSpecification } from "vitest/node";

/**
 * Files that take longest, by their folders: begun first, so that neither worker is left with one
 * of them at the end.
 */
const LONGEST = [
  "server/src/outputs/video",
  "cli/src",
  "server/src/jobs",
  "server/src/share",
  "server/src/check",
  "server/src",
];

class LongestFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const rank = ({ moduleId }: TestSpecification): number => {
      const index = LONGEST.findIndex((folder) => moduleId.includes(`/${folder}/`));
      return index < 0 ? LONGEST.length : index;
    };
    return (await super.sort(files)).toSorted((a, b) => rank(a) - rank(b));
  }
}

const testsOf = (room: string): string => `${room}/src/**/*.test.ts`;

/** Without programs, files and servers of their own. */
const PURE_ROOMS = ["core", "contract", "web", "demo"];

export default defineConfig({
  test: {
    projects: [
      { extends: true, test: { name: "pure", include: PURE_ROOMS.map(testsOf) } },
      { extends: true, test: { name: "programs", include: ["server", "cli", "stand-ins"].map(testsOf) } },
    ],
    // Modules keep no state that a test could see: files share them, and they are loaded once.
    isolate: false,
    globalSetup: ["./scripts/build-for-tests.mjs"],
    setupFiles: ["./core/src/testing/seeded-properties.ts"],
    // Far beyond what anything takes: a machine with other work must not fail a test that is only
    // slow.
    testTimeout: 240_000,
    hookTimeout: 120_000,
    // Two cores: more files at once only make each slower.
    maxWorkers: 3,
    sequence: { sequencer: LongestFirst },
  },
});
