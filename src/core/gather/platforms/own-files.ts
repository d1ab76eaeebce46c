import type { AppKind } from "../../model/app.js";

/** Folders of tests, of mocks and of shown parts, in the spellings of all languages. */
const TEST_FOLDER =
  /(^|\/)(tests?|__tests__|__mocks__|__fixtures__|e2e|\w+Tests|\w+UITests|integration_test|test_driver|\.storybook|\.maestro|\.detox|cypress)(\/|$)/i;

/**
 * Source sets of tests. A flavour may have a name with "test" in it (`latest`), a source set of tests begins with the word or is one of
 * Kotlin Multiplatform. Source: developer.android.com, "Configure build variants", "Source sets"; kotlinlang.org, "Test your multiplatform app".
 */
const TEST_SOURCE_SET =
  /(^|\/)src\/((test|androidTest|testFixtures)([A-Z]\w*)?|(common|android|androidUnit|androidInstrumented|ios|iosX64|iosArm64|iosSimulatorArm64|native|apple|js|jvm)Test|sharedTest)(\/|$)/;

/** Files of tests and of shown parts beside the code. */
const TEST_FILE =
  /[._-](test|tests|spec|stories|story|e2e|mock|fixture)\.[cm]?[jt]sx?$|_test\.dart$|(^|\/)(jest|vitest)[.-]?\w*\.[cm]?[jt]sx?$/i;

/** Settings of tools that are written as code: they run when the app is built, and are no part of it. */
const TOOL_FILE =
  /(^|\/)\.?(babel|metro|webpack|rspack|rollup|vite|jest|vitest|eslint|eslintrc|prettier|prettierrc|commitlint|lint-staged|react-native|capacitor|tailwind|postcss|detox|playwright|cypress|stryker|release|gulpfile|gruntfile|karma)([.-][\w.-]*)?\.[cm]?[jt]sx?$/i;

/**
 * Whether a source file is for tests or for tools alone, and never in the finished app.
 * @param path relative to the app's folder
 */
export function isAside(path: string, kind: AppKind): boolean {
  if (TEST_SOURCE_SET.test(path) || TEST_FILE.test(path)) return true;
  const folder = path.slice(0, Math.max(0, path.lastIndexOf("/")));
  // Below a root of sources the folders are packages, whose names are free.
  if (TEST_FOLDER.test(folder.replace(/(^|\/)(java|kotlin|src(?=\/(com|org|net)\/))\/.*$/, ""))) return true;
  switch (kind) {
    case "unity":
      // Source: docs.unity3d.com, "Special folder names": Editor.
      return /(^|\/)Editor(\/|$)/.test(folder);
    case "dotnet":
      // Source: learn.microsoft.com, "Target multiple platforms from .NET MAUI single project".
      return (
        /(^|\/)(bin|obj|Platforms\/(Windows|MacCatalyst|MacOS|tvOS|Tizen))(\/|$)/.test(folder) ||
        /\.(windows|maccatalyst|tizen)\.cs$/i.test(path)
      );
    case "flutter":
      return /^(tool|test|integration_test|test_driver)(\/|$)/.test(folder);
    case "react-native":
    case "expo":
    case "cordova":
    case "capacitor":
      return /^(scripts|tools?|hooks|ci|\.\w[\w-]*)(\/|$)/.test(folder) || TOOL_FILE.test(path);
    default:
      return false;
  }
}
