import { defineRule } from "../rule.js";

const manifest = JSON.stringify({ name: "deckpass", dependencies: { "react-native": "0.80.0", "chart-deck": "^2.0.0" } });
const base = {
  ".git/HEAD": "ref: refs/heads/main\n",
  "package.json": manifest,
  "android/settings.gradle": "include ':app'\n",
  "android/app/build.gradle":
    "apply plugin: 'com.android.application'\nandroid {\n  defaultConfig {\n    applicationId 'example.maresia.deckpass'\n  }\n}\n",
};
const lock = {
  lockfileVersion: 3,
  packages: {
    "": { dependencies: { "react-native": "0.80.0", "chart-deck": "^2.0.0" } },
    "node_modules/react-native": { version: "0.80.0" },
    "node_modules/chart-deck": { version: "2.0.0" },
  },
};

export const lockMissing = defineRule({
  name: "version/lock-missing",
  severity: "warning",
  title: "There is no lock file",
  looksAt:
    "Whether each package manager whose lock file belongs in the repository has one: npm, Yarn, pnpm, CocoaPods, Swift packages, Carthage. Gradle's lock files are optional and not asked for.",
  why: "Without a lock file two builds of the same commit can ship different versions of an SDK.",
  advice: "Install once and commit the lock file.",
  examples: { reported: base, silent: { ...base, "package-lock.json": JSON.stringify(lock, undefined, 2) } },
  check({ app }) {
    return app.locks.flatMap((lock) => {
      if (lock.lock !== undefined || !lock.needed) return [];
      return [
        {
          side: lock.side,
          severity: lock.expected ? undefined : ("note" as const),
          message: lock.expected
            ? `no lock file: ${lock.lockName} is missing`
            : `no lock file yet: ${lock.lockName} is missing, and nothing is installed`,
          fix: `${INSTALL[lock.manager]}, then commit ${lock.manager === "npm" ? "the lock file" : lock.lockName}`,
          places: [lock.manifest],
          subject: `${lock.manager} ${lock.lockName}`,
        },
      ];
    });
  },
});

const INSTALL: Record<string, string> = {
  npm: "install the packages",
  yarn: "run yarn install",
  pnpm: "run pnpm install",
  cocoapods: "run pod install",
  swiftpm: "resolve the packages in Xcode",
  carthage: "run carthage update",
  gradle: "write the locks",
  pub: "run flutter pub get",
  nuget: "restore with lock files",
  unity: "open the project in the editor once",
};
