import { defineConfig } from "vitest/config";

/** No test has a time limit of its own: a busy machine breaks none. */
const shared = { testTimeout: 600_000, hookTimeout: 600_000, pool: "forks", maxWorkers: "100%" } as const;

export default defineConfig({
  test: {
    ...shared,
    projects: [
      {
        test: {
          ...shared,
          name: "core",
          include: ["test/core/**/*.test.ts"],
          // Pure functions on files in memory: what one file loaded serves the next.
          isolate: false,
          globalSetup: ["test/helpers/fresh-parser.ts"],
        },
      },
      { test: { ...shared, name: "cli", include: ["test/cli/**/*.test.ts"], globalSetup: ["test/helpers/fresh-build.ts"] } },
    ],
  },
});
