import { exactVersion } from "../../core/derive/presence.js";
import { ofRelease } from "../../core/model/app.js";
import { PackageURL } from "packageurl-js";
import type { Side, Survey } from "../../core/model/app.js";
import type { Dependency } from "../../core/model/facts.js";
import { reasonText } from "../../core/model/reason.js";
import { textOf } from "../../core/model/value.js";
import { packageIdentity } from "../../core/model/sdk-id.js";
import { valueFields } from "./documents.js";
import type { SurveyDocument, SdkDocument, SideDocument } from "./types.js";

/** `survey --json`. */
export function surveyDocument(survey: Survey): SurveyDocument {
  return {
    schema: "enredo.survey/1",
    root: survey.root,
    apps: survey.apps.map((app) => ({
      name: app.name,
      kind: app.kind,
      path: app.path || ".",
      sides: {
        ...(app.android ? { android: sideDocument(app.android) } : {}),
        ...(app.ios ? { ios: sideDocument(app.ios) } : {}),
        ...(app.shared
          ? {
              shared: {
                framework: {
                  ...app.shared.framework,
                  declared: textOf(app.shared.framework.declared) ?? null,
                  installed: app.shared.framework.installed ?? null,
                },
              },
            }
          : {}),
      },
      sdks: app.dependencies.map(dependencyDocument),
      repositories: app.repositories.map(({ kind, url, for: purpose, at }) => ({ kind, ...valueFields(url), for: purpose, places: [at] })),
      buildPlugins: app.buildPlugins.map(({ id, version, applied, module, at }) => ({
        id,
        version: textOf(version) ?? null,
        applied,
        module,
        places: [at],
      })),
      blindSpots: app.blindSpots.map(({ side, what, why, places }) => ({ side, what, why: reasonText(why), places })),
    })),
    passedOver: survey.passedOver.map(({ file, why }) => ({ file, why: reasonText(why) })),
    unreadable: survey.unreadable.map(({ file, message, place }) => ({ file, message, places: [place] })),
  };
}

function sideDocument(side: Side): SideDocument {
  const first = ofRelease(side.ids);
  return {
    id: textOf(first?.value) ?? null,
    ids: side.ids.map(({ value, variant }) => ({ ...valueFields(value), variant: variant ?? null, places: [value.place] })),
    folder: side.folder || ".",
    levels: Object.fromEntries(
      Object.entries(side.effective).map(([level, value]) => [level, { ...valueFields(value), places: [value.place] }]),
    ),
  };
}

function dependencyDocument(dependency: Dependency): SdkDocument {
  return {
    sdk: dependency.sdk,
    side: dependency.side,
    purl: purlOf(dependency),
    name: dependency.name,
    ecosystem: dependency.ecosystem,
    declared: textOf(dependency.declared) ?? null,
    ...(dependency.declared && dependency.declared.kind !== "known" ? { why: valueFields(dependency.declared).why } : {}),
    locked: dependency.locked ?? null,
    route: dependency.route,
    scope: dependency.scope,
    in: dependency.in,
    direct: dependency.direct,
    test: dependency.test,
    ...(dependency.conditional ? { conditional: true } : {}),
    platform: dependency.platform,
    places: dependency.places,
  };
}

/** The package URL, with the locked version or else the exact declared one; `null` for a binary. */
export function purlOf(dependency: Dependency): string | null {
  const { ecosystem, name } = dependency;
  const version = exactVersion(dependency);
  const make = (type: string, namespace: string | undefined, plain: string, subpath?: string): string =>
    new PackageURL(type, namespace, plain, version, undefined, subpath).toString();
  try {
    switch (ecosystem) {
      case "maven": {
        const [group, artifact = ""] = name.split(":");
        return make("maven", group, artifact);
      }
      case "cocoapods": {
        const [root = "", ...subspec] = name.split("/");
        return make("cocoapods", undefined, root, subspec.join("/") || undefined);
      }
      case "pub":
        return make("pub", undefined, name);
      case "nuget":
        return make("nuget", undefined, name);
      case "cordova":
      case "npm": {
        const [scope, plain] = name.startsWith("@") ? name.split("/") : [undefined, name];
        return make("npm", scope, plain ?? name);
      }
      case "swiftpm":
      case "carthage": {
        const address = /^(?:\w+:\/\/)?(?:[^@/]+@)?([^:/]+)[:/](.*)$/.exec(name.replace(/\.git$/, ""));
        const path = (address?.[2] ?? "").split("/").filter(Boolean);
        path.pop();
        return version === undefined || !address ? null : make("swift", [address[1], ...path].join("/"), packageIdentity(name));
      }
      default:
        return null;
    }
  } catch {
    return null;
  }
}
