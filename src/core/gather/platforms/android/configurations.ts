import { sourceSetOf, variantOfConfiguration } from "../../../knowledge/source-sets.js";
import { isForDevelopment } from "../../../model/app.js";

export function isTestScope(configuration: string): boolean {
  return (
    sourceSetOf(configuration)?.endsWith("Test") === true ||
    // A variant may have the word in its name: latestImplementation is no configuration of tests.
    /^(test|androidTest|\w*(AndroidTest|UnitTest))|(?<![a-z])Test(?=[A-Z]|$)/.test(configuration) ||
    /^(test|androidTest)/i.test(configuration) ||
    /^(lint|ktlint|detekt|kapt|ksp|annotationProcessor|coreLibraryDesugaring|compileOnly|debugCompileOnly)/i.test(configuration)
  );
}

/** Whether a configuration has no part in what is shipped. */
export function isApart(configuration: string): boolean {
  return isTestScope(configuration) || isForDevelopment(variantOfConfiguration(configuration).variant);
}
