import type { RawFinding } from "../../model/finding.js";
import { isAbsolutePath } from "../../model/paths.js";
import { iosExample } from "../examples.js";
import { defineRule } from "../rule.js";

const podfile = (path: string): string => `platform :ios, '15.0'\ntarget 'Pilot' do\n  pod 'QuaymapSDK', :path => '${path}'\nend\n`;

export const outsideProject = defineRule({
  name: "source/outside-project",
  severity: "error",
  title: "A path that exists on one machine only",
  looksAt: "Local packages, binaries and search paths that are absolute, start in a home folder, or climb out of the repository.",
  why: "The build works for the person who wrote the path and for nobody else, including CI.",
  advice: "Put the files into the repository, or use a package, and give the path relative to the project.",
  examples: {
    reported: iosExample({}, { Podfile: podfile("/Users/skipper/Documents/QuaymapSDK") }),
    silent: iosExample(
      {},
      {
        Podfile: podfile("vendor/QuaymapSDK"),
        "vendor/QuaymapSDK/QuaymapSDK.podspec": "Pod::Spec.new do |s|\n  s.name = 'QuaymapSDK'\nend\n",
      },
    ),
  },
  check({ app, repository }) {
    const findings: RawFinding[] = [];
    for (const path of app.paths) {
      const absolute = isAbsolutePath(path.text);
      const above = path.resolved !== undefined && repository !== undefined && leaves(path.resolved, repository);
      if (!absolute && !above) continue;
      if (/^\/(Applications\/Xcode|System|Library\/Developer|usr\/lib)/.test(path.text)) continue;
      findings.push({
        side: path.side,
        message: `the ${path.kind} ${path.text} is ${absolute ? "on one machine only" : "outside the repository"}`,
        fix: "put it into the repository, or fetch it as a package, and use a path relative to the project",
        places: [path.at],
        subject: path.text,
      });
    }
    return findings;
  },
});

/** `../..` climbs higher than the repository's root, which lies `..` above. */
function leaves(resolved: string, repository: string): boolean {
  const climbs = (path: string): number => path.split("/").filter((part) => part === "..").length;
  return climbs(resolved) > climbs(repository);
}
